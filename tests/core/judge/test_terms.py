"""What a comparison means in a rider's terms, by closed forms of the lognormal distribution."""

from __future__ import annotations

from dataclasses import replace
from math import exp, log, sqrt

import numpy as np
import pytest
from scipy import stats

from demo.skerrow import ridden
from limpet.assumptions import RESERVE
from limpet.judge.comparand import Figure, comparand_of
from limpet.judge.compare import compare
from limpet.judge.named_errors import DRAWS
from limpet.judge.terms import MOST_TRIPS, TripAsked, terms_of
from limpet.tell import analyse
from tests.core.judge.kit import place, seen

KM = 1000.0


def far(key, km, **more):
    figures = {"range_to_cutoff": Figure(value=km * KM, std=0.02 * km * KM)}
    return seen(key, figures=figures, **more)


@pytest.fixture
def no_clauses(monkeypatch):
    """The next ride in the same weather, on a pack that does not wear: by closed forms alone."""
    monkeypatch.setattr("limpet.judge.terms._clauses", lambda test, like, held: np.zeros(DRAWS))


#: From one run to the next on days alike.
LIKE = 0.69 * 0.08


def alike(name, length_km):
    """A trip that climbs as the tests did."""
    return TripAsked(name=name, length_m=length_km * KM, climb_m=6 * length_km)


def test_a_side_is_told_in_distance_and_hours_and_planned_on_to_the_reserve(no_clauses):
    terms = terms_of([far("a", 50)], [far("b", 30)])
    assert terms.first.range_m == pytest.approx(50 * KM, rel=0.001)
    assert terms.second.range_m == pytest.approx(30 * KM, rel=0.01)
    assert terms.first.hours == pytest.approx(50 * KM / 5.6 / 3600, rel=0.001)
    # A fifth kept, and one ride in twenty goes less far by 5.5%·√2 from run to run and 2% of the test.
    spread = sqrt(2 * LIKE**2 + 0.02**2)
    bound = 0.8 * 50 * KM * 2.718281828 ** (stats.norm.ppf(0.05) * spread)
    assert terms.first.plan_on_m == pytest.approx(bound, rel=0.02)


def test_the_floor_the_best_and_what_most_rides_reach(no_clauses):
    """Handbook section 12 with what is assumed for eight runs; Student's t by SciPy 1.17."""
    kms = [48.0, 52.0, 49.0, 51.0]
    terms = terms_of([far(f"a{k}", km) for k, km in enumerate(kms)], [far("b", 50)])
    own = 0.02**2
    squares = 3 * float(np.var(np.log(kms), ddof=1)) - 3 * own
    s = sqrt((8 * LIKE**2 + max(squares, 0)) / 11)
    middle = 50 * KM
    bound = stats.t.ppf(0.95, 11) * s * sqrt(1 + 1 / 4)
    assert terms.first.runs == 4
    assert terms.first.floor_m == pytest.approx(middle * exp(-bound), rel=0.02)
    assert terms.first.best_m == pytest.approx(middle * exp(bound), rel=0.02)
    assert terms.first.plan_on_m == pytest.approx(0.8 * terms.first.floor_m)
    k = stats.nct.ppf(0.95, 11, stats.norm.ppf(0.95) * 2) / 2
    assert terms.first.most_m == pytest.approx(middle * exp(-k * s), rel=0.02)
    assert terms.second.most_m is None


def test_in_laps_per_cent_and_at_the_socket():
    laps = (place(None, 2000.0, 20.0, laps=1.0), place(None, 8000.0, 80.0, laps=4.0))
    one, two = far("a", 50, places=laps), far("b", 30)
    terms = terms_of([one], [two], [alike("out", 10)])
    assert terms.lap_m == 2000.0
    assert terms.first.laps == pytest.approx(25, rel=0.001)
    assert terms.trips[0].first_share == pytest.approx(0.2, rel=0.01)
    assert terms.trips[0].second_share == pytest.approx(1 / 3, rel=0.02)
    assert terms.first.socket_wh_per_km is None

    def both(key, wh_per_km):
        found = seen(key, wh_per_km)
        return replace(found, figures={**found.figures, **one.figures})

    paid = terms_of([both("a", 10.0)], [both("b", 17.0)])
    # 0.88 of what is paid for arrives.
    assert paid.first.socket_wh_per_km == pytest.approx(10 / 0.88, rel=0.001)
    assert paid.second.cost_per_km == pytest.approx(0.017 / 0.88 * 0.30, rel=0.01)
    assert paid.first.laps is None


def test_both_are_told_at_the_conditions_of_the_first():
    calm, gale = far("a", 50), far("b", 50, wind_mps=9.0)
    terms = terms_of([calm], [gale])
    assert terms.first.range_m == pytest.approx(50 * KM, rel=0.001)
    assert terms.second.range_m > 60 * KM


@pytest.mark.parametrize("question", ["repeat", "load", "wind"])
def test_a_side_has_one_range_in_the_verdict_and_in_the_riders_terms(question):
    """What is asked about stays each side's own in both tables, or neither."""
    calm, laden = far("a", 50), far("b", 40, wind_mps=6.0, load_kg=110.0)
    calm, laden = (replace(one, purpose=None) for one in (calm, laden))
    answer = compare([calm], [laden], question)
    assert answer.quantity == "range_to_cutoff"
    carried_m = {run.side: run.carried.value for run in answer.runs}
    terms = terms_of([calm], [laden], question=answer.question)
    assert terms.first.range_m == pytest.approx(carried_m["first"], rel=1e-6)
    assert terms.second.range_m == pytest.approx(carried_m["second"], rel=1e-6)


