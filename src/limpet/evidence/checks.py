"""How evidence can be odd: one set of checks for a form, a file and a live batch.

What no ride can have is refused (`outside`, `not_rising`); what a slip of the finger would make is
asked about (`questions`); what was merely logged the other way round is turned (`counts_backwards`).
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Final

import numpy as np
from numpy.typing import NDArray

from limpet.evidence.columns import Column, label_of, pack_voltage_limit
from limpet.evidence.model import Entry
from limpet.notices import Notice
from limpet.pack import FACTS, PackSpec, full_energy_wh, knows_series
from limpet.units import METRES_PER_MILE

FloatArray = NDArray[np.float64]

#: A mean speed between two entries above this is a slip [m/s] (assumption: 130 km/h).
FASTEST_MPS = 36.0
#: A counter above this many times the rated charge is a slip (assumption).
MOST_OF_RATING = 1.3
#: Amp-hours may fall by this share of the rated charge on a descent; below this share of the one before
#: a counter was reset (assumption).
MOST_RETURNED, RESET_BELOW = 0.05, 0.3
#: By how much a gauge bounces on a hill (assumption).
MOST_BOUNCE_PCT, MOST_BOUNCE_BARS = 12, 2
#: No such vehicle goes on less [Wh/m]: the least plausible consumption, a third under (common practice).
LEAST_WH_PER_M = 12 / 1.5 / METRES_PER_MILE
#: How far an odometer may go another way than the trip meter [-], and a lap than its fellows (handbook
#: section 17); so many laps have a middle.
ODOMETER_APART, LAP_APART, LEAST_LAPS = 0.30, 0.20, 3
#: By its time alone a lap is asked about where one more or one less would explain it (assumption: a fading
#: pack makes laps slower, and by less).
LAP_TIMES_APART = 1.6
#: Two clocks that are this near are called right [s] (assumption).
CLOCKS_APART_S = 300.0
#: About these entries the pack rested, and a gauge may rise.
_RESTED = ("stop", "settle", "resume", "swap", "start", "end")


@dataclass(frozen=True, slots=True, kw_only=True)
class Odd:
    """Rows of a column that cannot be; `says` what is wrong with one of them, and what would be right."""

    name: str
    rows: NDArray[np.intp]
    values: FloatArray
    expected: str

    def says(self, index: int) -> str:
        """The refusal of one of them, without the column's name."""
        return f"is {self.values[index]:g}; expected {self.expected}"


def outside(
    columns: Mapping[str, Column], numbers: Mapping[str, FloatArray], pack: PackSpec | None
) -> Iterator[Odd]:
    """Values that no ride can have; NaN, which is not known, is passed over.

    Parameters
    ----------
    columns : the list that the names are of
    numbers : values in the unit that each name ends in, shape (n,)
    pack : narrows volts to what its cells can have; None when not known
    """
    for name, values in numbers.items():
        column = columns[name]
        high, expected = column.high, column.hint
        known = pack is not None and knows_series(pack)
        limit = pack_voltage_limit(name, pack.series) if pack is not None and known else None
        if limit is not None and pack is not None:
            high, expected = limit, f"volts of {pack.series} cells, not millivolts"
        # Two looks at a million numbers, and no table of them, unless one is wrong.
        if np.fmin.reduce(values, initial=high) >= column.low and (
            np.fmax.reduce(values, initial=column.low) <= high
        ):
            continue
        rows = np.flatnonzero((values < column.low) | (values > high))
        if len(rows):
            yield Odd(name=name, rows=rows, values=values[rows], expected=expected)


def refused_readings(
    columns: Mapping[str, Column], values: Mapping[str, object], pack: PackSpec
) -> dict[str, str]:
    """What is wrong with single readings, by their names; empty when nothing is.

    Parameters
    ----------
    columns : of the one list, by name
    values : as typed, in the core's units
    pack : whose volts they are; None checks no volts
    """
    numbers = {
        name: np.array([float(value)])
        for name, value in values.items()
        if isinstance(value, int | float) and name in columns and not columns[name].is_text
    }
    return {odd.name: odd.says(0) for odd in outside(columns, numbers, pack)}


def not_rising(time_s: FloatArray, *, strictly: bool) -> NDArray[np.intp]:
    """Rows whose time is before that of the row above, or the same where it must rise strictly.

    Parameters
    ----------
    time_s : shape (n,) [s]
    strictly : whether the same time twice is refused

    Returns
    -------
    row numbers
    """
    later, before = time_s[1:], time_s[:-1]
    return np.flatnonzero(later <= before if strictly else later < before) + 1


def says_not_rising(time_s: float, before_s: float) -> str:
    """The refusal of such a row."""
    return f"time_s is {time_s:.10g} after {before_s:.10g}; time must increase"


