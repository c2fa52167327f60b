"""A consumption brought from one ride's conditions to another's, and what that does to results."""

from __future__ import annotations

from dataclasses import replace
from math import log

import pytest

from demo.skerrow import ROUNDS, _ride, ridden
from limpet.assumptions import HIDDEN_STANDING
from limpet.carry.start_values import START_VALUES
from limpet.history import facts_of, learn, learn_for
from limpet.history.alike import CARRYING, NO_SPEED, SAME_LIGHTS, SPEEDS_DIFFER, carried
from limpet.history.facts import Facts
from limpet.road import air_density
from limpet.tell import analyse

KIND, MASS = "kick_scooter", 16.0


def ride(**values) -> Facts:
    facts = facts_of(ridden("turnstone-claim"), analyse(ridden("turnstone-claim")))
    known = {"wh_per_km": (10.0, 0.3), "speed_mps": 5.0, "load_kg": 80.0, "temp_c": 15.0}
    known["speed_logged"] = True
    return replace(facts, **{**known, "surface": "smooth_paved", "climb_m_per_km": None, **values})


def by_hand(speed: float, load: float, crr: float) -> float:
    """(C_rr·m·g + ½·ρ·CdA·v²)/(3.6·η) + P_aux/(3.6·v), the closed form on the level [Wh/km]."""
    start, rho = START_VALUES[KIND], air_density(15.0, 101_325.0, 0.7)
    force = crr * (MASS + load) * 9.80665 + 0.5 * rho * start.cda_m2[0] * speed**2
    return force / 3.6 / start.drivetrain_efficiency[0] + start.aux_w[0] / 3.6 / speed


@pytest.mark.parametrize(
    ("here", "ratio"),
    [
        (ride(), 1.0),
        (ride(speed_mps=8.0), by_hand(8, 80, 0.016) / by_hand(5, 80, 0.016)),
        (ride(load_kg=100.0), by_hand(5, 100, 0.016) / by_hand(5, 80, 0.016)),
        (ride(surface="gravel"), by_hand(5, 80, 2.2 * 0.016) / by_hand(5, 80, 0.016)),
        # What one of the two does not tell changes nothing.
        (ride(surface=None), 1.0),
        (ride(load_kg=None), 1.0),
    ],
)
def test_a_consumption_goes_with_the_road_load(here, ratio):
    value, std = carried(ride(), here, KIND, MASS)
    assert value == pytest.approx(10 * ratio, rel=1e-6)
    # A quarter of what the carrying changed may be wrong.
    grown = (std / value) ** 2 - 0.03**2
    assert grown == pytest.approx((CARRYING * log(ratio)) ** 2, abs=1e-9)


@pytest.mark.parametrize(
    ("found", "here", "share_of_error"),
    [(True, False, 1.0), (False, True, 1.0), (False, False, SAME_LIGHTS)],
)
def test_of_speeds_that_hold_standing_what_is_apart_is_in_part_an_error(
    found, here, share_of_error
):
    """The speed that is carried to, by the formula for a noisy reading of a normal distribution."""
    over, std = HIDDEN_STANDING.spread
    error = share_of_error * std
    kept = SPEEDS_DIFFER**2 / (SPEEDS_DIFFER**2 + error**2)
    one = 5.0 if found else 5.0 * over
    two = 6.0 if here else 6.0 * over
    brought = one * (two / one) ** kept
    ratio = by_hand(brought, 80, 0.016) / by_hand(one, 80, 0.016)
    value, std = carried(
        ride(speed_logged=found), ride(speed_mps=6.0, speed_logged=here), KIND, MASS
    )
    assert value == pytest.approx(10 * ratio, rel=1e-6)
    more = by_hand(brought * (1 + kept**0.5 * error), 80, 0.016) / by_hand(one, 80, 0.016) / ratio
    grown = 0.03**2 + (CARRYING * log(ratio)) ** 2 + log(more) ** 2
    assert std / value == pytest.approx(grown**0.5, rel=1e-6)


def test_a_ride_that_was_logged_says_so_and_one_of_notes_does_not():
    logged, noted = ridden("sandpiper-lighthouse"), ridden("turnstone-claim")
    assert facts_of(logged, analyse(logged)).speed_logged
    assert not facts_of(noted, analyse(noted)).speed_logged


def test_there_and_back_nothing_is_gained():
    one, two = ride(), ride(speed_mps=7.5, load_kg=95.0, temp_c=-5.0, surface="wet_paved")
    there = carried(one, two, KIND, MASS)
    assert there is not None
    back, _ = carried(replace(two, wh_per_km=there), one, KIND, MASS)
    assert back == pytest.approx(10.0)


def test_without_a_speed_it_is_less_sure_and_without_a_figure_there_is_none():
    value, std = carried(ride(speed_mps=None), ride(), KIND, MASS)
    assert (value, std) == pytest.approx((10.0, 10 * (0.03**2 + NO_SPEED**2) ** 0.5))
    assert carried(ride(wh_per_km=None), ride(), KIND, MASS) is None


def test_a_gauge_is_less_sure_in_other_weather():
    facts = ride(inputs={"gauge_bend": (0.7, 0.06)}, temp_c=18.0)
    for temp, spread in ((18.0, 0.09), (8.0, 0.1166)):
        here = ride(temp_c=temp)
        found = learn_for(ridden("turnstone-claim"), here, [facts]).learned["gauge_bend"]
        # 0.09 is what a gauge differs by from ride to ride; ten degrees add 0.10 in quadrature.
        assert found.standard_uncertainty == pytest.approx(spread, rel=0.01)
    # Thirty degrees off it is no more than an assumption, and nothing is learned.
    assert (
        "gauge_bend"
        not in learn_for(ridden("turnstone-claim"), ride(temp_c=-12.0), [facts]).learned
    )


@pytest.mark.parametrize(
    ("slug", "taught_by"),
    [
        # On gravel with a parcel box first, then on a paved loop by volts alone.
        ("dunlin-quay-volts", ("dunlin-peat",)),
        # A summer's gauge, read in the frost.
        ("whimbrel-frost", ("whimbrel-lighthouse-cutoff",)),
        ("turnstone-bars", ("turnstone-quay-cutoff", "turnstone-claim")),
        ("sandpiper-worn-twin", ("sandpiper-quay-gentle", "sandpiper-lighthouse")),
    ],
)
def test_a_ride_that_was_taught_still_holds_the_truth_of_its_generator(slug, taught_by):
    number, item = next((k, item) for k, item in enumerate(ROUNDS) if item.slug == slug)
    whole, _ = _ride(replace(item, stop_at_m=None), 1000 + number)
    truth = float(whole.distance_m[-1])
    test = ridden(slug)
    alone = analyse(test).range_to_cutoff
    told = analyse(test, learn([ridden(name) for name in taught_by], test)).range_to_cutoff
    assert told.low < truth < told.high
    width = (told.high - told.low) / told.value, (alone.high - alone.low) / alone.value
    assert width[0] < 1.15 * width[1]


def test_a_climb_that_both_rides_noted_counts_by_what_does_not_come_back():
    start = START_VALUES[KIND]
    lost = 0.10 * 9.80665 * (MASS + 80) / start.drivetrain_efficiency[0] / 3600
    there = by_hand(5, 80, 0.016) + 25 * lost
    here = by_hand(5, 80, 0.016) + 5 * lost
    value, _ = carried(ride(climb_m_per_km=5.0), ride(climb_m_per_km=25.0), KIND, MASS)
    assert value == pytest.approx(10 * there / here, rel=1e-6)
