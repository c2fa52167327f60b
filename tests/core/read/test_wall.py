"""Energy by the meter at the wall: the charger's share of it, and only where the charge tells the ride."""

from dataclasses import replace

import pytest

from limpet.assumptions import CHARGER
from limpet.evidence.model import Entry, RangeTest, WallInstrument
from limpet.files.sheet import sheet_adapter
from limpet.history.learn import learn
from limpet.tell import analyse


def ride(*more, start=None, **end):
    document = {
        "title": "x",
        "vehicle": {"kind": "kick_scooter"},
        "pack": {"chemistry": "nmc", "series": 13, "rated_ah": 14.0},
        "start": start or {"full": True},
        "ending": {"reason": "home"},
    }
    entries = (
        Entry(time_s=0, kind="start", trip_m=0, energy_wh=0.0 if "energy_wh" in end else None),
        Entry(time_s=3600, kind="end", trip_m=20_000, **end),
        Entry(time_s=9000, kind="settle", wall_wh=320.0),
    )
    return analyse(
        RangeTest(sheet=sheet_adapter().validate_python(document), entries=(*entries, *more))
    )


def test_a_ride_that_no_other_meter_saw_is_told_by_the_wall():
    found = ride()
    assert found.energy.value == pytest.approx(320 * CHARGER.value, rel=1e-6)
    # Handbook section 4: a charger passes on 0.84 to 0.92 of what it takes.
    assert 0.04 < (found.energy.high - found.energy.low) / 2 / found.energy.value < 0.08
    assert found.consumption.wh_per_km.value == pytest.approx(320 * CHARGER.value / 20, rel=1e-6)
    [used] = [method for method in found.energy_methods if method.used]
    assert used.method == "wall"


def test_a_meter_on_board_is_believed_first_and_the_wall_stands_beside_it():
    found = ride(energy_wh=285.0)
    methods = {method.method: method for method in found.energy_methods}
    assert methods["energy_counter"].used
    assert methods["wall"].agrees
    assert found.energy.value == pytest.approx(285.0)


@pytest.mark.parametrize("start", [{"full": False}, {"energy_fraction": 0.7}])
def test_a_charge_that_holds_more_than_the_ride_tells_nothing_of_it(start):
    assert all(method.method != "wall" for method in ride(start=start).energy_methods)


def test_nor_does_one_of_a_pack_that_was_charged_on_the_way():
    charged = Entry(time_s=1800, kind="event", what="charged", charged_wh=50.0)
    assert all(method.method != "wall" for method in ride(charged).energy_methods)


def named(title, **end):
    document = {
        "title": title,
        "vehicle": {"name": "Curlew", "kind": "kick_scooter"},
        "pack": {"name": "Dab-1", "chemistry": "nmc", "series": 13, "rated_ah": 14.0},
        "start": {"full": True},
        "instruments": {"energy": {"accuracy_pct": 1.0}},
        "ending": {"reason": "home"},
    }
    entries = (
        Entry(time_s=0, kind="start", trip_m=0, energy_wh=0.0 if "energy_wh" in end else None),
        Entry(time_s=3600, kind="end", trip_m=20_000, **end),
        Entry(time_s=9000, kind="settle", wall_wh=320.0),
    )
    return RangeTest(sheet=sheet_adapter().validate_python(document), entries=entries)


def test_a_charger_that_a_meter_on_board_was_held_against_is_known_from_then_on():
    metered, next_one = named("with a meter", energy_wh=272.0), named("by the wall alone")
    taught = learn([metered], next_one)
    # By hand: the ride took 272 Wh of the 320 Wh at the socket.
    assert taught.learned["wall"].value == pytest.approx(272 / 320, rel=1e-3)
    alone, found = analyse(next_one), analyse(next_one, taught)
    assert found.energy.value == pytest.approx(272.0, rel=1e-3)
    assert found.energy.relative < alone.energy.relative
    assert "the charger’s share" in " ".join(item.message for item in found.warnings)
    # What a test states itself stays.
    stated = sheet_adapter().validate_python(
        {**sheet_adapter().dump_python(next_one.sheet, mode="json", exclude_none=True),
         "instruments": {"wall": {"efficiency": 0.9}}}
    )  # fmt: skip
    said = RangeTest(sheet=stated, entries=next_one.entries)
    assert analyse(said, taught).energy.value == pytest.approx(288.0)


def test_a_charger_is_not_learned_of_another_pack_or_another_meter():
    other = named("with a meter", energy_wh=272.0)
    pack = replace(other.sheet.pack, name="Dab-2")
    of_other = replace(other, sheet=replace(other.sheet, pack=pack))
    assert "wall" not in learn([of_other], named("next")).learned
    tools = replace(other.sheet.instruments, wall=WallInstrument(name="the cellar’s"))
    elsewhere = replace(other, sheet=replace(other.sheet, instruments=tools))
    assert "wall" not in learn([elsewhere], named("next")).learned
