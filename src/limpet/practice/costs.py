"""What the slips of a practice log cost: the same ride judged again without each of them."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from typing import Final

from limpet.evidence.model import Entry
from limpet.practice.lessons import CostCode
from limpet.practice.practice_log import PracticeLog
from limpet.practice.quality import (
    SETTLED_S,
    half_of,
    hasty_s,
    is_mistaken,
    is_read_near,
    readings,
    settled_v,
)
from limpet.quantity import Quantity
from limpet.under_way import follow

#: So many slips are reckoned, the first ones; each is two judgements of the ride.
MOST_COSTS: Final = 8


@dataclass(frozen=True, slots=True, kw_only=True)
class Cost:
    """What a hasty, mistaken or forgotten reading cost.

    `values` of its words; `half` of the energy left as it was known then (95%, a share of what is usable)
    and how far that was `off` the truth; `with_half` and `with_off` the same had the reading been a good one.
    """

    code: CostCode
    values: Mapping[str, float]
    half: float
    with_half: float
    off: float
    with_off: float


def costs_of(log: PracticeLog) -> Iterator[Cost]:
    """What each slip cost, in the order of the ride; what was forgotten and would have told nothing is none."""
    for slip in list(_slips(log))[:MOST_COSTS]:
        now = _left(log, slip.at_s)
        then = _left(slip.better, slip.better_at_s)
        truly = log.ride.left(log.place(slip.at_s))
        surer = half_of(then) < 0.95 * half_of(now)
        if slip.code.startswith("forgot") and not surer:
            # It would have told nothing more: nothing was lost.
            continue
        yield Cost(
            code=slip.code,
            values=slip.values,
            half=half_of(now),
            with_half=half_of(then),
            off=now.value - truly,
            with_off=then.value - truly,
        )


def _left(log: PracticeLog, at_s: float) -> Quantity:
    """What was known of the energy left at a moment, a share of what is usable."""
    return follow(log.test, until_s=at_s).energy_left_fraction


@dataclass(frozen=True, slots=True, kw_only=True)
class _Slip:
    """A slip, the log without it, and when either is judged [s]."""

    code: CostCode
    values: Mapping[str, float]
    at_s: float
    better: PracticeLog
    better_at_s: float


def _slips(log: PracticeLog) -> Iterator[_Slip]:
    first, last = log.entries[0], log.entries[-1]
    # One mistake beside another tells nothing: they are put right together.
    right = log.with_entries([_as_it_was(log, entry) for entry in log.entries])
    if log.place(first.time_s).distance_m > 1 or first.voltage_rest_v is None:
        # What one starts with is missed at the first reading on the way.
        seen_s = next((one.time_s for one in readings(log) if one.time_s > 0), last.time_s)
        said = {"truly_v": settled_v(log, 0.0)}
        yield _Slip(
            code="forgot_start", values=said, at_s=seen_s,
            better=_with_start(right), better_at_s=seen_s,
        )  # fmt: skip
    for entry in log.entries:
        values = {
            "at_m": log.place(entry.time_s).distance_m,
            "read_v": entry.voltage_rest_v or 0.0,
            "truly_v": settled_v(log, entry.time_s),
        }
        waited = hasty_s(log, entry)
        if waited is not None:
            longer_s = SETTLED_S - waited
            yield _Slip(
                code="hasty", values={**values, "waited_s": waited}, at_s=entry.time_s,
                better=_waited(log, entry, longer_s), better_at_s=entry.time_s + longer_s,
            )  # fmt: skip
        elif is_mistaken(log, entry):
            yield _Slip(
                code="mistaken", values=values, at_s=entry.time_s,
                better=right, better_at_s=entry.time_s,
            )  # fmt: skip
    turned = next((entry for entry in log.entries if entry.kind == "turn"), None)
    if turned is not None and not is_read_near(log, turned.time_s):
        yield _Slip(
            code="forgot_turn", values={"truly_v": settled_v(log, turned.time_s)},
            at_s=turned.time_s,
            better=_with_stop(right, turned), better_at_s=turned.time_s + SETTLED_S,
        )  # fmt: skip
    if last.voltage_rest_v is None or last.trip_m is None:
        yield _Slip(
            code="forgot_end", values={"truly_v": settled_v(log, last.time_s)}, at_s=last.time_s,
            better=_with_end(right), better_at_s=last.time_s + SETTLED_S,
        )  # fmt: skip


def _as_it_was(log: PracticeLog, entry: Entry) -> Entry:
    """An entry with its voltage called what it was."""
    if not is_mistaken(log, entry):
        return entry
    return replace(entry, voltage_rest_v=None, voltage_load_v=entry.voltage_rest_v)


def _waited(log: PracticeLog, entry: Entry, longer_s: float) -> PracticeLog:
    """The same ride with a longer stop before a voltage was read."""
    said = replace(
        entry,
        time_s=entry.time_s + longer_s,
        voltage_rest_v=round(settled_v(log, entry.time_s), 1),
    )
    return log.with_entries(
        [said if one is entry else _later(one, entry.time_s, longer_s) for one in log.entries]
    )


def _with_start(log: PracticeLog) -> PracticeLog:
    volts = round(settled_v(log, 0.0), 1)
    start = Entry(time_s=0.0, kind="start", trip_m=0.0, voltage_rest_v=volts)
    rest = [entry for entry in log.entries if entry.time_s > 0]
    return log.with_entries([start, *rest])


def _with_stop(log: PracticeLog, turned: Entry) -> PracticeLog:
    """The same ride with a stop at the turn, where the volts settled and were read."""
    at_s = turned.time_s
    volts = round(settled_v(log, at_s), 1)
    trip_m = log.place(at_s).distance_m * log.ride.trip_scale
    stop = [
        Entry(time_s=at_s, kind="stop"),
        Entry(
            time_s=at_s + SETTLED_S, kind="checkpoint", voltage_rest_v=volts, trip_m=trip_m
        ),
        Entry(time_s=at_s + SETTLED_S + 1, kind="resume"),
    ]  # fmt: skip
    before = [entry for entry in log.entries if entry.time_s <= at_s]
    after = [entry for entry in log.entries if entry.time_s > at_s]
    return log.with_entries([*before, *stop, *(_later(one, at_s, SETTLED_S + 2) for one in after)])


def _with_end(log: PracticeLog) -> PracticeLog:
    last = log.entries[-1]
    place = log.place(last.time_s)
    said = replace(
        last,
        kind="end",
        time_s=last.time_s + SETTLED_S,
        voltage_rest_v=round(settled_v(log, last.time_s), 1),
        trip_m=place.distance_m * log.ride.trip_scale,
    )
    stop = Entry(time_s=last.time_s, kind="stop")
    return log.with_entries([*log.entries[:-1], stop, said])


def _later(entry: Entry, after_s: float, by_s: float) -> Entry:
    return replace(entry, time_s=entry.time_s + by_s) if entry.time_s > after_s else entry
