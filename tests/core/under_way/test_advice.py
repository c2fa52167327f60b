"""What a rider on the way is told: one line by rules that are data, its alternatives, what one more reading does."""

from __future__ import annotations

import re
from dataclasses import replace
from typing import get_args

import pytest

from limpet.evidence.model import Entry, Gauge, Instruments, LapInstrument, Protocol
from limpet.notices.lines import LINES
from limpet.readers import METRIC, ReaderUnits
from limpet.under_way import WayAhead, advise, follow
from limpet.under_way.matter import (
    READS,
    RULES,
    Code,
    Matter,
    Standing,
    code_at,
    facts_of,
    matter_at,
    values_of,
)
from tests.core.under_way.test_follow import entry, riding
from tests.strategies import range_test

CODES = get_args(Code)

MILES = ReaderUnits(distance="mi", mass="kg", temperature="°C", pressure="kPa")


def given(until_km: float, climb_m: float | None = None) -> WayAhead:
    return WayAhead(onward="given", from_m=20_000.0, until_m=until_km * 1000, climb_m=climb_m)


def standing(**changes) -> Standing:
    plain = {
        "arrives": 0.99, "reaches": 1.0, "wanted": 0.95, "reserve": 0.2, "left": 0.3, "left_m": 5000.0,
        "done_m": 8000.0,
    }  # fmt: skip
    return Standing(**{**plain, **changes})


@pytest.mark.parametrize(
    ("changes", "code"),
    [
        ({}, "home"),
        ({"half": 0.04}, "enough"),
        ({"left_m": 0.5}, "there"),
        ({"turn_until_m": 9000.0, "turn_by_m": 8500.0}, "turn_by"),
        ({"turn_until_m": 9000.0, "turn_by_m": 9000.0}, "home"),
        ({"turn_until_m": 9000.0}, "turn_now"),
        ({"turn_until_m": 9000.0, "reaches": 0.21, "arrives": 0.0}, "turn_now"),
        ({"turn_until_m": 9000.0, "reaches": 0.19, "arrives": 0.0}, "not_home"),
        # Past the turn it is too late to be told of it.
        ({"turn_until_m": 7000.0}, "home"),
        ({"arrives": 0.5, "slower": 0.97}, "slow_to"),
        # The ladder of words: every rung from its chance on (words.md).
        ({"arrives": 0.96, "reaches": 0.98}, "should"),
        ({"arrives": 0.5, "slower": 0.9}, "reserve"),
        ({"arrives": 0.5, "reaches": 0.95}, "reserve"),
        ({"arrives": 0.5, "reaches": 0.949}, "probably"),
        ({"arrives": 0.5, "reaches": 0.80}, "probably"),
        ({"arrives": 0.5, "reaches": 0.799}, "might_not"),
        ({"arrives": 0.1, "reaches": 0.50}, "might_not"),
        ({"arrives": 0.1, "reaches": 0.499}, "probably_not"),
        ({"arrives": 0.1, "reaches": 0.20}, "probably_not"),
        ({"arrives": 0.0, "reaches": 0.199}, "not_home"),
        # What the display shows is told first where it is less than what is to go.
        ({"shown_m": 4000.0}, "shown_short"),
        ({"shown_m": 4000.0, "turn_until_m": 9000.0}, "shown_short"),
        ({"shown_m": 6000.0}, "home"),
        ({"laps": (4, 0.6)}, "laps"),
        ({"laps": (4, 0.6), "half": 0.03}, "enough"),
        ({"laps": (4, 0.2), "arrives": 0.8}, "laps_reserve"),
        ({"laps": (4, 0.2), "arrives": 0.6, "reaches": 0.9}, "laps_short"),
    ],
)
def test_one_thing_matters_most(changes, code):
    assert code_at(standing(**changes)) == code


def test_the_rules_ask_only_what_there_is_and_the_last_always_holds():
    facts = facts_of(standing())
    for code, conditions in RULES:
        assert code in CODES
        for name, relation, other in conditions:
            assert name in facts
            assert relation in ("at_least", "under")
            assert isinstance(other, int | float) or other in facts
    assert RULES[-1][1] == ()


@pytest.mark.parametrize("code", CODES)
def test_every_line_says_its_values_in_the_readers_units(code):
    values: dict[str, float | str] = dict.fromkeys(values_of(code), 0.5)
    if "reads" in values:
        values["reads"] = READS["trip_m"]
    for units, other in ((METRIC, "mi"), (MILES, "km")):
        head, under = Matter(code=code, values=values).said(units)
        assert head
        assert under
        assert "{" not in head + under
        assert not re.search(rf"\d {other}\b", f"{head} {under}")
    written = LINES.texts[code] + LINES.texts[f"{code}_under"]
    assert values_of(code) == set(re.findall(r"\$(\w+)", written))


