"""A vehicle's own steps in speed: told where a reading has passed one, and where the next will come."""

from __future__ import annotations

from dataclasses import replace

import pytest

from limpet.evidence.model import Entry, Gauge, Instruments, StepDown
from limpet.under_way import WayAhead, advise
from tests.core.under_way.test_follow import riding

PERCENT = Instruments(gauge=Gauge(kind="percent", steps=100))


def stepping(*rules: StepDown, gauge: float | None = None, volts: float | None = None, km=24.0):
    test = riding(km, instruments=PERCENT)
    *before, last = test.entries
    read = replace(last, gauge=gauge, voltage_load_v=volts)
    vehicle = replace(test.sheet.vehicle, step_down=rules)
    return replace(test, sheet=replace(test.sheet, vehicle=vehicle), entries=(*before, read))


def notices(test, until_km=34.0):
    ahead = WayAhead(onward="given", from_m=20_000.0, until_m=until_km * 1000)
    return advise(test, ahead=ahead)


def told(advice, code):
    return next((item for item in advice.following.warnings if item.code == code), None)


BY_GAUGE = StepDown(gauge=0.2, max_speed_mps=4.0)
BY_VOLTS = StepDown(below_v=44.0, max_speed_mps=3.0)


def test_a_reading_past_a_step_is_the_line():
    found = notices(stepping(BY_GAUGE, gauge=20.0))
    assert found.matter.code == "speed_step"
    assert told(found, "at_a_step").values == {"what": "20% of its gauge", "speed_mps": 4.0}
    assert told(notices(stepping(BY_GAUGE, gauge=21.0)), "at_a_step") is None
    volts = notices(stepping(BY_VOLTS, volts=43.9))
    assert told(volts, "at_a_step").values["what"] == "44 V under load"
    assert told(notices(stepping(BY_VOLTS, volts=44.1)), "at_a_step") is None


def test_of_two_steps_that_are_passed_the_slower_holds():
    found = notices(stepping(BY_GAUGE, BY_VOLTS, gauge=10.0, volts=42.0))
    assert told(found, "at_a_step").values["speed_mps"] == 3.0


def test_a_charge_takes_a_step_back():
    test = stepping(BY_GAUGE, gauge=15.0)
    last = test.entries[-1]
    charged = Entry(time_s=last.time_s + 60, kind="event", what="charged", energy_wh=None)
    after = replace(test, entries=(*test.entries, charged))
    assert told(notices(after), "at_a_step") is None


def test_a_step_that_will_come_is_told_with_its_place_and_chance():
    far = told(notices(stepping(BY_GAUGE, gauge=55.0), until_km=40.0), "step_ahead")
    assert far.values["speed_mps"] == 4.0
    assert 24_000 < far.values["at_m"] < 45_000
    assert 0.2 <= far.values["chance"] <= 1.0
    # The further the way, the likelier; the higher the step, the sooner.
    near = told(notices(stepping(BY_GAUGE, gauge=55.0), until_km=36.0), "step_ahead")
    assert near is None or near.values["chance"] < far.values["chance"]
    high = told(
        notices(stepping(StepDown(gauge=0.4, max_speed_mps=4.0), gauge=55.0), until_km=40.0),
        "step_ahead",
    )
    assert high.values["at_m"] < far.values["at_m"]
    # With the pack hardly used on the way, none is spoken of.
    assert (
        told(notices(stepping(BY_GAUGE, gauge=97.0, km=4.0), until_km=21.0), "step_ahead") is None
    )


def test_a_step_by_volts_comes_where_the_loaded_volts_fall_to_it():
    at = [
        told(
            notices(stepping(StepDown(below_v=v, max_speed_mps=4.0), gauge=55.0), until_km=44.0),
            "step_ahead",
        )
        for v in (46.5, 44.0)
    ]
    assert at[0].values["at_m"] < at[1].values["at_m"]
    assert at[0].values["what"] == "46.5 V under load"


def test_without_a_table_of_steps_nothing_is_said_of_one():
    found = notices(stepping(gauge=5.0))
    assert told(found, "at_a_step") is None
    assert told(found, "step_ahead") is None
    assert found.matter.code != "speed_step"


def test_a_device_has_the_steps_on_the_scale_of_what_its_rider_reads():
    test = stepping(BY_GAUGE, StepDown(below_v=44.0, max_speed_mps=3.0), gauge=55.0)
    by_gauge, by_volts = notices(test).table().to_json()["steps"]
    share = BY_GAUGE.gauge or 0.0
    assert by_gauge == {
        "name": "gauge", "at": pytest.approx(100 * share), "what": f"{100 * share:.0f}% of its gauge",
        "speed_mps": BY_GAUGE.max_speed_mps,
    }  # fmt: skip
    assert (by_volts["name"], by_volts["at"]) == ("voltage_load_v", 44.0)
    assert notices(stepping(gauge=55.0)).table().steps == ()