def counts_backwards(time_s: FloatArray, current_a: FloatArray) -> bool:
    """Whether a log counts the current positive while charging.

    Parameters
    ----------
    time_s, current_a : shape (n,) [s, A]; NaN is not known

    Notes
    -----
    A ride takes more out than regeneration puts back, so a log whose net charge is negative was
    made with the other sign.
    """
    known = ~np.isnan(current_a)
    if not known.all():
        time_s, current_a = time_s[known], current_a[known]
    return len(time_s) > 1 and float(np.trapezoid(current_a, time_s)) < 0


def all_questions(
    pack: PackSpec, packs_used: int, entries: Sequence[Entry], now_s: float | None = None
) -> list[Notice]:
    """Every question that the entries of a test raise.

    Parameters
    ----------
    now_s : what the time is, in seconds of the test; None where nobody knows, or it is long past
    """
    previous: Entry | None = None
    notices: list[Notice] = []
    for entry in entries:
        # What was looked at and confirmed is asked about no more.
        notices += [] if entry.confirmed else questions(pack, packs_used, entry, previous)
        previous = entry
    return [*notices, *_odd_laps(entries), *_slow_laps(entries), *_to_come(entries, now_s)]


def _to_come(entries: Sequence[Entry], now_s: float | None) -> list[Notice]:
    """Entries of a time that has not come yet."""
    if now_s is None:
        return []
    return [
        Notice("entry_to_come", time_s=entry.time_s, ahead_s=entry.time_s - now_s)
        for entry in entries
        if entry.time_s > now_s + CLOCKS_APART_S and not entry.confirmed
    ]


#: The reading that a question is about.
_ABOUT: Final = {
    "rest_below_load": "voltage_rest_v",
    "charge_beyond_rating": "charge_ah",
    "charge_falls": "charge_ah",
    "cell_absurd": "cell_min_v",
    "gauge_rises": "gauge",
    "odometer_apart": "odometer_m",
    "lap_apart": "trip_m",
    "lap_time_apart": "laps",
    "entry_to_come": "time_s",
}


def asked_about(entry: Entry, notices: Sequence[Notice]) -> list[tuple[str, Notice]]:
    """The questions that are about an entry, each with the reading that it is about.

    Parameters
    ----------
    entry : as it is kept
    notices : of the whole test
    """
    found = []
    for notice in notices:
        if notice.values.get("time_s") != entry.time_s:
            continue
        name = _ABOUT.get(notice.code)
        if notice.code == "voltage_outside":
            rest = entry.voltage_rest_v
            name = "voltage_rest_v" if rest == notice.values["voltage_v"] else "voltage_load_v"
        elif name is None:
            reads = ("trip_m", "gps_m", "odometer_m")
            name = next((r for r in reads if label_of(r) == notice.values.get("reading")), "time_s")
        found.append((name, notice))
    return found


def _odd_laps(entries: Sequence[Entry]) -> list[Notice]:
    """Laps that the trip meter makes a fifth longer or shorter than their fellows."""
    reads = [
        (entry.time_s, entry.laps, entry.trip_m)
        for entry in entries
        if entry.kind == "lap" and entry.laps is not None and entry.trip_m is not None
    ]
    each = [
        (at, (trip - before_m) / (laps - before))
        for (_, before, before_m), (at, laps, trip) in pairwise(reads)
        if laps > before and trip > before_m
    ]
    if len(each) < LEAST_LAPS:
        return []
    middle = float(np.median([length for _, length in each]))
    confirmed = {entry.time_s for entry in entries if entry.confirmed}
    return [
        Notice("lap_apart", time_s=at, lap_m=length, usual_m=middle)
        for at, length in each
        if abs(length / middle - 1) > LAP_APART and at not in confirmed
    ]


def _slow_laps(entries: Sequence[Entry]) -> list[Notice]:
    """Laps, counted without a trip meter, that took far longer or shorter than their fellows."""
    each = list(_lap_times(entries))
    if len(each) < LEAST_LAPS:
        return []
    middle = float(np.median([took for _, took in each]))
    return [
        Notice("lap_time_apart", time_s=entry.time_s, lap_s=took, usual_s=middle)
        for entry, took in each
        if not entry.confirmed and not 1 / LAP_TIMES_APART < took / middle < LAP_TIMES_APART
    ]


def _lap_times(entries: Sequence[Entry]) -> Iterator[tuple[Entry, float]]:
    """Each lap with the time that it took, without what was stood; of laps that no trip meter tells."""
    before: float | None = None
    stood, since = 0.0, None
    for entry in entries:
        if entry.kind == "stop" and since is None:
            since = entry.time_s
        elif entry.kind in ("resume", "lap") and since is not None:
            stood, since = stood + entry.time_s - since, None
        if entry.kind not in ("start", "lap"):
            continue
        riding = entry.time_s - stood
        told = entry.kind == "lap" and entry.trip_m is None and before is not None
        if told and before is not None and riding > before:
            yield entry, riding - before
        before = riding


