"""What is taken of a ride that nobody has judged yet, for a device that begins without a signal.

`python -m tools.make_start_values` writes the draws that the page ships with: what such a vehicle takes,
what such a pack gives, what its volts and a gauge show. `tests/core/under_way/test_start_values.py` says
when the core has moved away from them.
"""

from __future__ import annotations

import json
from dataclasses import asdict
from pathlib import Path
from typing import Any, get_args

import numpy as np
from numpy.typing import NDArray

from limpet.assumptions import SAID_FULL, UNKNOWN_PACK
from limpet.evidence.model import (
    Entry,
    Gauge,
    Instruments,
    RangeTest,
    Start,
    TestSheet,
    VehicleSpec,
)
from limpet.pack import CHEMISTRIES, Chemistry, PackSpec, full_energy_wh
from limpet.road import VehicleKind
from limpet.state.remaining import SHOWN_STD
from limpet.state.uncertain_inputs import CAME_OF_SHOWN, JUST_CHARGED_STD, LEAST_UNSAID
from limpet.uncertain.normal import normal_quantile
from limpet.under_way import WayAhead, advise
from limpet.under_way.offline_table import FollowTable

FILE = Path(__file__).resolve().parents[1] / "web/src/roadside/start-values.json"
RIDES = FILE.with_name("start-rides.json")
#: Draws of the device: half of a table's own, for a wide answer needs no more.
DRAWS = 100
#: The pack of all kinds; what is told of it is told per cell and per watt-hour.
SERIES, RATED_AH = 13, 14.0
#: Digits of a share or of volts of a cell.
DIGITS = 3

FloatArray = NDArray[np.float64]


def begun(kind: VehicleKind, chemistry: Chemistry) -> RangeTest:
    """A ride before its first reading, of a vehicle and a pack of which only the kind is known."""
    return RangeTest(
        sheet=TestSheet(
            title="A ride",
            vehicle=VehicleSpec(kind=kind),
            pack=PackSpec(chemistry=chemistry, series=SERIES, rated_ah=RATED_AH),
            instruments=Instruments(gauge=Gauge(kind="percent", steps=100)),
        )
    )


def rows_of(values: FloatArray) -> FloatArray:
    """`DRAWS` of a table's draws, evenly; the last axis is theirs."""
    count = values.shape[-1]
    rows = np.linspace(0, count - 1, DRAWS).round().astype(int)
    return values[..., rows]


def few(values: FloatArray, digits: int = DIGITS) -> Any:
    """As lists of numbers with no more digits than they are worth."""
    return np.round(values, digits).tolist()


def of_kind(table: FollowTable) -> dict[str, Any]:
    """What a kind of vehicle takes: the columns of its table that its pack has no part in."""
    return {
        "speeds_mps": few(np.array(table.speeds_mps), 2),
        "slower": few(table.slower),
        "places_m": few(table.places_m, 0),
        "per_m": few(rows_of(table.per_m), 5),
        "takes_wh": few(rows_of(table.takes_wh), 1),
        "rest_wh": few(rows_of(table.rest_wh), 1),
        "home_wh": few(rows_of(table.home_wh if table.home_wh is not None else table.rest_wh), 1),
        "step_std": table.step_std,
        "height_m": round(table.height_m, 1),
        "climb_wh": round(table.climb_wh, 5),
    }


def of_pack(table: FollowTable, chemistry: Chemistry) -> dict[str, Any]:
    """What a kind of cells gives of its label, and its volts a cell over what is left."""
    pack = begun("bicycle", chemistry).sheet.pack
    shown = {sight.name: sight for sight in table.sights}
    return {
        "mean_v": round(full_energy_wh(pack) / (SERIES * RATED_AH), 3),
        "usable": few(rows_of(table.usable_wh) / full_energy_wh(pack)),
        "left": list(shown["voltage_rest_v"].to_json()["left"]),
        "volts": {
            name: {
                "shown": few(rows_of(shown[name].shown) / SERIES),
                "std": round(shown[name].std / SERIES, 4),
            }
            for name in ("voltage_rest_v", "voltage_load_v")
        },
    }


def content() -> dict[str, Any]:
    """All of it."""
    kinds = {kind: advise(begun(kind, "nmc")).table() for kind in get_args(VehicleKind)}
    packs = {cell: advise(begun("bicycle", cell)).table() for cell in CHEMISTRIES}
    usual = packs["nmc"]
    sights = {sight.name: sight for sight in usual.sights}
    share = rows_of(usual.left_wh / usual.usable_wh)
    # Where a draw lies among all that a start may be, and how far below full it is when it was full [u].
    unsaid = np.clip((share - LEAST_UNSAID) / (1 - LEAST_UNSAID), 0.001, 0.999)
    below = normal_quantile(1 - unsaid / 2)
    return {
        "start": {
            "unsaid": few(unsaid),
            "below_full": few(below),
            "least_unsaid": LEAST_UNSAID,
            "said_full_std": SAID_FULL.std,
            "just_charged_std": JUST_CHARGED_STD,
        },
        "unknown_pack": few(_lognormal(1.0, UNKNOWN_PACK.std, seed=11)),
        "reserve": usual.reserve,
        "wanted": usual.wanted,
        "gauge": {
            "left": list(sights["gauge"].to_json()["left"]),
            "shown": few(rows_of(sights["gauge"].shown), 1),
            "std": round(sights["gauge"].std, 2),
        },
        "came_of_shown": few(_lognormal(*CAME_OF_SHOWN, seed=13)),
        "shown_std": SHOWN_STD,
        "kinds": {kind: of_kind(table) for kind, table in kinds.items()},
        "packs": {cell: of_pack(table, cell) for cell, table in packs.items()},
    }


