"""A ride under way: one reading is enough, more sharpen it, and the way home is judged by what was ridden."""

from __future__ import annotations

import json
from dataclasses import replace

import numpy as np
import polars as pl
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from limpet.assumptions import HIDDEN_STANDING
from limpet.cli import main
from limpet.evidence.model import (
    Conditions,
    Ending,
    Entry,
    Gauge,
    Instruments,
    LapInstrument,
    Protocol,
)
from limpet.files import write_folder
from limpet.history import learn
from limpet.road import Leg
from limpet.state.priors import Learned, Priors
from limpet.trip import RouteSpec, SpeedSpec
from limpet.under_way import WayAhead, advise, follow
from limpet.under_way.demand import course_of
from limpet.under_way.follow import riding as riding_now
from limpet.under_way.rate import Rate
from limpet.under_way.ways import with_hidden_standing
from tests.core.history.test_learn import metered
from tests.strategies import PACK, accuracies, range_test
from tests.trips import certain, routed, trip

#: 14 Ah at 48 V give about 40 km at 15 Wh/km; a reading every 4 km.
AH_PER_KM = 0.30


def entry(time_s, kind="checkpoint", **values):
    return Entry(time_s=time_s, kind=kind, **values)


def riding(km, *, ah_per_km=AH_PER_KM, every_km=4.0, **changes):
    """So far: amp-hours and a trip meter every few kilometres, at 5.6 m/s."""
    entries = [entry(0, "start", trip_m=0.0, charge_ah=0.0, voltage_rest_v=54.6)]
    for far in np.arange(every_km, km + 0.01, every_km).tolist():
        entries.append(
            entry(far * 1000 / 5.6, trip_m=far * 1000, charge_ah=round(far * ah_per_km, 2))
        )
    tools = accuracies(charge=1.0, trip=1.0)
    return range_test(*entries, **{"instruments": tools, **changes})


def half(quantity):
    return (quantity.high - quantity.low) / 2


@pytest.mark.parametrize(
    "reads",
    [
        {"gauge": 4.0},
        {"voltage_rest_v": 50.0},
        {"trip_m": 4000.0},
        {"voltage_load_v": 47.0, "trip_m": 9000.0},
        {},
    ],
)
def test_one_reading_is_enough(reads):
    tools = Instruments(gauge=Gauge(kind="bars", steps=5))
    answer = follow(range_test(entry(600, **reads), instruments=tools))
    assert 0 < answer.energy_left_fraction.value <= 1
    assert 3_000 < answer.range_left_to_cutoff.value < 120_000
    assert answer.range_left_to_reserve.value < answer.range_left_to_cutoff.value
    # A kind's start values are all there is: nobody is told more than that they hold.
    assert half(answer.range_left_to_cutoff) > 0.2 * answer.range_left_to_cutoff.value


def test_nothing_recorded_is_said_and_answered_from_what_is_assumed():
    answer = follow(range_test())
    assert [notice.code for notice in answer.warnings] == [
        "nothing_recorded",
        "no_charge_shown",
        "no_way_yet",
    ]
    assert answer.distance is None
    assert answer.way is None
    assert answer.energy_left_fraction.high > 0.95


def test_half_way_a_meter_tells_what_is_left():
    answer = follow(riding(20.0))
    # 6 of about 14 Ah are gone; the rest carries as far again and a little, at the same 0.3 Ah/km.
    assert answer.distance.value == pytest.approx(20_000)
    assert answer.energy_left_fraction.value == pytest.approx(1 - 6 / 13.3, abs=0.06)
    assert answer.range_left_to_cutoff.low < 24_000 < answer.range_left_to_cutoff.high
    assert answer.way.left_m == pytest.approx(20_000)


def test_every_reading_sharpens_the_answer():
    halves = [half(follow(riding(km)).range_left_to_cutoff) for km in (4.0, 12.0, 24.0)]
    assert halves[0] > halves[1] > halves[2]


