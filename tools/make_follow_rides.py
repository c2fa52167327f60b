"""Rides with their tables, and what `follow` says of the same rides a few entries later.

`python -m tools.make_follow_rides` writes what the page's own tests hold the device's interpolation
against; `tests/core/under_way/test_table.py` says when the core has moved away from it.
"""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import replace
from pathlib import Path
from typing import Any

from limpet.evidence.model import (
    Entry,
    Gauge,
    Instruments,
    LapInstrument,
    RangeTest,
    RiderSpec,
    TestSheet,
    VehicleSpec,
)
from limpet.pack import PackSpec
from limpet.under_way import WayAhead, advise

FILE = Path(__file__).resolve().parents[1] / "web/src/roadside/follow-rides.json"
PACK = PackSpec(chemistry="nmc", series=13, parallel=4, rated_ah=14.0, full_v=54.6, cutoff_v=39.0)
SPEED_MPS = 5.6


def sheet(**more: Any) -> TestSheet:
    """A delivery bicycle and its rider."""
    return TestSheet(
        title="A ride",
        vehicle=VehicleSpec(kind="bicycle", mass_kg=28.0),
        pack=PACK,
        rider=RiderSpec(mass_kg=78.0, gear_kg=5.0),
        **more,
    )


def entry(km: float, kind: Any = "checkpoint", **read: Any) -> Entry:
    """At a place, at the ride's own speed."""
    return Entry(time_s=km * 1000 / SPEED_MPS, kind=kind, trip_m=km * 1000, **read)


def rides() -> dict[str, tuple[RangeTest, tuple[Entry, ...], WayAhead | None]]:
    """So far, what is noted without signal, and the way as its rider said it."""
    bars = Instruments(gauge=Gauge(kind="percent", steps=100))
    laps = Instruments(lap=LapInstrument(length_m=2500.0))
    home = WayAhead(onward="given", from_m=12_000.0, until_m=26_000.0)
    met = (
        entry(0, "start", voltage_rest_v=54.4, charge_ah=0.0),
        entry(6, charge_ah=1.7),
        entry(12, charge_ah=3.5),
    )
    volts = (entry(0, "start", voltage_rest_v=54.4), entry(12, voltage_rest_v=50.6))
    shown = (entry(0, "start", gauge=100.0), entry(6, gauge=86.0), entry(12, gauge=71.0))
    return {
        "metered, so far still": (
            RangeTest(sheet=sheet(), entries=met),
            (entry(16, charge_ah=4.7), entry(19, charge_ah=5.7)),
            home,
        ),
        "metered, out and back": (
            RangeTest(sheet=sheet(), entries=met),
            (entry(14, charge_ah=4.1), entry(16, charge_ah=4.8)),
            None,
        ),
        "volts at stops": (
            RangeTest(sheet=sheet(), entries=volts),
            (entry(16, voltage_rest_v=49.2), entry(20, voltage_rest_v=47.6)),
            WayAhead(onward="given", from_m=12_000.0, until_m=28_000.0),
        ),
        "percent": (
            RangeTest(sheet=sheet(instruments=bars), entries=shown),
            (entry(17, gauge=57.0), entry(21, gauge=45.0)),
            WayAhead(onward="given", from_m=12_000.0, until_m=27_000.0),
        ),
        "laps, nothing else": (
            RangeTest(
                sheet=sheet(instruments=laps),
                entries=tuple(
                    replace(one, laps=(one.trip_m or 0.0) / 2500.0, trip_m=None)
                    for one in (entry(0, "start", voltage_rest_v=54.4), entry(10), entry(15))
                ),
            ),
            (replace(entry(17.5, "lap"), laps=7.0, trip_m=None),),
            None,
        ),
    }


def said(one: Entry) -> dict[str, Any]:
    """What an entry says, without what it does not."""
    names = (
        "time_s", "kind", "trip_m", "laps", "voltage_rest_v", "charge_ah", "gauge", "shown_range_m"
    )  # fmt: skip
    return {name: value for name in names if (value := getattr(one, name)) is not None}


def judged(test: RangeTest, ahead: WayAhead | None) -> dict[str, float | str | None]:
    """What the core says of a ride, as the device is held against it."""
    found = advise(test, ahead=ahead)
    way = found.following.way
    assert way is not None
    return {
        "code": found.matter.code,
        "arrives": round(way.arrives_probability, 3),
        "reaches": round(way.reaches_probability, 3),
        "left": round(found.following.energy_left_fraction.value, 4),
        "range_m": round(found.following.range_left_to_cutoff.value, 1),
        "turn_by_m": way.turn_by_m,
    }


def content() -> dict[str, Any]:
    """All rides, their tables and what the core says later."""
    found = {}
    for name, (test, later, ahead) in rides().items():
        table = advise(test, ahead=ahead).table()
        found[name] = {
            "table": table.to_json(),
            "now": judged(test, ahead),
            "later": steps(test, later, ahead),
        }
    return found


def steps(test: RangeTest, later: Sequence[Entry], ahead: WayAhead | None) -> list[dict[str, Any]]:
    """What the core says after each further entry."""
    return [
        {
            "entry": said(later[k]),
            "judged": judged(replace(test, entries=(*test.entries, *later[: k + 1])), ahead),
        }
        for k in range(len(later))
    ]


def main() -> None:
    FILE.write_text(json.dumps(content(), separators=(",", ":")) + "\n")


if __name__ == "__main__":
    main()
