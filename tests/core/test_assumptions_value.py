"""Assumptions are an argument: an answer depends on nothing that was set around it."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import pytest

import limpet
from limpet.assumptions import RESERVE, RIDER_KG, Assumptions, as_assumed
from limpet.errors import LimpetError
from limpet.files.read import read_bundle
from limpet.state.priors import NOTHING
from limpet.tell import analyse

RIDE = "docs/examples/ride"
TRIP = "docs/examples/trip.json"


def reserve_of(**given):
    result = limpet.analyse(RIDE, **given)
    return result.range_to_reserve.value / result.range_to_cutoff.value


def test_what_is_assumed_around_a_call_of_the_library_is_not_seen():
    usual = reserve_of()
    with as_assumed(lambda: {"reserve": (0.6, 0.0)}):
        assert RESERVE.value == 0.6
        assert reserve_of() == usual
        assert reserve_of(assumptions={"reserve": 0.5}) < usual
        assert RESERVE.value == 0.6
    assert RESERVE.value == RESERVE.default


def test_the_core_takes_a_value_or_what_is_assumed_around_it():
    test = read_bundle(Path(RIDE))
    half = Assumptions.of({"reserve": 0.5})
    given = analyse(test, NOTHING, half).range_to_reserve
    with half.hold():
        around = analyse(test).range_to_reserve
        standard = analyse(test, NOTHING, Assumptions()).range_to_reserve
    assert given == around
    assert standard == analyse(test).range_to_reserve
    assert standard > given


def test_every_door_takes_it():
    usual = limpet.forecast(TRIP).route.arrives_probability
    thin = {"air_pressure_pa": 60_000.0}
    assert limpet.forecast(TRIP, assumptions=thin).route.arrives_probability != usual
    light = limpet.follow(RIDE, until_s=1200).to_json()
    assert limpet.follow(RIDE, until_s=1200, assumptions={"label": (1.3, 0.0)}).to_json() != light
    both = limpet.compare([RIDE], [RIDE]).to_json()
    assert (
        limpet.compare([RIDE], [RIDE], assumptions={"run_carried": (1.0, 0.08)}).to_json() != both
    )


def test_two_threads_do_not_see_each_others():
    with ThreadPoolExecutor(2) as threads:
        given = [{"reserve": share} for share in (0.1, 0.5) * 2]
        found = list(threads.map(lambda one: reserve_of(assumptions=one), given))
    assert found[0] == found[2] > found[1] == found[3]


def test_a_number_alone_keeps_its_spread_and_a_pair_changes_it():
    with Assumptions.of({"rider_mass_kg": 64}).hold():
        assert RIDER_KG.spread == (64.0, RIDER_KG.default_std)
    with Assumptions.of({"rider_mass_kg": (64, 2)}).hold():
        assert RIDER_KG.spread == (64.0, 2.0)


@pytest.mark.parametrize(
    ("changes", "words"),
    [
        ({"rider_weight": 64}, "nothing named 'rider_weight' is assumed; there is rider_mass_kg,"),
        ({"rider_mass_kg": 6400}, "rider_mass_kg: value is 6400, takes 7.8 to 780 kg"),
        (
            {"air_pressure_pa": 200_000},
            "air_pressure_pa: value is 200000, takes 50000 to 110000 Pa",
        ),
        ({"rider_mass_kg": (64, -1)}, "rider_mass_kg: std is -1, takes 0 to 39 kg"),
    ],
)
def test_what_cannot_be_assumed_is_refused_in_a_sentence(changes, words):
    with pytest.raises(LimpetError, match=words.replace("(", r"\(")):
        limpet.analyse(RIDE, assumptions=changes)


def test_equal_assumptions_are_one_value_whatever_their_order():
    one = Assumptions.of({"reserve": 0.3, "gear_kg": 4})
    assert one == Assumptions.of({"gear_kg": 4, "reserve": 0.3})
    assert len({one, Assumptions.of({"gear_kg": 4, "reserve": 0.3}), Assumptions()}) == 2