def test_what_was_recorded_later_is_not_looked_at():
    whole = riding(36.0, ending=Ending(reason="cutoff"))
    at = 20_000 / 5.6
    early = follow(whole, until_s=at)
    assert early.to_json() == replace(follow(riding(20.0)), at_s=at).to_json()
    # Between readings the answer stays.
    later = follow(whole, until_s=at + 200)
    assert later.range_left_to_cutoff == early.range_left_to_cutoff
    assert later.at_s == at + 200


def test_samples_are_cut_at_the_moment_too():
    time = np.arange(0.0, 3600.0, 5.0)
    frame = pl.DataFrame(
        {
            "time_s": time,
            "voltage_v": 54.0 - time / 900,
            "current_a": 6.0 + 0 * time,
            "distance_m": 5.5 * time,
        }
    )
    whole = range_test(samples=frame)
    cut = range_test(samples=frame.filter(frame["time_s"] <= 1800))
    assert follow(whole, until_s=1800.0).to_json() == follow(cut, until_s=1800.0).to_json()


def test_a_ride_that_takes_more_than_its_kind_is_judged_by_itself():
    frugal, greedy = (follow(riding(16.0, ah_per_km=x)) for x in (0.2, 0.4))
    ratio = frugal.range_left_to_cutoff.value / greedy.range_left_to_cutoff.value
    # Left after 16 km: 13.4 − 3.2 and 13.4 − 6.4 Ah, at 0.2 and 0.4 Ah/km.
    assert ratio == pytest.approx((10.2 / 0.2) / (7.0 / 0.4), rel=0.10)


def test_too_far_out_there_is_no_turning_and_slower_goes_further():
    close, far = follow(riding(12.0)), follow(riding(28.0))
    assert close.way.arrives_probability > 0.97
    assert 12_000 < close.way.turn_by_m < 21_000
    assert close.way.slow_to is None
    assert far.way.arrives_probability < 0.5
    assert far.way.turn_by_m is None
    assert {"may_not_get_home"} & {notice.code for notice in far.warnings}
    middle = follow(riding(16.0))
    assert middle.way.slow_to.speed_mps < 5.6
    assert middle.way.slow_to.probability >= 0.95


def test_the_reserve_is_part_of_arriving_and_not_of_getting_there():
    kept = follow(riding(20.0, protocol=Protocol(reserve=0.3))).way
    spent = follow(riding(20.0, protocol=Protocol(reserve=0.0))).way
    assert kept.arrives_probability < spent.arrives_probability
    assert spent.arrives_probability == spent.reaches_probability == kept.reaches_probability


def test_the_way_home_down_the_hill_takes_less():
    def climbing(rise):
        time = np.arange(0.0, 3000.0, 5.0)
        frame = pl.DataFrame(
            {
                "time_s": time,
                "voltage_v": 53.0 - time / 800,
                "current_a": 7.0 + 0 * time,
                "distance_m": 5.0 * time,
                "altitude_m": 10.0 + rise * time / 3000,
            }
        )
        return follow(range_test(samples=frame, conditions=Conditions(wind_mps=0.0))).way

    level, below = climbing(0.0), climbing(150.0)
    assert below.energy_left_fraction.value > level.energy_left_fraction.value + 0.05
    # m·g·h/η of 122 kg over 150 m comes to some 63 Wh, twice: what the climb took, the way back does not.
    assert below.arrives_probability >= level.arrives_probability


def test_a_trip_says_what_way_is_left():
    what, route = routed(certain(route=RouteSpec(legs=(Leg(length_m=9000.0),), and_back=True)))
    out = follow(riding(4.0), what, route)
    assert out.way.left_m == pytest.approx(14_000)
    assert out.way.turn_by_m == pytest.approx(9000)
    back = follow(riding(12.0), what, route)
    assert back.way.left_m == pytest.approx(6000)
    assert back.way.turn_by_m is None
    assert back.way.energy_left_fraction.value < out.way.energy_left_fraction.value + 0.1
    done = follow(riding(20.0), what, route)
    assert done.way.left_m == 0.0
    assert done.way.reaches_probability == 1.0


