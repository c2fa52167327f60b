"""Which column of a stranger's log is its time, and how it is written."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Final, Literal, cast

import numpy as np
from numpy.typing import NDArray

from limpet.errors import BundleError, Fault
from limpet.foreign.figures import numbers
from limpet.foreign.moments import Written, written_in
from limpet.foreign.quantities import CLOCK, DATE, ELAPSED, Meaning
from limpet.foreign.raw import RawTable
from limpet.foreign.recipe import TimeRead
from limpet.foreign.units import CLOCK_UNITS, unit_of
from limpet.notices import Notice

_ClockUnit = Literal["ns", "us", "ms", "s", "min", "h", "d"]
#: A logger writes a row between so often and so seldom [s] (assumption).
_STEPS: Final = (0.002, 900.0)
#: Sizes of counts since 1970 that fall into 2001 to 2065, by unit.
_EPOCHS: Final[tuple[tuple[_ClockUnit, float], ...]] = (
    ("s", 1.0),
    ("ms", 1e3),
    ("us", 1e6),
    ("ns", 1e9),
)
_SINCE, _UNTIL = 1.0e9, 3.0e9
#: Spreadsheet dates of 2001 to 2064.
_DAYS: Final = (36_892.0, 60_000.0)
_ISO_DAY: Final = re.compile(
    r"(20\d{2})[-_./]?(\d{2})[-_./]?(\d{2})(?:[T _-]+(\d{2})[:_-]?(\d{2})(?:[:_-]?(\d{2}))?)?"
)
_OTHER_DAY: Final = re.compile(
    r"\b(\d{1,2})\.(\d{1,2})\.(20\d{2})(?:[ ,]+(\d{1,2}):(\d{2})(?::(\d{2}))?)?"
)


@dataclass(frozen=True, slots=True, kw_only=True)
class TimeGuess:
    """Where the time stands, why, how sure that is, and what is not sure of it."""

    read: TimeRead
    sure: float
    why: tuple[Notice, ...]
    unsure: tuple[Notice, ...] = ()


def time_read_of(
    raw: RawTable,
    meanings: Sequence[Meaning],
    *,
    zone: str | None = None,
    day: datetime | None = None,
) -> TimeGuess:
    """The column, or the two columns, that tell when each row was.

    Raises
    ------
    BundleError
        When none can be.
    """
    day_first = True if raw.decimal == "," else None
    written: dict[int, Written] = {}
    for at, meaning in enumerate(meanings):
        if meaning.quantity in (CLOCK, DATE, ELAPSED) or (meaning.quantity is None and at < 6):
            found = written_in(_held(raw, at), day_first=day_first)
            if found is not None and not _is_count(raw, at, meaning, found):
                written[at] = found
    when = day or _day_of(raw)
    by_count = _counts(raw, meanings, written)
    dated = next(
        (at for at, each in written.items() if each.form == "text" and _has_clock(each)), None
    )
    if dated is not None:
        guess = _dated(raw, dated, written[dated], zone)
        # A clock of whole seconds beside a finer count of the same ride: the count tells the rows apart.
        if (
            by_count is not None
            and by_count.read.form == "elapsed"
            and _finer(raw, by_count, dated)
        ):
            first = _first_moment(raw, guess.read)
            return _replaced_date(by_count, first, zone)
        return guess
    days = next((at for at, each in written.items() if each.form == "text"), None)
    clock = next((at for at, each in written.items() if each.form in ("clock", "minutes")), None)
    if days is not None and clock is not None and written[clock].form == "clock":
        both = written[days]
        read = TimeRead(
            sources=(raw.names[days], raw.names[clock]),
            form="text",
            format=f"{both.format} {_with_clock(written[clock].format, raw, clock)}",
            zoned=written[clock].zoned,
            zone=zone,
        )
        unsure = (Notice("look_day_month"),) if both.unsure else ()
        return TimeGuess(
            read=read,
            sure=0.6 if both.unsure else 0.95,
            why=(Notice("look_date_and_clock"),),
            unsure=unsure,
        )
    if by_count is not None and (clock is None or by_count.read.form in ("epoch", "days")):
        first = _first_moment_of(raw, days, written, zone) if days is not None else when
        return (
            by_count if by_count.read.form != "elapsed" else _replaced_date(by_count, first, zone)
        )
    if clock is not None:
        return _of_clock(raw, clock, written[clock], zone, when, meanings[clock])
    if by_count is not None:
        return by_count
    raise BundleError(
        [
            Fault(
                raw.file,
                0,
                0,
                "has no column that can be the time; log one, such as seconds since the start",
            )
        ]
    )


def _held(raw: RawTable, at: int) -> list[str]:
    import polars as pl

    cells = raw.column(at).drop_nulls()
    held = cells.gather_every(max(len(cells) // 300, 1)).cast(pl.String).to_list()
    return [cell for cell in held if cell.strip()]


def _is_count(raw: RawTable, at: int, meaning: Meaning, found: Written) -> bool:
    """Whether what looks like a date of eight figures is a count of milliseconds."""
    return found.form == "text" and found.format == "%Y%m%d" and meaning.quantity == ELAPSED


def _has_clock(written: Written) -> bool:
    return "%H" in written.format or "%I" in written.format


def _with_clock(form: str, raw: RawTable, at: int) -> str:
    half = any(
        cell.strip().lower().rstrip(".").endswith(("am", "pm", "a.m", "p.m"))
        for cell in _held(raw, at)[:20]
    )
    return form + (" %p" if half and "%p" not in form else "")


def _dated(raw: RawTable, at: int, written: Written, zone: str | None) -> TimeGuess:
    read = TimeRead(
        sources=(raw.names[at],),
        form="text",
        format=written.format,
        zoned=written.zoned,
        zone=None if written.zoned else zone,
    )
    unsure = (Notice("look_day_month"),) if written.unsure else ()
    return TimeGuess(
        read=read, sure=0.6 if written.unsure else 0.97, why=(Notice("look_dates"),), unsure=unsure
    )


def _of_clock(
    raw: RawTable,
    at: int,
    written: Written,
    zone: str | None,
    day: datetime | None,
    meaning: Meaning,
) -> TimeGuess:
    form = written.form
    unsure: tuple[Notice, ...] = (Notice("look_minutes"),) if written.unsure else ()
    first = (_held(raw, at) or [""])[0]
    # Hours, minutes and seconds that begin at nought are a ride's own clock.
    elapsed = form == "clock" and (
        meaning.quantity == ELAPSED or re.match(r"0{1,4}:00(:0\d)?", first) is not None
    )
    read = TimeRead(
        sources=(raw.names[at],),
        form=form,
        format=("elapsed " if elapsed else "") + written.format,
        zone=zone,
        date=day.isoformat() if day is not None else None,
    )
    return TimeGuess(
        read=read, sure=0.6 if unsure else 0.9, why=(Notice("look_clock"),), unsure=unsure
    )


def _counts(
    raw: RawTable, meanings: Sequence[Meaning], written: dict[int, Written]
) -> TimeGuess | None:
    """The column of numbers that counts time, by its name or by rising row by row."""
    named = [
        at
        for at, m in enumerate(meanings)
        if m.quantity in (ELAPSED, CLOCK, DATE) and at not in written
    ]
    named.sort(key=lambda at: meanings[at].quantity != ELAPSED)
    bare = [
        at for at, m in enumerate(meanings) if m.quantity is None and at not in written and at < 3
    ]
    best: TimeGuess | None = None
    for at in (*named, *bare):
        values, odd = numbers(raw.column(at), raw.decimal)
        known = values[~np.isnan(values)]
        if odd > 0.2 * len(values) or len(known) < 2 or not _mostly_rises(known):
            continue
        guess = _count_of(raw, at, meanings[at], known, by_name=at in named)
        if guess is None:
            continue
        if best is None or (
            guess.read.form == "epoch"
            and best.read.form == "elapsed"
            and len(np.unique(known)) > 0.9 * len(known)
        ):
            best = guess
    return best


def _mostly_rises(known: NDArray[np.float64]) -> bool:
    steps = np.diff(known)
    moves = (steps != 0).sum()
    rises = (steps > 0).sum()
    return bool(moves > 0 and (rises > 0.9 * moves or rises < 0.1 * moves))


def _count_of(
    raw: RawTable, at: int, meaning: Meaning, known: NDArray[np.float64], *, by_name: bool
) -> TimeGuess | None:
    middle = float(np.median(known))
    steps = np.abs(np.diff(known))
    step = float(np.median(steps[steps > 0])) if (steps > 0).any() else 0.0
    source = (raw.names[at],)
    for since, scale in _EPOCHS:
        if _SINCE * scale <= middle <= _UNTIL * scale:
            read = TimeRead(sources=source, form="epoch", unit=since, zoned=True)
            return TimeGuess(read=read, sure=0.95, why=(Notice("look_epoch", unit=since),))
    if _DAYS[0] <= middle <= _DAYS[1] and step < 0.011 and np.ptp(known) < 30:
        read = TimeRead(sources=source, form="days", zone=None)
        return TimeGuess(read=read, sure=0.9, why=(Notice("look_days"),))
    if known.min() >= 0 and known.max() < 1.0 and step < 0.002 and by_name and meaning.unit == "":
        read = TimeRead(sources=source, form="day_share")
        return TimeGuess(read=read, sure=0.8, why=(Notice("look_days"),))
    unit = _clock_unit(meaning.unit) or _clock_unit(_last_word(raw.names[at]))
    if unit is not None:
        read = TimeRead(sources=source, form="elapsed", unit=unit)
        return TimeGuess(read=read, sure=0.95, why=(Notice("look_by_unit", unit=unit),))
    rivals = [
        unit
        for unit in ("s", "ms", "min", "h", "us")
        if _STEPS[0] <= step * CLOCK_UNITS[unit] * _thinned(raw) <= _STEPS[1]
    ]
    whole = bool(np.all(known[:2000] == np.round(known[:2000])))
    chosen: _ClockUnit = "s"
    sure = 0.85 if by_name else 0.6
    if whole and step >= 20:
        # Whole numbers that rise by tens or hundreds are milliseconds, unless a row came every half minute.
        chosen, sure = "ms", 0.85 if step >= 90 or (step < 61 and len(known) > 200) else 0.6
        if step in (30.0, 60.0, 120.0, 300.0, 600.0):
            chosen, sure = "s", 0.6
    elif not whole and step < 0.012 and np.ptp(known) < 24:
        # Hundredths of an hour.
        chosen, sure = ("h", 0.6) if step < 0.003 else ("min", 0.6)
    if chosen not in rivals:
        chosen = cast(_ClockUnit, rivals[0]) if rivals else chosen
        sure = min(sure, 0.6)
    read = TimeRead(sources=source, form="elapsed", unit=chosen)
    unsure = () if sure >= 0.8 else (Notice("look_time_unit", name=raw.names[at], unit=chosen),)
    return TimeGuess(read=read, sure=sure, why=(Notice("look_rises"),), unsure=unsure)


def _thinned(raw: RawTable) -> float:
    """By how much the rows of a sample lie apart more than those of the file."""
    return len(raw.cells) / max(raw.of_rows, 1) if raw.sampled else 1.0


def _clock_unit(unit: str) -> _ClockUnit | None:
    low = unit.strip().lower()
    if low in CLOCK_UNITS:
        return cast(_ClockUnit, low)
    said = unit_of(unit, "time") if low else None
    spelled = {"sec": "s", "seconds": "s", "minutes": "min", "hours": "h"}
    if said is None:
        return None
    return cast(_ClockUnit, spelled.get(said[1], said[1]))


def _last_word(name: str) -> str:
    words = re.split(r"[^A-Za-zµ]+", name.strip())
    last = [word for word in words if word]
    return last[-1] if last and (len(last) > 1 or len(last[-1]) > 2) else ""


def _finer(raw: RawTable, count: TimeGuess, dated: int) -> bool:
    """Whether a count tells more rows apart than the dates do."""
    at = raw.names.index(count.read.sources[0])
    return raw.column(at).n_unique() > 1.3 * raw.column(dated).n_unique()


def _first_moment(raw: RawTable, read: TimeRead) -> datetime | None:
    from limpet.foreign.taken import times_of

    return times_of(raw, read).started_at


def _first_moment_of(
    raw: RawTable, days: int, written: dict[int, Written], zone: str | None
) -> datetime | None:
    read = TimeRead(sources=(raw.names[days],), form="text", format=written[days].format, zone=zone)
    try:
        return _first_moment(raw, read)
    except BundleError:
        # One day on every row makes no clock; it is a day still.
        from limpet.foreign.moments import seconds_of

        seconds = seconds_of(raw.column(days), written[days], raw.decimal)
        known = seconds[~np.isnan(seconds)]
        return datetime.utcfromtimestamp(float(known[0])) if len(known) else None


def _replaced_date(guess: TimeGuess, first: datetime | None, zone: str | None) -> TimeGuess:
    if first is None:
        return guess
    read = TimeRead(
        sources=guess.read.sources,
        form=guess.read.form,
        unit=guess.read.unit,
        zone=zone,
        date=first.isoformat(),
    )
    return TimeGuess(read=read, sure=guess.sure, why=guess.why, unsure=guess.unsure)


def _day_of(raw: RawTable) -> datetime | None:
    """The day, and the moment where it is said, that the lines above the heading or the file's name tell."""
    for text in (*raw.preamble, raw.file):
        found = _ISO_DAY.search(text)
        parts = None
        if found is not None:
            parts = [found[1], found[2], found[3], *found.groups()[3:]]
        else:
            other = _OTHER_DAY.search(text)
            if other is not None:
                parts = [other[3], other[2], other[1], *other.groups()[3:]]
        if parts is None:
            continue
        try:
            year, month, day, *clock = (int(part) for part in parts if part is not None)
            hour, minute, second = (*clock, 0, 0, 0)[:3]
            return datetime(year, month, day, hour, minute, second)
        except ValueError:
            continue
    return None
