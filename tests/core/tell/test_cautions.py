"""When Limpet warns, and that it says what to do."""

import polars as pl
import pytest

from limpet.evidence.model import Conditions, Entry, VehicleSpec
from limpet.pack import PackSpec
from limpet.quantity import Quantity
from limpet.tell import cautions
from tests.strategies import PACK, range_test

LFP = PackSpec(chemistry="lfp", series=16, rated_ah=20.0)


def found(notices):
    return [notice.code for notice in notices]


@pytest.mark.parametrize(
    ("pack", "volts", "warned"),
    # Handbook section 8: floors of 2.8 V layered oxide and 2.5 V LFP, loaded (common practice).
    [
        (PACK, 2.79 * 13, True),
        (PACK, 2.81 * 13, False),
        (LFP, 2.49 * 16, True),
        (LFP, 2.51 * 16, False),
    ],
)
def test_a_cell_under_its_floor_is_a_stop_now(pack, volts, warned):
    test = range_test(Entry(time_s=9, kind="checkpoint", voltage_load_v=volts), pack=pack)
    assert ("cell_below_floor" in found(cautions.stop_now(test))) is warned


def test_the_lowest_cell_is_heard_even_when_the_pack_looks_fine():
    frame = pl.DataFrame(
        {"time_s": [0.0, 1.0, 2.0], "voltage_v": [50.0] * 3, "cell_min_v": [3.3, 2.6, 3.3]}
    )
    notices = cautions.stop_now(range_test(samples=frame))
    assert "a cell was at 2.60 V under load" in notices[0].message
    assert "qualified person" in notices[0].message


def test_a_lowest_cell_that_was_noted_by_hand_is_heard_too():
    noted = Entry(time_s=9, kind="checkpoint", voltage_load_v=50.0, cell_min_v=2.61)
    (notice,) = cautions.stop_now(range_test(noted))
    assert notice.code == "cell_below_floor"
    assert notice.values["cell_v"] == 2.61


def test_the_plausible_span_is_said_from_low_to_high():
    asked = cautions.implausible(range_test(), Quantity.of(500.0, "Wh/mi", 1.0))
    values = asked[0].values
    # 15 to 35 Wh/mi for a bicycle (handbook section 8); 1 mi = 1.609344 km.
    assert values["low_wh_per_km"] == pytest.approx(15 / 1.609344)
    assert values["high_wh_per_km"] == pytest.approx(35 / 1.609344)
    assert values["wh_per_km"] == pytest.approx(500 / 1.609344)


def test_a_hot_pack_is_a_stop_now():
    test = range_test(Entry(time_s=9, kind="checkpoint", battery_temp_c=61.0))
    assert "the pack reached 61 °C" in cautions.stop_now(test)[0].message
    assert (
        cautions.stop_now(range_test(Entry(time_s=9, kind="checkpoint", battery_temp_c=59.0))) == []
    )


def test_frost_forbids_charging_lithium_but_not_lead():
    frost = Conditions(temp_end_c=-2.0)
    lead = PackSpec(chemistry="lead_acid_agm", series=18, rated_ah=12.0)
    assert found(cautions.stop_now(range_test(conditions=frost))) == ["cold_charge"]
    assert cautions.stop_now(range_test(conditions=frost, pack=lead)) == []


@pytest.mark.parametrize(
    ("kind", "value", "asked"),
    [("moped", 50, False), ("moped", 500, True), ("bicycle", 2, True), ("other", 999, False)],
)
def test_a_consumption_far_off_is_asked_about(kind, value, asked):
    test = range_test(vehicle=VehicleSpec(kind=kind))
    assert bool(cautions.implausible(test, Quantity.of(value, "Wh/mi"))) is asked