def test_each_side_keeps_its_own_speed_where_that_is_asked():
    slow, fast = far("a", 50), far("b", 40, speed_mps=9.0)
    same = terms_of([slow], [fast]).second
    own = terms_of([slow], [fast], question="speed").second
    assert own.range_m == pytest.approx(40 * KM, rel=1e-3)
    assert same.range_m > 1.1 * own.range_m
    assert own.hours == pytest.approx(40 * KM / 9.0 / 3600, rel=1e-3)


def test_a_trips_own_hills_count_for_both_even_where_climb_is_asked():
    flat, hilly = far("a", 50), far("b", 50, climb_m_per_km=25.0)
    alpine = TripAsked(name="over", length_m=30 * KM, climb_m=900.0)
    made = terms_of([flat], [hilly], [alpine], question="climb").trips[0]
    assert made.first_share > made.second_share


def test_earlier_runs_teach_what_the_next_ride_keeps():
    wild = [seen(f"e{k}", 10 * (1 + 0.2 * (-1) ** k)) for k in range(8)]
    alone = terms_of([far("a", 50)], [far("b", 50)]).first
    taught = terms_of([far("a", 50)], [far("b", 50)], others=wild).first
    assert taught.floor_m < 0.95 * alone.floor_m


def test_repeats_are_surer_of_the_next_ride_than_a_single_run():
    one = terms_of([far("a", 50)], [far("b", 50)]).first.plan_on_m
    four = terms_of([far(f"a{k}", 50) for k in range(4)], [far("b", 50)]).first.plan_on_m
    assert four > one * 1.02


def test_trips_that_one_side_no_longer_makes_are_parted_from_those_both_make():
    trips = [alike("round", 10), alike("light", 28), alike("island", 60)]
    made = terms_of([far("a", 50)], [far("b", 30)], trips).trips
    assert [trip.name for trip in made] == ["island", "light", "round"]
    assert [trip.surely for trip in made] == ["neither", "first", "both"]
    island, light, round_ = made
    assert island.first_chance < 0.05
    spread = sqrt(2 * LIKE**2 + 0.02**2)
    assert light.first_chance == pytest.approx(stats.norm.sf(log(28 / 40) / spread), abs=0.02)
    assert light.second_chance == pytest.approx(stats.norm.sf(log(28 / 24) / spread), abs=0.03)
    assert round_.second_chance > 0.999


def test_a_trips_own_hills_and_speed_count():
    hilly = TripAsked(name="moor", length_m=35 * KM, climb_m=1400)
    fast = TripAsked(name="late", length_m=35 * KM, climb_m=210, speed_mps=9.0)
    made = {
        trip.name: trip.first_chance
        for trip in terms_of([far("a", 50)], [far("b", 50)], [alike("flat", 35), hilly, fast]).trips
    }
    assert made["moor"] < made["flat"] - 0.2
    assert made["late"] < made["flat"] - 0.2


def test_without_a_range_nothing_is_told_and_the_number_of_trips_has_a_bound():
    assert terms_of([seen("a")], [far("b", 30)]) is None
    many = [alike(str(k), 1 + k) for k in range(MOST_TRIPS + 5)]
    assert len(terms_of([far("a", 50)], [far("b", 30)], many).trips) == MOST_TRIPS
    assert terms_of([far("a", 50)], [far("b", 30)], [TripAsked(name="0", length_m=0.0)]).trips == ()


def test_many_tests_on_many_ways_tell_about_the_same_with_fewer_draws():
    ones, twos = ([far(f"{name}{k}", km) for k in range(8)] for name, km in (("a", 50), ("b", 40)))
    ways = [alike(f"{k}", 24 + 0.4 * k) for k in range(40)]
    all_at_once = {trip.name: trip for trip in terms_of(ones, twos, ways).trips}
    for way in ways[::8]:
        (alone,) = terms_of(ones, twos, [way]).trips
        assert all_at_once[way.name].second_chance == pytest.approx(alone.second_chance, abs=0.06)
    assert {trip.surely for trip in all_at_once.values()} >= {"both", "first"}


@pytest.mark.parametrize(
    "slug", ["turnstone-quay-cutoff", "whimbrel-lighthouse-cutoff", "whimbrel-frost"]
)
def test_what_a_comparison_says_to_plan_on_is_what_the_tests_own_page_says(slug):
    """Two ways of reckoning the same promise: the pack's own draws, and the comparison's."""
    test = ridden(slug)
    result = analyse(test)
    own = comparand_of(test, result, "own")
    told = terms_of([own], [far("b", 30)]).first.plan_on_m
    kept = (1 - RESERVE.value) / (1 - result.reserve)
    assert told == pytest.approx(kept * result.plan_on.distance_m, rel=0.025)


def test_other_weather_and_wear_take_from_the_floor_and_more_of_a_new_pack():
    floors = [
        terms_of([far("a", 50, temp_c=temp_c, cycles=cycles)], [far("b", 30)]).first.floor_m
        for temp_c, cycles in ((24.0, 0.0), (24.0, 300.0), (0.0, 300.0))
    ]
    without = 50 * KM * exp(stats.norm.ppf(0.05) * sqrt(2 * LIKE**2 + 0.02**2))
    new, used, cold = floors
    assert new < used < without
    # In the cold a degree takes more of a pack than in the warm.
    assert cold < used