def test_a_way_that_does_not_come_back_is_turned_on_by_its_own_reverse():
    what, route = routed(certain(route=RouteSpec(legs=(Leg(length_m=34_000.0),))))
    answer = follow(riding(8.0), what, route)
    assert answer.way.left_m == pytest.approx(26_000)
    # There and back of what the pack gives with a fifth kept.
    assert 12_000 < answer.way.turn_by_m < 20_000


def test_a_counted_lap_is_ridden_to_its_end():
    tools = Instruments(lap=LapInstrument(length_m=2500.0, accuracy_pct=0.5))
    entries = [entry(0, "start", laps=0.0, gauge=100.0), entry(1800, "lap", laps=4.0, gauge=80.0)]
    answer = follow(range_test(*entries, instruments=tools))
    assert answer.distance.value == pytest.approx(10_000)
    assert answer.way.left_m == pytest.approx(2500, abs=1)
    assert answer.way.turn_by_m is None


def test_what_like_rides_took_is_known_before_the_first_kilometre():
    past = [metered("a"), metered("b", seed=1)]
    begun = range_test(entry(0, "start", trip_m=0.0, voltage_rest_v=54.6))
    untaught, taught = follow(begun), follow(begun, priors=learn(past, begun))
    assert taught.range_left_to_cutoff.low < 30_000 < taught.range_left_to_cutoff.high
    assert half(taught.range_left_to_cutoff) < 0.5 * half(untaught.range_left_to_cutoff)
    sources = {item.name: item.source for item in taught.inputs}
    assert sources["known_consumption_wh_per_km"] == "2 tests: a, b"


def test_a_wheel_that_was_learned_is_set_right_under_way_too():
    learned = Priors(learned={"trip": Learned(value=1.06, standard_uncertainty=0.01, tests=("a",))})
    ride = riding(20.0)
    plain, right = follow(ride), follow(ride, priors=learned)
    assert right.distance.value == pytest.approx(plain.distance.value / 1.06)
    assert right.way.left_m == pytest.approx(plain.way.left_m / 1.06)


def test_what_the_way_out_climbed_unnoticed_the_way_back_gives():
    # Nobody noted heights: ±10 m at the far end are in the answer, and an answer that knows them is surer.
    def arriving(**noted):
        ride = riding(16.0, protocol=Protocol(reserve=0.0))
        last = replace(ride.entries[-1], **noted)
        return follow(replace(ride, entries=(*ride.entries[:-1], last))).way

    unknown, level = arriving(), arriving(ascent_m=60.0, descent_m=60.0)
    surer, wider = (way.energy_left_fraction.standard_uncertainty for way in (level, unknown))
    assert surer < wider


def test_every_key_of_the_format_is_there():
    made = json.loads(json.dumps(follow(riding(20.0)).to_json()))
    assert list(made) == [
        "limpet_follow", "at_s", "distance", "energy_left_fraction", "range_left_to_cutoff",
        "range_left_to_reserve", "reserve", "way", "enough", "inputs", "warnings",
    ]  # fmt: skip
    assert list(made["way"]) == [
        "left_m", "arrives_probability", "reaches_probability", "energy_left_fraction", "turn_by_m", "slow_to",
    ]  # fmt: skip
    assert made["enough"]["wanted"] == 0.05


def test_enough_comes_nearer_and_is_reached_where_the_range_was_measured():
    early, late = follow(riding(8.0)).enough, follow(riding(28.0)).enough
    assert late.relative_half_width < early.relative_half_width
    whole = follow(riding(40.0, ah_per_km=0.33, ending=Ending(reason="cutoff")))
    assert whole.enough.relative_half_width < 0.05
    assert whole.enough.at_distance_m == pytest.approx(40_000)
    assert whole.energy_left_fraction.value < 0.02


