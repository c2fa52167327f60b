"""The log of a practice ride beside the truth: what was known when, and what each reading cost."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Final

import numpy as np

from limpet.assumptions import RESERVE
from limpet.evidence.model import Entry
from limpet.follow import follow
from limpet.practice.lessons import CostCode, LessonCode, State
from limpet.practice.log import PracticeLog
from limpet.quantity import Quantity
from limpet.result import analyse

#: A voltage that is read sooner after stopping is hasty; so long one should wait here [s] (*common
#: practice*: two or three minutes tell most of it).
HASTY_S: Final = 60.0
SETTLED_S: Final = 180.0
#: A reading this near the turn is a reading at the turn [m].
AT_THE_TURN_M: Final = 700.0
#: A last bar is noted within so far of where it came on [m].
AT_THE_STEP_M: Final = 1000.0
#: From so many entries on it is asked which of them were needed, and three of them must tell so much worse.
MANY, WORSE = 5, 1.25
#: Of the newest entries it is told what was known then: each is a judgement of the ride so far.
MOST_TOLD: Final = 16
_DONE = ("stop", "resume", "turn")


@dataclass(frozen=True, slots=True, kw_only=True)
class Told:
    """What was known after an entry, beside what was true.

    `left` of the usable energy; `turn_by_m` by when it was said to turn, None where it was not.
    """

    time_s: float
    distance_m: float
    left: Quantity
    left_truly: float
    turn_by_m: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Cost:
    """What a hasty, mistaken or forgotten reading cost.

    `values` of its words; `half` of the energy left as it was known then (95 %, a share of what is usable)
    and how far that was `off` the truth; `with_half` and `with_off` the same had the reading been a good one.
    """

    code: CostCode
    values: Mapping[str, float]
    half: float
    with_half: float
    off: float
    with_off: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Learned:
    """How a lesson went, and the values of its words."""

    code: LessonCode
    state: State
    values: Mapping[str, float]


@dataclass(frozen=True, slots=True, kw_only=True)
class Turn:
    """Where it was turned, and from where one could have come home.

    `turned_m` None where nobody turned; `last_home_m` the furthest stone from which it came home,
    `last_kept_m` the furthest with the reserve kept.
    """

    turned_m: float | None
    last_home_m: float
    last_kept_m: float
    reserve: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Review:
    """A practice ride, judged. `range_to_cutoff` is what the log tells, None where it tells none."""

    home: bool
    over: bool
    distance_m: float
    left_truly: float
    range_truly_m: float
    range_to_cutoff: Quantity | None
    turn: Turn
    told: tuple[Told, ...]
    costs: tuple[Cost, ...]
    lessons: tuple[Learned, ...]


def review(log: PracticeLog) -> Review:
    """Judge a log; it must have an entry at least.

    Notes
    -----
    What a reading cost is found by judging the same ride again with that reading as it should have been
    (handbook section 8: a budget by leaving one thing out).
    """
    end = log.place(log.entries[-1].time_s)
    used = max(end.used_wh, 1e-9)
    truly = end.distance_m * log.ride.usable_wh / used
    found = _range(log)
    return Review(
        home=log.is_over and log.way.home,
        over=log.is_over,
        distance_m=end.distance_m,
        left_truly=log.ride.left(end),
        range_truly_m=truly,
        range_to_cutoff=found,
        turn=_turn(log),
        told=tuple(_told(log)),
        costs=tuple(_costs(log)),
        lessons=tuple(_lessons(log, found)),
    )


def _range(log: PracticeLog) -> Quantity | None:
    return analyse(log.test).range_to_cutoff


def _half(found: Quantity) -> float:
    return (found.high - found.low) / 2


def _turn(log: PracticeLog) -> Turn:
    ride = log.ride
    kept = [way.turn_m for way in ride.ways if way.home and way.used_wh <= (1 - RESERVE.value) * ride.usable_wh]  # fmt: skip
    return Turn(
        turned_m=None if log.turn_s is None else log.way.turn_m,
        last_home_m=max((way.turn_m for way in ride.ways if way.home), default=0.0),
        last_kept_m=max(kept, default=0.0),
        reserve=RESERVE.value,
    )


def _told(log: PracticeLog) -> Iterator[Told]:
    for entry in _read(log)[-MOST_TOLD:]:
        said = follow(log.test, until_s=entry.time_s)
        place = log.place(entry.time_s)
        yield Told(
            time_s=entry.time_s,
            distance_m=place.distance_m,
            left=said.energy_left_fraction,
            left_truly=log.ride.left(place),
            turn_by_m=None if said.way is None else said.way.turn_by_m,
        )


def _hasty(log: PracticeLog, entry: Entry) -> float | None:
    """For how long it stood before a voltage at rest that was read too soon [s]; else None."""
    stood = log.stood_s(entry.time_s)
    if entry.voltage_rest_v is None or stood is None or stood >= HASTY_S:
        return None
    return stood


def _is_mistaken(log: PracticeLog, entry: Entry) -> bool:
    """Whether a voltage was noted as at rest while it pulled."""
    return entry.voltage_rest_v is not None and log.stood_s(entry.time_s) is None


def _settled(log: PracticeLog, time_s: float) -> float:
    return log.ride.rest_v(log.place(time_s), SETTLED_S)


def _costs(log: PracticeLog) -> Iterator[Cost]:
    for slip in list(_slips(log))[:MOST_COSTS]:
        now = _left(log, slip.at_s)
        then = _left(slip.better, slip.better_at_s)
        truly = log.ride.left(log.place(slip.at_s))
        surer = _half(then) < 0.95 * _half(now)
        if slip.code.startswith("forgot") and not surer:
            # It would have told nothing more: nothing was lost.
            continue
        yield Cost(
            code=slip.code,
            values=slip.values,
            half=_half(now),
            with_half=_half(then),
            off=now.value - truly,
            with_off=then.value - truly,
        )


def _left(log: PracticeLog, at_s: float) -> Quantity:
    """What was known of the energy left at a moment, a share of what is usable."""
    return follow(log.test, until_s=at_s).energy_left_fraction


#: So many slips are reckoned, the first ones; each is two judgements of the ride.
MOST_COSTS: Final = 8


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
        seen_s = next((one.time_s for one in _read(log) if one.time_s > 0), last.time_s)
        said = {"truly_v": _settled(log, 0.0)}
        yield _Slip(
            code="forgot_start", values=said, at_s=seen_s,
            better=_with_start(right), better_at_s=seen_s,
        )  # fmt: skip
    for entry in log.entries:
        values = {
            "at_m": log.place(entry.time_s).distance_m,
            "read_v": entry.voltage_rest_v or 0.0,
            "truly_v": _settled(log, entry.time_s),
        }
        waited = _hasty(log, entry)
        if waited is not None:
            longer_s = SETTLED_S - waited
            yield _Slip(
                code="hasty", values={**values, "waited_s": waited}, at_s=entry.time_s,
                better=_waited(log, entry, longer_s), better_at_s=entry.time_s + longer_s,
            )  # fmt: skip
        elif _is_mistaken(log, entry):
            yield _Slip(
                code="mistaken", values=values, at_s=entry.time_s,
                better=right, better_at_s=entry.time_s,
            )  # fmt: skip
    turned = next((entry for entry in log.entries if entry.kind == "turn"), None)
    if turned is not None and not _is_read(log, turned.time_s):
        yield _Slip(
            code="forgot_turn", values={"truly_v": _settled(log, turned.time_s)},
            at_s=turned.time_s,
            better=_with_stop(right, turned), better_at_s=turned.time_s + SETTLED_S,
        )  # fmt: skip
    if last.voltage_rest_v is None or last.trip_m is None:
        yield _Slip(
            code="forgot_end", values={"truly_v": _settled(log, last.time_s)}, at_s=last.time_s,
            better=_with_end(right), better_at_s=last.time_s + SETTLED_S,
        )  # fmt: skip


def _read(log: PracticeLog) -> list[Entry]:
    """The entries that are read, not done."""
    return [entry for entry in log.entries if entry.kind not in _DONE]


def _is_read(log: PracticeLog, time_s: float) -> bool:
    """Whether a settled voltage was read near where it was at a moment."""
    at_m = log.place(time_s).distance_m
    return any(
        entry.voltage_rest_v is not None
        and (log.stood_s(entry.time_s) or 0.0) >= HASTY_S
        and abs(log.place(entry.time_s).distance_m - at_m) <= AT_THE_TURN_M
        for entry in log.entries
    )


def _as_it_was(log: PracticeLog, entry: Entry) -> Entry:
    """An entry with its voltage called what it was."""
    if not _is_mistaken(log, entry):
        return entry
    return replace(entry, voltage_rest_v=None, voltage_load_v=entry.voltage_rest_v)


def _waited(log: PracticeLog, entry: Entry, longer_s: float) -> PracticeLog:
    """The same ride with a longer stop before a voltage was read."""
    said = replace(
        entry,
        time_s=entry.time_s + longer_s,
        voltage_rest_v=round(_settled(log, entry.time_s), 1),
    )
    return log.with_entries(
        [said if one is entry else _later(one, entry.time_s, longer_s) for one in log.entries]
    )


def _with_start(log: PracticeLog) -> PracticeLog:
    volts = round(_settled(log, 0.0), 1)
    start = Entry(time_s=0.0, kind="start", trip_m=0.0, voltage_rest_v=volts)
    rest = [entry for entry in log.entries if entry.time_s > 0]
    return log.with_entries([start, *rest])


def _with_stop(log: PracticeLog, turned: Entry) -> PracticeLog:
    """The same ride with a stop at the turn, where the volts settled and were read."""
    at_s = turned.time_s
    volts = round(_settled(log, at_s), 1)
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
        voltage_rest_v=round(_settled(log, last.time_s), 1),
        trip_m=place.distance_m * log.ride.trip_scale,
    )
    stop = Entry(time_s=last.time_s, kind="stop")
    return log.with_entries([*log.entries[:-1], stop, said])


def _later(entry: Entry, after_s: float, by_s: float) -> Entry:
    return replace(entry, time_s=entry.time_s + by_s) if entry.time_s > after_s else entry


def _lessons(log: PracticeLog, found: Quantity | None) -> Iterator[Learned]:
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
        "truly_v": _settled(log, entry.time_s),
        "waited_s": waited,
    }
    return Learned(
        code="settle", state="missed" if waited < HASTY_S else "met", values=values
    )  # fmt: skip


def _pulling(log: PracticeLog) -> Learned:
    def values(time_s: float, read_v: float) -> Mapping[str, float]:
        at_m = log.place(time_s).distance_m
        return {"at_m": at_m, "read_v": read_v, "truly_v": _settled(log, time_s)}

    for entry in log.entries:
        if _is_mistaken(log, entry):
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
    read = _read(log)
    if found is None or len(read) < MANY:
        return Learned(code="enough", state="untried", values={})
    few = _range(log.with_entries(_three(log, read)))
    if few is None:
        return Learned(code="enough", state="untried", values={})
    values = {"noted": float(len(read)), "all_m": _half(found), "few_m": _half(few)}
    needed = len(read) <= MANY or _half(few) > WORSE * _half(found)
    return Learned(code="enough", state="met" if needed else "missed", values=values)


def _three(log: PracticeLog, read: Sequence[Entry]) -> list[Entry]:
    """The first, the last, and the one nearest the middle of the ride; what was done stays."""
    middle = log.entries[-1].time_s / 2
    kept = {id(read[0]), id(read[-1]), id(min(read, key=lambda one: abs(one.time_s - middle)))}
    return [entry for entry in log.entries if entry.kind in _DONE or id(entry) in kept]
