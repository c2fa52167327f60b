"""A pack's own curve: told by a metered ride of its own, and used for the rides that have volts alone."""

from __future__ import annotations

import json
from dataclasses import asdict, replace

import numpy as np
import pytest

from limpet.evidence.model import Ending
from limpet.history import facts_from_json, facts_of, learn, learn_from
from limpet.history.learn import CURVE_FLOOR
from limpet.pack import curve_family
from limpet.pack.family import GRID, PUBLISHED
from limpet.tell import analyse
from tests.core.history.test_learn import entry
from tests.strategies import PACK, accuracies, range_test

FAMILY = curve_family("nmc")
#: A cell of the family's edge: its first number is at one and a half of its u, the second at minus one.
NUMBERS = np.zeros(FAMILY.modes)
NUMBERS[:2] = 1.5, -1.0
VOLTS = FAMILY.volts[0] + NUMBERS @ FAMILY.volts[1:]
AH = 14.0
PACK_E = replace(PACK, name="Eider-7", rated_ah=14.0)


def rest_v(left: float) -> float:
    return round(13 * float(np.interp(left, GRID, VOLTS)), 1)


def noted(title, parts, *, meter=True, to_end=False, pack=PACK_E):
    """A ride that stops to read volts at shares of the pack, 30 km of which are all of it."""
    entries = []
    for k, used in enumerate(parts):
        kind = "start" if k == 0 else "end" if k == len(parts) - 1 else "settle"
        reads = {"trip_m": 30_000.0 * used, "voltage_rest_v": rest_v(1 - used)}
        if meter:
            reads["charge_ah"] = round(AH * used, 2)
        entries.append(entry(7200.0 * used, kind, **reads))
    test = range_test(
        *entries, pack=pack, instruments=accuracies(charge=0.5, trip=0.5, voltage=0.2),
        ending=Ending(reason="cutoff") if to_end else None,
    )  # fmt: skip
    return replace(test, sheet=replace(test.sheet, title=title))


TEACHER = noted("Whole pack", np.linspace(0, 0.95, 14))


def facts(test):
    return facts_of(test, analyse(test))


def test_a_family_about_a_packs_own_numbers_holds_its_curve_and_is_as_wide_as_they_are():
    """Mean and covariance of volts drawn from it, by the rule for a linear map of normal numbers."""
    covariance = 0.04 * np.eye(FAMILY.modes) + 0.02
    own = FAMILY.narrowed(NUMBERS, covariance, "a ride")
    rng = np.random.default_rng(5)
    drawn = own.drawn(rng.standard_normal((own.modes, 20_000)))
    z = np.full((1, 20_000), 0.55)
    at = np.array([np.interp(0.55, GRID, row) for row in FAMILY.volts])
    volts = drawn.voltage(z)[0]
    assert volts.mean() == pytest.approx(at[0] + NUMBERS @ at[1:], abs=2e-4)
    assert volts.std() == pytest.approx(np.sqrt(at[1:] @ covariance @ at[1:]), rel=0.03)
    energy = drawn.energy(z)[0]
    integral = np.array([np.interp(0.55, GRID, row) for row in FAMILY.integral])
    assert energy.mean() == pytest.approx(integral[0] + NUMBERS @ integral[1:], rel=1e-3)
    assert (FAMILY.source, own.source) == (PUBLISHED, "a ride")


def test_a_metered_ride_of_the_whole_pack_finds_its_curve():
    seen = facts(TEACHER).curve
    assert seen is not None
    mean, std = np.array(seen.mean), np.sqrt(np.diag(seen.covariance))
    assert std[0] < 0.6
    # Its numbers trade with each other: the volts that they make are what is found.
    inside = (GRID > 0.1) & (GRID < 0.95)
    found = (FAMILY.volts[0] + mean @ FAMILY.volts[1:])[inside]
    before = np.abs(FAMILY.volts[0][inside] - VOLTS[inside]).max()
    assert np.abs(found - VOLTS[inside]).max() < 0.4 * before


@pytest.mark.parametrize(
    "test",
    [
        noted("No energy meter", np.linspace(0, 0.95, 14), meter=False),
        noted("A little of it", np.linspace(0, 0.3, 14)),
    ],
    ids=lambda test: test.sheet.title,
)
def test_what_saw_no_curve_tells_none(test):
    assert facts(test).curve is None


def test_volts_alone_say_more_with_the_packs_own_curve():
    later = noted("Volts alone", [0.0, 0.2, 0.4, 0.55], meter=False)
    alone = analyse(later)
    priors = learn([TEACHER], later)
    assert priors.curve is not None
    assert priors.tell
    with_curve = analyse(later, replace(priors, learned={}))
    truth = 30_000.0
    for result in (alone, with_curve):
        assert result.range_to_cutoff.low < truth < result.range_to_cutoff.high
    width = [(r.range_to_cutoff.high - r.range_to_cutoff.low) / truth for r in (alone, with_curve)]
    assert width[1] < 0.85 * width[0]
    assert (
        abs(with_curve.range_to_cutoff.value / truth - 1)
        < abs(alone.range_to_cutoff.value / truth - 1) + 0.02
    )
    notes = [item.note for item in with_curve.energy_methods if item.method == "rest_voltage"]
    assert "this pack’s own, learned: Whole pack" in notes[0]


def test_a_result_that_was_taught_a_curve_tells_it_to_nobody():
    priors = learn([TEACHER], TEACHER_AGAIN)
    assert analyse(TEACHER_AGAIN, priors).curve is None
    assert analyse(TEACHER_AGAIN).curve is not None


TEACHER_AGAIN = noted("Whole pack again", np.linspace(0, 0.9, 12))


def test_the_ride_that_saw_most_teaches_and_a_cell_moves_a_little():
    whole, less = facts(TEACHER), facts(noted("Half of it", np.linspace(0, 0.6, 8)))
    key = whole.pack
    told = learn_from([less, whole, replace(less, title="again")], None, key).curve
    assert told.test == "Whole pack"
    grown = np.array(told.covariance) - np.array(whole.curve.covariance)
    assert grown == pytest.approx(CURVE_FLOOR**2 * np.eye(FAMILY.modes))
    assert learn_from([whole], None, "another pack").curve is None


def test_a_curve_of_another_chemistry_or_family_is_left_aside():
    told = learn_from([facts(TEACHER)], None, facts(TEACHER).pack).curve
    assert told.of(FAMILY, "lfp") is FAMILY
    lfp = curve_family("lfp")
    assert told.of(lfp, "nmc") is lfp
    assert told.of(FAMILY, "nmc").source == "learned: Whole pack"


def test_what_was_seen_of_a_curve_survives_being_kept():
    kept = facts(TEACHER)
    assert facts_from_json(json.loads(json.dumps(asdict(kept)))) == kept
    # What 0.3 kept knew of none.
    old = {k: v for k, v in asdict(kept).items() if k not in ("curve", "chemistry", "speed_logged")}
    assert facts_from_json(json.loads(json.dumps(old))).curve is None