def _lognormal(middle: float, std: float, seed: int) -> FloatArray:
    """Draws evenly over all chances, in an order that goes with no other column."""
    chances = (np.random.default_rng(seed).permutation(DRAWS) + 0.5) / DRAWS
    return middle * np.exp(np.log1p((std / middle) ** 2) ** 0.5 * normal_quantile(chances))


def said(kind: VehicleKind, pack: PackSpec | None, charge: str) -> dict[str, Any]:
    """What was chosen before such a ride, as the page keeps it."""
    return {
        "vehicle_name": "",
        "kind": kind,
        "chemistry": "nmc" if pack is None else pack.chemistry,
        "series": None if pack is None else pack.series,
        "rated_ah": None if pack is None else pack.rated_ah,
        "rated_wh": None,
        "charge": charge,
        "packs": 1,
        "packs_use": None,
        "reserve": 0.2,
        "lap_length_m": None,
    }


def rides() -> dict[str, Any]:
    """Rides begun without a signal, and what the core says of each after all of its entries."""
    bicycle = PackSpec(chemistry="nmc", series=13, rated_ah=14.0)
    scooter = PackSpec(chemistry="nmc", series=10, rated_ah=10.0)
    moped = PackSpec(chemistry="lfp", series=20, rated_ah=30.0)
    full = Start(full=True, just_charged=True)
    percent = Instruments(gauge=Gauge(kind="percent", steps=100))
    cases: dict[str, tuple[VehicleKind, PackSpec | None, Start | None, list[Entry], float]] = {
        "a bicycle, nothing read": ("bicycle", bicycle, full, [_at(0), _at(8)], 10.0),
        "a bicycle, volts": (
            "bicycle", bicycle, full,
            [_at(0, voltage_rest_v=54.2), _at(8, voltage_rest_v=51.2), _at(14, voltage_rest_v=49.4)], 8.0,
        ),
        "a scooter of which nobody knows whether it is full, percent": (
            "kick_scooter", scooter, None, [_at(0, gauge=88), _at(5, gauge=71), _at(9, gauge=55)], 6.0,
        ),
        "a moped, not full, volts": (
            "moped", moped, Start(full=False), [_at(0, voltage_rest_v=66.0), _at(12, voltage_rest_v=65.2)], 15.0,
        ),
        "a pack that nobody described, its display": (
            "bicycle", None, full, [_at(0), _at(6, shown_range_m=30_000.0)], 12.0,
        ),
    }  # fmt: skip
    return {
        name: _ride(kind, pack, start, tuple(entries), further, percent)
        for name, (kind, pack, start, entries, further) in cases.items()
    }


def _ride(
    kind: VehicleKind,
    pack: PackSpec | None,
    start: Start | None,
    entries: tuple[Entry, ...],
    further_km: float,
    percent: Instruments,
) -> dict[str, Any]:
    reads_gauge = any(entry.gauge is not None for entry in entries)
    sheet = TestSheet(
        title="A ride",
        vehicle=VehicleSpec(kind=kind),
        pack=pack
        or PackSpec(chemistry="nmc", series=13, rated_ah=10.0, taken=("series", "rated_ah")),
        instruments=percent if reads_gauge else None,
        start=start,
    )
    here_m = entries[-1].trip_m or 0.0
    ahead = WayAhead(onward="given", from_m=here_m, until_m=here_m + 1000 * further_km)
    following = advise(RangeTest(sheet=sheet, entries=entries), ahead=ahead).following
    way = following.way
    assert way is not None
    charge = "" if start is None else "just_charged" if start.full else "not_full"
    return {
        "said": said(kind, pack, charge),
        "gauge_steps": 100 if reads_gauge else None,
        "entries": [
            {name: value for name, value in asdict(entry).items() if value is not None}
            for entry in entries
        ],
        "further_m": 1000 * further_km,
        "reaches": way.reaches_probability,
        "left": asdict(following.energy_left_fraction),
    }


def _at(
    km: float,
    *,
    voltage_rest_v: float | None = None,
    gauge: float | None = None,
    shown_range_m: float | None = None,
) -> Entry:
    """An entry at a place, at a bicycle's speed."""
    return Entry(
        time_s=km * 1000 / 5.6,
        kind="start" if km == 0 else "checkpoint",
        trip_m=km * 1000,
        voltage_rest_v=voltage_rest_v,
        gauge=gauge,
        shown_range_m=shown_range_m,
    )


def main() -> None:
    """Write both files."""
    FILE.write_text(json.dumps(content(), separators=(",", ":")) + "\n")
    RIDES.write_text(json.dumps(rides(), indent=1) + "\n")


if __name__ == "__main__":
    main()
