"""The least uncertain is used; the rest is judged against it."""

import math

import numpy as np
import pytest

from limpet.assumptions import INSTRUMENT_PCT
from limpet.evidence.model import Instrument, Instruments
from limpet.figures.methods import side_by_side
from limpet.quantity import Quantity
from limpet.read.accuracy import accuracy
from limpet.read.choose import least_uncertain, widened
from limpet.read.line import Estimate, Line
from limpet.tell.disagreements import disagreements
from limpet.words import METHODS
from tests.strategies import range_test


def estimate(method, value, std):
    line = Line(time_s=np.array([0.0, 1.0]), total=np.array([0.0, value]))
    return Estimate(method=method, quantity=Quantity.of(value, "Wh", std), line=line)


FOUND = [estimate("sampled", 400, 3), estimate("rest_voltage", 430, 40), estimate("rated", 600, 50)]


def test_the_smallest_relative_uncertainty_decides():
    assert least_uncertain(FOUND).method == "sampled"
    assert least_uncertain([]) is None
    small_but_poor = estimate("energy_counter", 4, 1)
    assert least_uncertain([small_but_poor, *FOUND]).method == "sampled"


def test_each_of_the_others_agrees_or_not():
    # E_n: |430 − 400| ≤ 2·√(3² + 40²); |600 − 400| > 2·√(3² + 50²).
    side = side_by_side(FOUND, FOUND[0])
    assert [(m.used, m.agrees) for m in side] == [(True, True), (False, True), (False, False)]


def test_a_disagreement_says_how_much_and_what_to_check():
    (notice,) = disagreements("energy", side_by_side(FOUND, FOUND[0]))
    assert notice.code == "energy_methods_disagree"
    assert "The label gives 50% more energy than the samples" in notice.message
    assert "Is the label right" in notice.message
    assert disagreements("energy", side_by_side(FOUND, None)) == []


def test_every_method_has_a_name():
    assert set(METHODS) >= {"sampled", "energy_counter", "charge_counter", "rest_voltage", "rated"}
    assert set(METHODS) >= {"laps", "gps", "trip", "odometer", "samples"}


@pytest.mark.parametrize("name", sorted(INSTRUMENT_PCT))
def test_an_accuracy_is_the_stated_one_or_an_assumed_one_that_says_so(name):
    found = accuracy(range_test(), name)
    assert found.relative_std == pytest.approx(INSTRUMENT_PCT[name].value / 100 / 3**0.5)
    assert found.assumed
    if name != "lap":
        stated = accuracy(
            range_test(instruments=Instruments(**{name: Instrument(accuracy_pct=0.3)})), name
        )
        assert stated.relative_std == pytest.approx(0.003 / 3**0.5)
        assert not stated.assumed


def test_what_is_used_becomes_as_uncertain_as_it_takes_to_hold_what_contradicts_it():
    used, near, far = FOUND
    assert widened(used, FOUND[:2]) is used
    found = widened(used, FOUND)
    # U = 2u reaches as far as the label lies away, beside its own 3 Wh.
    assert found.quantity.standard_uncertainty == pytest.approx(math.hypot(3, 200 / 2))
    assert found.other_std == pytest.approx(math.hypot(used.other_std, 100))
    assert found.quantity.value == used.quantity.value
    assert widened(None, FOUND) is None
    assert widened(near, [near]) is near
    assert far.quantity.value == 600
