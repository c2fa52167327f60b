"""What a rider would have of a ride: instruments drawn within what their makers state, and a kind
of evidence."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal, get_args

import numpy as np
import polars as pl

from limpet.evidence.model import (
    Conditions,
    Ending,
    Entry,
    Gauge,
    Instrument,
    Instruments,
    LapInstrument,
    RangeTest,
    RiderSpec,
    SampleSources,
    TestSheet,
    VehicleSpec,
)
from limpet.pack import PackSpec
from tests.calibration.cells import CellRide

Kind = Literal[
    "metered to the end",
    "metered in part",
    "counters and volts in part",
    "volts at every stop",
    "two volts",
    "volts while pulling",
    "percent",
    "bars",
    "laps and volts",
    "percent, map known",
]
KINDS: tuple[Kind, ...] = get_args(Kind)


#: A rider who notes the gauge alone, on a vehicle with an earlier ride that a meter and the gauge told.
LEARNED: Kind = "percent, map known"


@dataclass(frozen=True, slots=True, kw_only=True)
class Told:
    """A test as a rider has it, and what is true of it.

    Range and usable energy from full to where the drive stops; distance and energy of what the
    test covers; the pack's charge as ridden.
    """

    test: RangeTest
    distance_m: float
    energy_wh: float
    range_to_cutoff_m: float
    capacity_ah: float
    kind: Kind


def told(
    ride: CellRide, kind: Kind, rng: np.random.Generator, pack: PackSpec | None = None
) -> Told | None:
    """One rider's evidence of a ride; None where it has no pause to end a part of it at.

    Parameters
    ----------
    pack : what its label says and it is called; a pack of its own when None
    """
    series = int(rng.choice([12, 15, 16] if ride.chemistry == "lfp" else [10, 13, 14]))
    series = series if pack is None else pack.series
    end = int(np.searchsorted(ride.time_s, ride.end_s))
    nominal_ah = ride.needs_ah / series
    # A fresh pack gives 0 to 13% more than it says, warm and ridden gently (handbook section 18,
    # common practice); the rider's has lost up to 12% of it.
    fresh_ah = ride.fresh * nominal_ah / rng.uniform(0.88, 1.0)
    rated_ah = round(fresh_ah / (1 + rng.uniform(0, 0.13)), 1)
    whole = kind == "metered to the end"
    last = int(np.searchsorted(ride.time_s, ride.end_s))
    if not whole:
        # A part of the way ends where it stands long enough to read volts.
        pauses = [p for p in ride.pauses() if 0.3 < ride.charge[p[1]] / ride.charge[-1] < 0.85]
        if not pauses:
            return None
        last = pauses[int(rng.integers(len(pauses)))][1]
    gain = {name: 1 + rng.uniform(-a, a) for name, a in _ACCURACY.items()}
    volts = ride.volts * series * gain["voltage"]
    amps = ride.amps * nominal_ah * gain["current"]
    trip = ride.metres * gain["trip"]
    seen = slice(0, last + 1)
    lap_m = float(rng.uniform(800, 4000))
    entries = _entries(ride, kind, last, volts, amps, trip, gain, nominal_ah, lap_m, series)
    samples = None
    if kind.startswith("metered"):
        samples = pl.DataFrame(
            {
                "time_s": ride.time_s[seen],
                "voltage_v": np.round(volts[seen] + rng.normal(0, 0.02, last + 1), 2),
                "current_a": np.round(amps[seen], 2),
                "speed_mps": np.round(ride.speed[seen] * gain["trip"], 2),
                "distance_m": np.round(trip[seen], 1),
                "altitude_m": np.round(ride.altitude[seen], 1),
            }
        )
    sheet = TestSheet(
        title=f"{ride.parameters}, {kind}",
        vehicle=VehicleSpec(kind="bicycle", name="Fulmar", mass_kg=25.0),
        rider=RiderSpec(
            mass_kg=round((ride.mass_kg - 25.0) * rng.uniform(0.97, 1.03)), gear_kg=0.0
        ),
        pack=pack
        or PackSpec(
            chemistry=ride.chemistry,
            series=series,
            rated_ah=rated_ah,
            full_v=_sheet_full_v(ride, series, rng),
            cutoff_v=round(ride.cut_v * series, 1),
        ),
        conditions=Conditions(temp_start_c=ride.temp_c, temp_end_c=ride.temp_c),
        instruments=Instruments(
            voltage=Instrument(accuracy_pct=100 * _ACCURACY["voltage"]),
            current=Instrument(accuracy_pct=100 * _ACCURACY["current"]),
            charge=Instrument(accuracy_pct=100 * _ACCURACY["charge"]),
            trip=Instrument(accuracy_pct=100 * _ACCURACY["trip"]),
            lap=LapInstrument(length_m=lap_m, accuracy_pct=0.5),
            gauge=Gauge(kind="bars", steps=5)
            if kind == "bars"
            else Gauge(kind="percent", steps=100),
            samples=SampleSources(distance="trip"),
        ),
        ending=Ending(reason="cutoff" if whole else "home"),
    )
    pack_wh = series * nominal_ah
    return Told(
        test=RangeTest(sheet=sheet, samples=samples, entries=tuple(entries)),
        distance_m=float(ride.metres[last]),
        energy_wh=float(ride.energy[last]) * pack_wh,
        range_to_cutoff_m=float(ride.metres[end]),
        capacity_ah=float(ride.charge[end]) * nominal_ah,
        kind=kind,
    )


def teacher(
    ride: CellRide,
    rng: np.random.Generator,
    gauge: np.ndarray | None = None,
    pack: PackSpec | None = None,
) -> RangeTest:
    """An earlier ride of such a vehicle, metered to its end, with the gauge noted on the way.

    `gauge` is what it shows at each row; without it one that goes by volts. `pack` as for `told`.
    """
    item = told(ride, "metered to the end", rng, pack)
    assert item is not None
    pack = item.test.sheet.pack
    last = int(np.searchsorted(ride.time_s, ride.end_s))
    volts = ride.volts * pack.series
    gauge = shown_by_gauge(ride, volts, pack.series, 100) if gauge is None else gauge
    first, *_, end = item.test.entries
    rows = np.linspace(0, last, 12).astype(int)[1:-1]
    noted = [
        Entry(time_s=float(ride.time_s[at]), kind="checkpoint", gauge=float(gauge[at]))
        for at in rows.tolist()
    ]
    noted = [replace(first, gauge=100.0), *noted, replace(end, gauge=float(gauge[last]))]
    return replace(item.test, entries=tuple(noted))


def shown_by_gauge(ride: CellRide, volts: np.ndarray, series: int, steps: int) -> np.ndarray:
    """What a gauge that reads a minute's volts on a straight line shows, shape (n,)."""
    low, high = ride.cut_v * series, (ride.full_v - 0.03) * series
    # Before its first minute it shows what it began with.
    padded = np.pad(volts, 6, mode="edge")
    smooth = np.convolve(padded, np.full(12, 1 / 12), mode="same")[6:-6]
    shown = np.clip((smooth - low) / (high - low), 0, 1) * steps
    return np.round(shown) if steps == 100 else np.ceil(shown)


