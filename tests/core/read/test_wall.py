"""Energy by the meter at the wall: the charger's share of it, and only where the charge tells the ride."""

import pytest

from limpet.assumptions import CHARGER
from limpet.evidence.model import Entry, RangeTest
from limpet.files.sheet import sheet_adapter
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
