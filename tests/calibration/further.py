"""Rides of odd kinds with a known truth: with a charge on the way, over ten hours, on two packs in turn,
by laps that nobody measured, in steep hills that give much back; and how often readings that are all true are taken
to contradict each other.

The rides are those of `cells`, put together: a pack that was charged to full, and one that was swapped for its
like, begin again where the ride began.
"""

from __future__ import annotations

from dataclasses import replace
from typing import Literal, get_args

import numpy as np

from limpet.evidence.model import Entry, LapInstrument, Start
from limpet.figures.findings import find
from limpet.tell import analyse
from tests.calibration.cells import FOREIGN, CellRide, cell_rides, steep_rides
from tests.calibration.riders import KINDS, Kind, Told, told
from tests.calibration.table import Cell

Odd = Literal["charged on the way", "ten hours", "two packs in turn", "laps of unknown length"]
ODD: tuple[Odd, ...] = get_args(Odd)
#: What a rider notes of a ride that gives much back.
STEEP_KINDS: tuple[Kind, ...] = (
    "metered to the end", "metered in part", "volts at every stop", "percent",
)  # fmt: skip
NIGHT_S = 8 * 3600.0
SWAP_S = 300.0


def odd(ride: CellRide, kind: Odd, rng: np.random.Generator) -> Told | None:
    """A rider's test of an odd kind; None where the ride has no pause for it."""
    item = told(
        ride, "laps and volts" if kind == "laps of unknown length" else "volts at every stop", rng
    )
    if item is None:
        return None
    entries = item.test.entries
    sheet = replace(item.test.sheet, start=Start(full=True))
    if kind == "laps of unknown length":
        tools = replace(sheet.instruments, lap=LapInstrument())
        return replace(item, test=replace(item.test, sheet=replace(sheet, instruments=tools)))
    if kind == "ten hours":
        if len(entries) < 4:
            return None
        middle = len(entries) // 2
        # It stood there over the day: what is written down before it goes on is as it was.
        halt = replace(entries[middle], kind="settle")
        on = replace(halt, kind="resume", time_s=halt.time_s + NIGHT_S)
        later = [replace(entry, time_s=entry.time_s + NIGHT_S) for entry in entries[middle + 1 :]]
        test = replace(item.test, sheet=sheet, entries=(*entries[:middle], halt, on, *later))
        return replace(item, test=test)
    again = told(ride, "volts at every stop", rng, sheet.pack)
    if again is None:
        return None
    first = [*entries[:-1], replace(entries[-1], kind="settle")]
    if kind == "two packs in turn":
        end = int(np.searchsorted(ride.time_s, ride.end_s))
        at = first[-1]
        whole_trip = (
            at.trip_m * ride.metres[end] / item.distance_m if at.trip_m is not None else 0.0
        )
        first[-1] = replace(
            at, kind="swap", time_s=float(ride.end_s) + SWAP_S, trip_m=whole_trip // 100 * 100.0,
            voltage_rest_v=None,
        )  # fmt: skip
        sheet = replace(sheet, packs_used=2, packs_use="in_sequence")
        done_m = float(ride.metres[end])
    else:
        # Back to full, by a meter at the wall: of what it takes, 84 to 96% comes out again.
        end = int(np.searchsorted(ride.metres, item.distance_m))
        taken = float(ride.energy[end]) * ride.needs_ah / rng.uniform(0.84, 0.96)
        halt = first[-1]
        charged = {"voltage_rest_v": None, "charged_wh": round(taken, -1)}
        first.append(
            replace(halt, kind="event", what="charged", time_s=halt.time_s + 2 * 3600.0, **charged)
        )
        done_m = item.distance_m
    began = first[-1].time_s
    trip = first[-1].trip_m or 0.0
    second = [_on(entry, began, trip) for entry in again.test.entries]
    if kind == "two packs in turn":
        second = second[1:]
    test = replace(item.test, sheet=sheet, entries=(*first, *second))
    packs = 2 if kind == "two packs in turn" else 1
    return replace(
        item, test=test, distance_m=done_m + again.distance_m,
        range_to_cutoff_m=packs * item.range_to_cutoff_m,
    )  # fmt: skip


def _on(entry: Entry, began_s: float, trip_m: float) -> Entry:
    """An entry of the ride's second part."""
    kind = "resume" if entry.kind == "start" else entry.kind
    trip = None if entry.trip_m is None else entry.trip_m + trip_m
    return replace(entry, kind=kind, time_s=entry.time_s + began_s + 1.0, trip_m=trip)


def odd_table(every: int = 1) -> dict[Odd, Cell]:
    """How range to cut-off holds on rides of odd kinds."""
    found = {kind: Cell() for kind in ODD}
    for number, ride in enumerate(cell_rides()):
        if number % every or ride.parameters in FOREIGN:
            continue
        for kind in ODD:
            item = odd(ride, kind, np.random.default_rng([23, number, ODD.index(kind)]))
            if item is not None:
                found[kind].see(analyse(item.test).range_to_cutoff, item.range_to_cutoff_m)
    return found


def steep_table(every: int = 1) -> dict[str, Cell]:
    """How range to cut-off holds in steep hills where six tenths of the descent come back."""
    found: dict[str, Cell] = {f"strong regeneration, {kind}": Cell() for kind in STEEP_KINDS}
    for number, ride in enumerate(steep_rides()):
        if number % every:
            continue
        for kind in STEEP_KINDS:
            item = told(ride, kind, np.random.default_rng([29, number, KINDS.index(kind)]))
            if item is not None:
                cell = found[f"strong regeneration, {kind}"]
                cell.see(analyse(item.test).range_to_cutoff, item.range_to_cutoff_m)
    return found


def fits(every: int = 1) -> list[tuple[str, float, float]]:
    """Each rider's fit: kind and chemistry, Birge ratio, share of the draws that settled."""
    found = []
    for number, ride in enumerate(cell_rides()):
        if number % every or ride.parameters in FOREIGN:
            continue
        for kind in KINDS:
            item = told(ride, kind, np.random.default_rng([1, number, KINDS.index(kind), 0]))
            if item is not None:
                posterior = find(item.test).remaining.posterior
                share = posterior.effective / posterior.scores.shape[1]
                found.append((f"{kind}, {ride.chemistry}", posterior.birge, share))
    return found


def said(every: int = 1) -> str:
    """Both as lines."""
    lines = [f"{'ride':<42}{'n':>5}{'silent':>8}{'held':>7}{'bias':>8}{'± half':>9}"]
    for kind, cell in (*odd_table(every).items(), *steep_table(every).items()):
        told_of = len(cell.errors)
        figures = (
            f"{cell.coverage:>7.0%}{cell.bias:>+8.1%}{cell.half_width:>9.1%}" if told_of else ""
        )
        lines.append(f"{kind:<42}{told_of:>5}{cell.silent:>8}{figures}")
    rows = fits(every)
    birge = np.array([row[1] for row in rows])
    share = np.array([row[2] for row in rows])
    lines += [
        "",
        f"{len(rows)} fits of true readings: Birge over 1.5 in {(birge > 1.5).sum()}, over 3 in {(birge > 3).sum()}, "
        f"the largest {birge.max():.1f}; draws settled: fewest {share.min():.0%}, {np.median(share):.0%} in the "
        f"middle, under a tenth in {(share < 0.1).sum()}",
    ]
    return "\n".join(lines)