#: What a sheet says of a full cell [V]: of LFP what its charger ends at, by the label; nothing, one in three.
_LABEL_FULL_V = {"lfp": (3.65, 3.60, None), "nmc": (4.2, 4.2, None), "nca": (4.2, 4.2, None)}


def _sheet_full_v(ride: CellRide, series: int, rng: np.random.Generator) -> float | None:
    """Riders copy a label, or write nothing: nobody knows where the simulated cell was full."""
    said = _LABEL_FULL_V[ride.chemistry][int(rng.integers(3))]
    return None if said is None else round(said * series, 1)


#: Half-widths of what makers state.
_ACCURACY = {"voltage": 0.005, "current": 0.01, "charge": 0.015, "trip": 0.04}


def _entries(
    ride: CellRide,
    kind: Kind,
    last: int,
    volts: np.ndarray,
    amps: np.ndarray,
    trip: np.ndarray,
    gain: dict[str, float],
    nominal_ah: float,
    lap_m: float,
    series: int,
) -> list[Entry]:
    """What was written down: at the start, at pauses on the way, and at the end."""
    rows = [end for _, end in ride.pauses() if end < last]
    if kind in ("volts at every stop", "laps and volts"):
        # At traffic lights as well, as far as there is time to read.
        short = [end for _, end in ride.pauses(10.0) if end < last]
        rows = sorted(
            {*rows, *(short[k] for k in np.linspace(0, len(short) - 1, 6).astype(int))}
            if short
            else rows
        )
    if kind == "volts while pulling":
        moving = np.flatnonzero((ride.speed[:last] > 2) & (ride.amps[:last] > 0.1))
        rows = [
            int(moving[k]) for k in np.linspace(len(moving) // 8, len(moving) - 1, 7).astype(int)
        ]
    if kind in ("percent", "bars", LEARNED):
        rows = [int(k) for k in np.linspace(0, last, 8).astype(int)[1:-1]]
    if kind == "two volts" or kind.startswith("metered"):
        rows = []
    steps = 5 if kind == "bars" else 100
    shown = shown_by_gauge(ride, volts, series, steps)
    found = []
    for at in [0, *rows, last]:
        reads: dict[str, float] = {"trip_m": float(trip[at] // 100) * 100.0}  # a display truncates
        rest = ride.speed[at] < 0.1
        if kind in ("percent", "bars", LEARNED):
            reads["gauge"] = float(shown[at]) if at else float(steps)
        elif kind == "volts while pulling" and at not in (0, last):
            reads["voltage_load_v"] = round(float(volts[at]), 1)
            reads["current_a"] = round(float(amps[at]), 1)
        elif rest:
            reads["voltage_rest_v"] = round(float(volts[at]), 1)
        if kind == "counters and volts in part":
            reads["charge_ah"] = round(float(ride.charge[at]) * nominal_ah * gain["charge"], 2)
        if kind == "laps and volts":
            reads["laps"] = float(int(ride.metres[at] / lap_m))
            del reads["trip_m"]
        name = "start" if at == 0 else "end" if at == last else "checkpoint"
        found.append(Entry(time_s=float(ride.time_s[at]), kind=name, **reads))
    return found