def test_a_line_carries_the_figures_of_its_standing():
    found = matter_at(standing(turn_until_m=9e9, turn_by_m=11_200.0))
    assert found.said(METRIC)[0] == "Turn back when you have ridden 11.2 km"
    assert found.values["to_go_m"] == pytest.approx(3200.0)
    slow = matter_at(standing(arrives=0.4, slower=0.95, slow=(17 / 3.6, 0.95)))
    assert slow.said(METRIC) == (
        "Slow to 17 km/h",
        "95% to get home with 20% left then; 40% as now",
    )
    lap = matter_at(standing(laps=(7, 0.6), arrives=0.98))
    assert lap.said(METRIC)[0] == "You can finish this lap; the next one: 60%"


def test_a_turn_is_told_as_the_riders_own_instrument_will_show_it():
    found = matter_at(
        standing(turn_until_m=9e9, turn_by_m=11_200.0, reads="trip_m", turn_shown_m=11_424.0)
    )
    assert found.said(METRIC)[0] == "Turn back when the trip meter reads 11.4 km"
    # The true distance from here stands second.
    assert found.said(METRIC)[1].startswith("3.2 km from here.")


def test_before_anything_is_read_the_volts_are_asked_for():
    assert advise(range_test()).matter.code == "read_volts"


def test_from_the_first_entry_on_there_is_an_answer():
    found = advise(range_test(entry(0, "start", voltage_rest_v=54.2)))
    assert found.matter.code == "range_left"
    assert found.choices == ()
    assert not found.table().leads


def test_a_cell_at_its_floor_comes_before_everything():
    low = range_test(entry(0, "start", trip_m=0.0), entry(900, trip_m=4000.0, cell_min_v=2.4))
    assert advise(low).matter.code == "stop_now"


def test_on_the_way_out_it_is_told_by_when_to_turn_and_after_the_turn_no_more():
    out = riding(10.0)
    before = advise(out)
    assert before.matter.code == "turn_by"
    turn_m = before.following.way.turn_by_m if before.following.way else None
    assert turn_m is not None
    assert 10_000 < turn_m < 20_000
    assert before.matter.values["turn_shown_m"] == pytest.approx(turn_m)
    at = out.entries[-1].time_s
    turned = replace(
        out,
        entries=(
            *out.entries,
            entry(at + 60, "turn", trip_m=10_000.0),
            entry(at + 700, trip_m=13_000.0, charge_ah=3.9),
        ),
    )
    after = advise(turned)
    assert after.following.way is not None
    assert after.following.way.turn_by_m is None
    # Back as it came: what is left is what was ridden out, less what was ridden back.
    assert after.following.way.left_m == pytest.approx(7000.0, abs=100)
    assert after.matter.code == "home"


def test_a_length_that_is_typed_is_the_way_and_its_climb_costs():
    flat = follow(riding(20.0), ahead=given(30.0, 0.0))
    steep = follow(riding(20.0), ahead=given(30.0, 250.0))
    assert flat.way is not None
    assert steep.way is not None
    assert flat.way.left_m == steep.way.left_m == pytest.approx(10_000.0)
    assert flat.way.turn_by_m is None
    # 250 m with some 110 kg are about 75 Wh at the wheel, an eighth of the pack.
    lost = flat.way.energy_left_fraction.value - steep.way.energy_left_fraction.value
    assert 0.08 < lost < 0.25


def test_as_the_way_is_ridden_less_of_it_is_left():
    later = follow(riding(24.0), ahead=given(30.0))
    assert later.way is not None
    assert later.way.left_m == pytest.approx(6000.0)


def test_on_laps_the_next_is_less_sure_than_this_one():
    loop = Instruments(lap=LapInstrument(length_m=2000.0, accuracy_pct=0.5))
    test = riding(30.0, instruments=loop)
    laps = replace(test, entries=tuple(replace(e, laps=e.trip_m / 2000) for e in test.entries))
    found = advise(laps)
    assert found.onward == "lap"
    this, following, third = (item for item in found.choices if item.what == "lap")
    assert (this.laps, following.laps, third.laps) == (15, 16, 17)
    assert this.arrives_probability > following.arrives_probability > third.arrives_probability
    assert found.matter.code in ("laps", "laps_reserve", "laps_short")
    # The rider's own word is the way, also on a lap.
    assert advise(laps, ahead=WayAhead(onward="back")).onward == "back"


def test_who_may_not_finish_a_lap_is_told_the_ways_out():
    loop = Instruments(lap=LapInstrument(length_m=5000.0))

    def lapping(km):
        test = riding(km, instruments=loop)
        entries = (replace(e, laps=e.trip_m / 5000, trip_m=None) for e in test.entries)
        return advise(replace(test, entries=tuple(entries)))

    easy, short = lapping(20.0), lapping(40.0)
    assert {choice.what for choice in easy.choices} == {"go_on", "lap"}
    assert short.matter.code == "laps_short"
    out = [choice.what for choice in short.choices]
    assert out[0] == "charge"
    assert out[-1] == "lift"
    assert {"slower", "go_on", "lap"} < set(out)
    # By their chance, and this lap before the next.
    chances = [choice.reaches_probability for choice in short.choices[:-1]]
    assert chances == sorted(chances, reverse=True)
    laps = [choice.laps for choice in short.choices if choice.what == "lap"]
    assert laps == sorted(laps)


