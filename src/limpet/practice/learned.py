"""How the five lessons went on a practice ride."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Final

import numpy as np

from limpet.evidence.model import Entry
from limpet.practice.lessons import LessonCode, State
from limpet.practice.practice_log import PracticeLog
from limpet.practice.quality import (
    DONE,
    HASTY_S,
    half_of,
    is_mistaken,
    range_of,
    readings,
    settled_v,
)
from limpet.quantity import Quantity

#: A last bar is noted within so far of where it came on [m].
AT_THE_STEP_M: Final = 1000.0
#: From so many entries on it is asked which of them were needed, and three of them must tell so much worse.
MANY, WORSE = 5, 1.25


@dataclass(frozen=True, slots=True, kw_only=True)
class Learned:
    """How a lesson went, and the values of its words."""

    code: LessonCode
    state: State
    values: Mapping[str, float]


def lessons_of(log: PracticeLog, found: Quantity | None) -> Iterator[Learned]:
    """The five lessons, in their order; `found` the range that the whole log tells."""
    yield _settle(log)
    yield _pulling(log)
    yield _half_way(log)
    yield _last_step(log)
    yield _enough(log, found)


def _settle(log: PracticeLog) -> Learned:
    on_the_way = [
        (entry, stood)
        for entry in log.entries
        if entry.voltage_rest_v is not None
        and (stood := log.stood_s(entry.time_s)) is not None
        and np.isfinite(stood)
    ]
    if not on_the_way:
        return Learned(code="settle", state="untried", values={})
    entry, waited = min(on_the_way, key=lambda pair: pair[1])
    values = {
        "at_m": log.place(entry.time_s).distance_m,
        "read_v": entry.voltage_rest_v or 0.0,
        "truly_v": settled_v(log, entry.time_s),
        "waited_s": waited,
    }
    return Learned(
        code="settle", state="missed" if waited < HASTY_S else "met", values=values
    )  # fmt: skip


def _pulling(log: PracticeLog) -> Learned:
    def values(time_s: float, read_v: float) -> Mapping[str, float]:
        at_m = log.place(time_s).distance_m
        return {"at_m": at_m, "read_v": read_v, "truly_v": settled_v(log, time_s)}

    for entry in log.entries:
        if is_mistaken(log, entry):
            said = values(entry.time_s, entry.voltage_rest_v or 0.0)
            return Learned(code="pulling", state="missed", values=said)
    for entry in log.entries:
        if entry.voltage_load_v is not None:
            said = values(entry.time_s, entry.voltage_load_v)
            return Learned(code="pulling", state="met", values=said)
    # Where it hung lowest under its own rest: what a glance there would have shown.
    half_s = log.entries[-1].time_s / 2
    return Learned(
        code="pulling", state="untried", values=values(half_s, log.place(half_s).voltage_v)
    )


def _half_way(log: PracticeLog) -> Learned:
    end = log.place(log.entries[-1].time_s)
    out_wh = end.used_wh if log.turn_s is None else log.ride.out.at(log.turn_s).used_wh
    out = out_wh / max(end.used_wh, 1e-9)
    state: State = "untried"
    if log.is_over:
        state = "met" if log.way.home else "missed"
    return Learned(code="half_way", state=state, values={"out": out, "home": 1 - out})


def _last_step(log: PracticeLog) -> Learned:
    came = _last_bar_s(log)
    if came is None:
        return Learned(code="last_step", state="untried", values={})
    place = log.place(came)
    noted = any(
        entry.gauge is not None
        and entry.gauge <= 1
        and abs(log.place(entry.time_s).distance_m - place.distance_m) <= AT_THE_STEP_M
        for entry in log.entries
    )
    values = {"at_m": place.distance_m, "left": log.ride.left(place)}
    return Learned(code="last_step", state="met" if noted else "missed", values=values)


def _last_bar_s(log: PracticeLog) -> float | None:
    """When the gauge first stood at its last bar on the move, by the clock of the log [s]."""
    times = np.arange(0.0, log.entries[-1].time_s, log.ride.said["step_s"])
    second = log.ride.said["bars_v"][1]
    for time_s in times:
        if log.stood_s(time_s) is None and log.place(time_s).voltage_v < second:
            return float(time_s)
    return None


def _enough(log: PracticeLog, found: Quantity | None) -> Learned:
    read = readings(log)
    if found is None or len(read) < MANY:
        return Learned(code="enough", state="untried", values={})
    few = range_of(log.with_entries(_three(log, read)))
    if few is None:
        return Learned(code="enough", state="untried", values={})
    values = {"noted": float(len(read)), "all_m": half_of(found), "few_m": half_of(few)}
    needed = len(read) <= MANY or half_of(few) > WORSE * half_of(found)
    return Learned(code="enough", state="met" if needed else "missed", values=values)


def _three(log: PracticeLog, read: Sequence[Entry]) -> list[Entry]:
    """The first, the last, and the one nearest the middle of the ride; what was done stays."""
    middle = log.entries[-1].time_s / 2
    kept = {id(read[0]), id(read[-1]), id(min(read, key=lambda one: abs(one.time_s - middle)))}
    return [entry for entry in log.entries if entry.kind in DONE or id(entry) in kept]