def questions(
    pack: PackSpec, packs_used: int, entry: Entry, previous: Entry | None
) -> list[Notice]:
    """Values of an entry that a slip of the finger would make ("did you mean?").

    Parameters
    ----------
    previous : the entry before it, None at the first

    Returns
    -------
    questions that the rider can overrule; nothing is changed
    """
    facts = FACTS[pack.chemistry]
    low, high = facts.lowest_v * pack.series, facts.highest_v * pack.series
    at = entry.time_s
    found: list[Notice] = []
    for volts in (entry.voltage_rest_v, entry.voltage_load_v):
        if volts is not None and not low <= volts <= high:
            found.append(
                Notice(
                    "voltage_outside",
                    voltage_v=volts,
                    time_s=at,
                    low_v=low,
                    high_v=high,
                    series=pack.series,
                    chemistry=pack.chemistry,
                )
            )
    rest, load = entry.voltage_rest_v, entry.voltage_load_v
    pulling = entry.current_a is None or entry.current_a > 0
    if rest is not None and load is not None and rest < load and pulling:
        found.append(Notice("rest_below_load", time_s=at, rest_v=rest, load_v=load))
    limit_ah = MOST_OF_RATING * pack.rated_ah * packs_used
    if entry.charge_ah is not None and entry.charge_ah > limit_ah:
        found.append(
            Notice(
                "charge_beyond_rating",
                charge_ah=entry.charge_ah,
                time_s=at,
                rated_ah=pack.rated_ah,
            )
        )
    if entry.cell_min_v is not None and entry.cell_min_v < 0.5 * facts.floor_v:
        found.append(Notice("cell_absurd", cell_v=entry.cell_min_v, time_s=at))
    if previous is not None:
        found += _against_previous(pack, packs_used, entry, previous)
    return found


def _against_previous(
    pack: PackSpec, packs_used: int, entry: Entry, previous: Entry
) -> list[Notice]:
    charged = entry.what == "charged" or entry.charged_wh or entry.charged_s
    rested = charged or any(item.kind in _RESTED for item in (entry, previous))
    return [
        *_distances(pack, packs_used, entry, previous),
        *_counters(pack, entry, previous),
        *([] if rested else _gauge_rise(entry, previous)),
    ]


def _counters(pack: PackSpec, entry: Entry, previous: Entry) -> list[Notice]:
    """Amp-hours that fell by more than a descent returns, and not to nothing, which is a reset."""
    now, before = entry.charge_ah, previous.charge_ah
    if now is None or before is None or entry.kind == "swap" or now < RESET_BELOW * before:
        return []
    if before - now <= MOST_RETURNED * pack.rated_ah:
        return []
    return [Notice("charge_falls", time_s=entry.time_s, before_ah=before, now_ah=now)]


def _gauge_rise(entry: Entry, previous: Entry) -> list[Notice]:
    """A gauge that rose by more than it bounces, though nothing rested in between."""
    now, before = entry.gauge, previous.gauge
    if now is None or before is None:
        return []
    if now - before <= (MOST_BOUNCE_PCT if max(now, before) > 10 else MOST_BOUNCE_BARS):
        return []
    return [Notice("gauge_rises", time_s=entry.time_s, before=before, now=now)]


def _distances(pack: PackSpec, packs_used: int, entry: Entry, previous: Entry) -> list[Notice]:
    found = []
    seconds = entry.time_s - previous.time_s
    furthest = full_energy_wh(pack) * MOST_OF_RATING * packs_used / LEAST_WH_PER_M
    for name in ("trip_m", "odometer_m", "gps_m"):
        now, before = getattr(entry, name), getattr(previous, name)
        if now is None or before is None:
            continue
        reading = label_of(name)
        if now < before:
            back = before - now
            found.append(
                Notice("distance_backwards", reading=reading, time_s=entry.time_s, back_m=back)
            )
        elif seconds > 0 and (now - before) / seconds > FASTEST_MPS:
            speed = (now - before) / seconds
            found.append(
                Notice("distance_too_far", reading=reading, time_s=entry.time_s, speed_mps=speed)
            )
        elif now - before > furthest:
            found.append(
                Notice(
                    "distance_beyond_pack",
                    reading=reading,
                    time_s=entry.time_s,
                    jump_m=now - before,
                    furthest_m=furthest,
                )
            )
    return [*found, *_odd_odometer(entry, previous)]


def _odd_odometer(entry: Entry, previous: Entry) -> list[Notice]:
    """An odometer that went another way than the trip meter: a digit misread."""
    trips, odos = (entry.trip_m, previous.trip_m), (entry.odometer_m, previous.odometer_m)
    if None in trips or None in odos:
        return []
    trip = float(trips[0] or 0) - float(trips[1] or 0)
    odo = float(odos[0] or 0) - float(odos[1] or 0)
    if odo < 0 or abs(odo - trip) <= max(ODOMETER_APART * abs(trip), 2000.0):
        return []
    return [Notice("odometer_apart", time_s=entry.time_s, odometer_m=odo, trip_m=trip)]