def test_what_else_could_be_done_helps_or_is_not_told():
    found = advise(riding(24.0), ahead=given(44.0))
    by_what = {item.what: item for item in found.choices}
    plain = by_what["go_on"]
    assert plain.arrives_probability < 0.5
    slower = [item for item in found.choices if item.what == "slower"]
    assert slower
    assert all(item.reaches_probability > plain.reaches_probability for item in slower)
    # The slower, the likelier; and without a likely way home the likeliest stands first.
    speeds = [item.speed_mps for item in slower]
    assert speeds == sorted(speeds)
    charge = by_what["charge"]
    assert charge.arrives_probability == pytest.approx(0.95, abs=0.02)
    # At a fifth of the pack an hour: 14 Ah · 48 V · 0.2 = 134 W at the wall.
    assert charge.charge_wh / charge.charge_s * 3600 == pytest.approx(0.2 * 48 * 14, rel=0.1)


def carrying(packs: int, use: str, far_km: float = 44.0):
    test = riding(24.0)
    return advise(
        replace(test, sheet=replace(test.sheet, packs_used=packs, packs_use=use)),
        ahead=given(far_km),
    )


def test_the_pack_in_the_bag_is_a_way_out_and_not_counted_on():
    plain = advise(riding(24.0), ahead=given(44.0))
    found = carrying(2, "spare")
    assert "pack" not in {item.what for item in plain.choices}
    pack = next(item for item in found.choices if item.what == "pack")
    go_on = next(item for item in found.choices if item.what == "go_on")
    assert go_on.reaches_probability == pytest.approx(
        next(i for i in plain.choices if i.what == "go_on").reaches_probability, abs=0.03
    )
    # Some 42 km a pack: 20 more are within what is left and one more; 86 are not, and hardly of two more.
    assert pack.reaches_probability > 0.97
    assert found.table().in_bag == pytest.approx(1.0)
    far = next(i for i in carrying(2, "spare", 110.0).choices if i.what == "pack")
    assert far.reaches_probability < 0.2
    further = next(i for i in carrying(3, "spare", 110.0).choices if i.what == "pack")
    assert further.reaches_probability > far.reaches_probability + 0.3


def test_without_a_likely_way_home_the_ways_out_stand_by_their_chance_and_a_lift_last():
    found = carrying(2, "spare").choices
    assert found[-1].what == "lift"
    chances = [item.reaches_probability for item in found[:-1]]
    assert chances == sorted(chances, reverse=True)
    assert found[0].what in ("pack", "charge")
    # Where one likely gets home nothing is reshuffled, and nobody is sent for a lift.
    likely = advise(riding(24.0), ahead=given(32.0)).choices
    assert likely[0].what == "go_on"
    assert "lift" not in {item.what for item in likely}


def test_a_walk_is_told_where_it_brings_one_home_and_only_there():
    near = advise(riding(24.0), ahead=WayAhead(onward="given", from_m=24_000, until_m=38_500.0))
    walk = [item for item in near.choices if item.what == "walk"]
    assert walk
    assert 0 < walk[0].walk_m <= 3000
    assert walk[0].reaches_probability >= 0.95
    far = advise(riding(24.0), ahead=WayAhead(onward="given", from_m=24_000, until_m=70_000.0))
    assert not [item for item in far.choices if item.what == "walk"]


def test_one_more_reading_is_told_where_it_narrows_anything():
    percent = Instruments(gauge=Gauge(kind="percent", steps=100))
    blind = advise(
        range_test(entry(0, "start", trip_m=0.0), entry(2400, trip_m=12_000.0), instruments=percent)
    )
    names = [item.name for item in blind.more]
    assert set(names[:2]) == {"voltage_rest_v", "voltage_load_v"}
    assert "gauge" in names
    assert all(item.then < item.now for item in blind.more)
    # What a meter counted all along, volts add little to.
    metered = advise(riding(20.0))
    gain = {item.name: item.then / item.now for item in metered.more}
    assert gain.get("voltage_rest_v", 1.0) > blind.more[0].then / blind.more[0].now


def test_the_reserve_and_the_purpose_of_the_ride_decide():
    strict = advise(riding(20.0, protocol=Protocol(reserve=0.4)), ahead=given(32.0))
    loose = advise(riding(20.0, protocol=Protocol(reserve=0.05)), ahead=given(32.0))
    assert strict.choices[0].arrives_probability < loose.choices[0].arrives_probability
    assert strict.choices[0].reaches_probability == loose.choices[0].reaches_probability
    assert strict.following.reserve == 0.4


def test_an_entry_is_what_the_page_sends():
    """The names that a table's readings carry are those of an entry."""
    found = advise(riding(20.0)).table()
    assert found is not None
    fields = set(Entry.__dataclass_fields__)
    assert {sight.name for sight in found.sights} <= fields
    assert {base.name for base in found.bases} <= fields