@settings(max_examples=15, deadline=None)
@given(
    st.lists(
        st.tuples(
            st.floats(0, 4000), st.sampled_from(["gauge", "voltage_rest_v", "trip_m", "charge_ah", "voltage_load_v"]),
            st.floats(0, 60),
        ),
        max_size=5,
    )
)  # fmt: skip
def test_any_readable_evidence_gives_an_answer(read):
    entries = [
        entry(
            at, **{name: value * (400 if name == "trip_m" else 0.2 if name == "charge_ah" else 1)}
        )
        for at, name, value in sorted(read)
    ]
    answer = follow(range_test(*entries))
    for quantity in (answer.energy_left_fraction, answer.range_left_to_cutoff):
        assert np.isfinite([quantity.low, quantity.value, quantity.high]).all()
        assert quantity.low <= quantity.value <= quantity.high
    if answer.way is not None:
        assert 0 <= answer.way.arrives_probability <= answer.way.reaches_probability <= 1


def test_what_the_road_and_the_ride_share_is_carried_and_what_they_do_not_is_not():
    rng = np.random.default_rng(2)
    common, own, other = rng.normal(0, 0.2, 400), rng.normal(0, 0.1, 400), rng.normal(0, 0.1, 400)
    modelled = np.log(0.012) + common + own
    need = 100 * np.exp(common + other)
    pairs = rng.permutation(400)
    rate = Rate(modelled, np.full(400, np.log(0.012) + 0.2), pairs, np.zeros(400))
    # Two normal variables: the regression's slope is 0.2²/(0.2² + 0.1²) (closed form).
    found = np.log(rate.carried(need) / 100)
    assert found.mean() == pytest.approx(0.8 * 0.2, abs=0.03)
    assert found.std() == pytest.approx(np.hypot(0.1, 0.2 * 0.1 / np.hypot(0.2, 0.1)), rel=0.12)


def test_a_course_comes_back_as_it_went():
    what, route = routed(
        certain(route=RouteSpec(legs=(Leg(length_m=5000.0, climb_m=40.0),), and_back=True))
    )
    course = course_of(what, route)
    whole = course.energy_wh(route.length_m)
    assert course.home_wh(5000.0) == pytest.approx(whole - course.energy_wh(5000.0))
    assert (course.home_wh(5000.0) < course.energy_wh(5000.0)).all()
    one_way = replace(what, route=RouteSpec(legs=what.route.legs))
    there = course_of(*routed(one_way))
    assert there.home_wh(5000.0) == pytest.approx(course.home_wh(5000.0), rel=0.02)
    assert there.home_wh(0.0) == pytest.approx(0.0)


def test_hills_that_are_spread_by_assumption_are_no_climb_of_the_first_metres():
    """Half a kilometre into a way of unknown hills the range was half of what it was at the start."""
    ahead = WayAhead(onward="given", from_m=0.0, until_m=60_000.0)
    start = entry(0, "start", voltage_rest_v=54.6)

    def per_m(*more):
        said = Protocol(target_speed_mps=5.6, speed_policy="fixed")
        test = range_test(start, *more, protocol=said)
        return float(np.median(riding_now(test, ahead=ahead).onward.now.per_m))

    # A display that shows 0.5 km has counted about 0.55.
    assert per_m(entry(98, trip_m=500.0)) == pytest.approx(per_m(), rel=0.04)
    assert per_m(entry(1130, trip_m=6330.0)) == pytest.approx(per_m(), rel=0.04)


def test_a_way_of_pieces_takes_the_same_from_metre_to_metre_of_each_and_as_much_on_the_whole():
    legs = tuple(Leg(length_m=1500.0, climb_m=20.0, descent_m=5.0) for _ in range(4))
    what, route = routed(certain(route=RouteSpec(legs=legs)))
    known, evenly = course_of(what, route), course_of(what, route, evenly=True)
    for end in (1500.0, 4500.0, 6000.0):
        assert evenly.energy_wh(end) == pytest.approx(known.energy_wh(end), rel=0.02)
    assert evenly.home_wh(6000.0) == pytest.approx(known.home_wh(6000.0), rel=0.02)
    thirds = [evenly.between_wh(m, m + 500.0) for m in (1500.0, 2000.0, 2500.0)]
    for third in thirds[1:]:
        assert third == pytest.approx(thirds[0])
    home = [evenly.home_wh(m + 500.0) - evenly.home_wh(m) for m in (1500.0, 2000.0)]
    assert home[0] == pytest.approx(home[1])


def test_who_came_by_the_said_speed_on_the_mean_has_not_stood_unnoticed():
    usual = HIDDEN_STANDING.value
    assert with_hidden_standing(5.0, None) == pytest.approx(5.0 * usual)
    assert with_hidden_standing(5.6, 5.6) == pytest.approx(5.6)
    assert with_hidden_standing(5.3, 5.6) == pytest.approx(5.6)
    # Further behind it, there was standing; beyond it, it was faster.
    assert with_hidden_standing(4.0, 5.6) == pytest.approx(4.0 * usual)
    assert with_hidden_standing(7.0, 5.6) == pytest.approx(7.0)


def test_slower_takes_less_of_the_way():
    course = course_of(*routed(trip(speed=SpeedSpec(policy="fixed", target_mps=8.0))))
    shares = course.at_speeds([3.0, 5.0, 8.0]).over(0.0, course.length_m)
    assert shares[0] < shares[1] < shares[2] == pytest.approx(1.0)


def test_what_slowing_saves_is_that_of_the_part_that_is_left():
    legs = (Leg(length_m=5000.0), Leg(length_m=5000.0, surface="grass"))
    course = course_of(
        *routed(trip(route=RouteSpec(legs=legs), speed=SpeedSpec(policy="fixed", target_mps=7.0)))
    )
    slow = course.at_speeds([4.0])
    paved, grass = slow.over(0.0, 5000.0)[0], slow.over(5000.0, 10_000.0)[0]
    # On grass nearly all goes into rolling, which is the same at any speed.
    assert grass > paved + 0.1


def test_the_speed_that_the_way_asks_for_is_among_what_could_be_done_and_in_the_table():
    test = riding(12.0)
    reach = advise(test).following.range_left_to_reserve.value
    found = advise(
        test, ahead=WayAhead(onward="given", from_m=12_000, until_m=12_000 + 0.9 * reach)
    )
    slow = found.following.way.slow_to
    assert slow is not None
    told = {choice.speed_mps: choice for choice in found.choices if choice.what == "slower"}
    assert told[slow.speed_mps].arrives_probability == pytest.approx(slow.probability, abs=0.04)
    takes = found.table().slower
    assert (takes[0] == 1.0).all()
    # Each further speed of the table is a slower one and takes less.
    assert (np.diff(takes, axis=0) < -0.02).all()


def test_the_command_says_it_in_words_and_as_json(tmp_path, capsys):
    test = riding(20.0, pack=replace(PACK, name="Eider-2"))
    write_folder(test, tmp_path / "ride")
    assert main(["follow", str(tmp_path / "ride"), "--json"]) == 0
    assert json.loads(capsys.readouterr().out) == follow(test).to_json()
    assert main(["follow", str(tmp_path / "ride"), "--until", "1500", "--units", "km"]) == 0
    text = capsys.readouterr().out
    assert "sure to ride the last 8.0 km and keep 20%" in text.splitlines()[0]
    assert "Turn by" in text
    for wrong in ("-5", "soon", "1e12"):
        with pytest.raises(SystemExit) as refused:
            main(["follow", str(tmp_path / "ride"), "--until", wrong])
        assert refused.value.code == 2
        assert "give seconds since the start" in capsys.readouterr().err
