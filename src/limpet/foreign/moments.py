"""How a column of times is written: told from its cells, and read by one rule for all of them."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import timedelta, timezone
from itertools import pairwise
from typing import TYPE_CHECKING, Final, Literal

import numpy as np
from numpy.typing import NDArray

from limpet.foreign.figures import numbers
from limpet.foreign.units import CLOCK_UNITS

if TYPE_CHECKING:
    import polars as pl

FloatArray = NDArray[np.float64]
#: elapsed: seconds (or `unit`s) since some start; epoch: since 1970; days: a spreadsheet's date; text:
#: date and time by `format`; clock: time of day; minutes: minutes and seconds since the start.
Form = Literal["elapsed", "epoch", "days", "text", "clock", "minutes", "day_share"]
#: Day 0 of a spreadsheet's dates lies so many days before 1970-01-01: 1899-12-30, for every day since March 1900
#: (ECMA-376 Part 1, 18.17.4.1; from memory).
SPREADSHEET_DAY_0: Final = 25_569
_DATES: Final[tuple[tuple[str, str], ...]] = (
    (r"\d{4}-\d{1,2}-\d{1,2}", "%Y-%m-%d"),
    (r"\d{4}/\d{1,2}/\d{1,2}", "%Y/%m/%d"),
    (r"\d{4}\.\d{1,2}\.\d{1,2}", "%Y.%m.%d"),
    (r"\d{1,2}\.\d{1,2}\.\d{4}", "%d.%m.%Y"),
    (r"\d{1,2}\.\d{1,2}\.\d{2}", "%d.%m.%y"),
    (r"\d{1,2}/\d{1,2}/\d{4}", "%d/%m/%Y"),
    (r"\d{1,2}/\d{1,2}/\d{2}", "%d/%m/%y"),
    (r"\d{1,2}-\d{1,2}-\d{4}", "%d-%m-%Y"),
    (r"\d{1,2}-\d{1,2}-\d{2}", "%d-%m-%y"),
    (r"\d{1,2} [A-Za-z]{3} \d{4}", "%d %b %Y"),
    (r"\d{1,2}-[A-Za-z]{3}-\d{4}", "%d-%b-%Y"),
    (r"[A-Za-z]{3} \d{1,2},? \d{4}", "%b %d %Y"),
    (r"20\d{6}", "%Y%m%d"),
)
_TIMES: Final[tuple[tuple[str, str], ...]] = (
    (r"\d{1,2}:\d{2}:\d{2}\.\d{1,9}", "%H:%M:%S%.f"),
    (r"\d{1,2}:\d{2}:\d{2}", "%H:%M:%S"),
    (r"\d{1,2}:\d{2}", "%H:%M"),
    (r"\d{1,2}\.\d{2}\.\d{2}", "%H.%M.%S"),
    (r"\d{6}", "%H%M%S"),
)
_ZONE: Final = re.compile(r"\s?(Z|UTC|GMT|[+\-]\d{2}:?\d{2})$")
_HALF: Final = re.compile(r"\s?([AaPp])\.?[Mm]\.?$")
_COMMA_SECONDS: Final = re.compile(r"(:\d{2}),(\d{1,9})")
_COLON_SECONDS: Final = re.compile(r"(\d{1,2}:\d{2}:\d{2}):(\d{1,3})$")
_LOOKED_AT: Final = 400
#: From so many rows on the fast way of reading moments is tried first.
_MANY: Final = 2000


@dataclass(frozen=True, slots=True, kw_only=True)
class Written:
    """How times are written; `unsure` where day and month may be the other way round.

    `zoned` is whether every cell brings its offset from UTC.
    """

    form: Form
    unit: str = "s"
    format: str = ""
    zoned: bool = False
    unsure: bool = False


def written_in(cells: Sequence[str], *, day_first: bool | None = None) -> Written | None:
    """How the times of a column are written, by its cells; None when they are no dates and no clock.

    Parameters
    ----------
    cells : some of them, in order
    day_first : what the file's other habits say of dates whose day and month may be either
    """
    held = [_tidy(cell) for cell in cells if cell.strip()][:_LOOKED_AT]
    if not held:
        return None
    parts = [_apart(cell) for cell in held]
    if any(part is None for part in parts):
        return None
    told = [part for part in parts if part is not None]
    dates, times = {part[0] for part in told}, {part[1] for part in told}
    if len(dates) > 1 or len({time for time in times if time}) > 2:
        return None
    date = dates.pop()
    halves, zones = {part[2] for part in told}, {part[3] for part in told}
    if len(halves) > 1 or len(zones) > 1:
        return None
    half, zoned = halves.pop(), zones.pop()
    # A moment on the full second may be written without its fraction.
    time = next((each for each in times if each.endswith("%.f")), "") or max(times)
    if half:
        time = time.replace("%H", "%I")
    if not date:
        return _of_day(held, time, half) if time else None
    unsure = False
    if date in ("%d/%m/%Y", "%d/%m/%y", "%d-%m-%Y", "%d-%m-%y"):
        date, unsure = _days_and_months(held, date, day_first, half)
    separator = "T" if time and "T" in held[0] else " " if time else ""
    return Written(
        form="text",
        format=date + separator + time + (" %p" if half else ""),
        zoned=zoned,
        unsure=unsure,
    )


def _tidy(cell: str) -> str:
    cell = " ".join(cell.strip().strip('"').split())
    cell = _COMMA_SECONDS.sub(r"\1.\2", cell)
    cell = _COLON_SECONDS.sub(lambda found: f"{found[1]}.{found[2]:>03}", cell)
    return cell.replace(",", "").replace("_", " ")


def _apart(cell: str) -> tuple[str, str, bool, bool] | None:
    """The formats of a cell's date and time ("" where it has none), whether it has halves of a day, a zone."""
    zone = _ZONE.search(cell)
    # A date such as 2026-05-14 ends as a zone does.
    if zone is not None and ":" in cell[: zone.start()]:
        cell = cell[: zone.start()]
    else:
        zone = None
    half = _HALF.search(cell)
    if half is not None:
        cell = cell[: half.start()]
    for pattern, date in _DATES:
        found = re.match(pattern + r"(?=[T ]|$)", cell)
        if found is None:
            continue
        rest = cell[found.end() :].lstrip("T ")
        if not rest:
            return date, "", half is not None, zone is not None
        time = _time_of(rest)
        if time is not None:
            return date, time, half is not None, zone is not None
    time = _time_of(cell)
    if time is not None and time != "%H%M%S":
        return "", time, half is not None, zone is not None
    if re.fullmatch(r"\d{1,4}:\d{2}(:\d{2})?(\.\d+)?", cell):
        return "", "%H:%M:%S%.f" if cell.count(":") == 2 else "%M:%S", half is not None, False
    return None


def _time_of(text: str) -> str | None:
    return next((form for pattern, form in _TIMES if re.fullmatch(pattern, text)), None)


def _of_day(held: Sequence[str], time: str, half: bool) -> Written:
    if held[0].count(":") == 1:
        # Minutes and seconds of a ride's own clock begin at nought and count every row on.
        first, last = (int(held[0].split(":")[0]), int(held[-1].split(":")[0]))
        begins = first == 0 or any("." in cell for cell in held)
        moved = sum(a != b for a, b in pairwise(held)) > 0.9 * (len(held) - 1)
        beyond = max(first, last) > 23
        if not half and ((begins and moved) or beyond):
            return Written(form="minutes", unsure=not (beyond or "." in held[0]))
        return Written(form="clock", format=time)
    return Written(form="clock", format=time)


def _days_and_months(
    held: Sequence[str], date: str, day_first: bool | None, half: bool
) -> tuple[str, bool]:
    """Which of the two numbers of a date is the day, and whether it may be the other."""
    turned = date.replace("%d", "%x").replace("%m", "%d").replace("%x", "%m")
    pairs = [
        tuple(int(part) for part in re.split(r"[-/]", cell.split(" ")[0].split("T")[0])[:2])
        for cell in held
    ]
    if any(first > 12 for first, _ in pairs):
        return date, False
    if any(second > 12 for _, second in pairs):
        return turned, False
    # The number that changes over midnight is the day.
    if len({first for first, _ in pairs}) > 1 and len({second for _, second in pairs}) == 1:
        return date, False
    if len({second for _, second in pairs}) > 1 and len({first for first, _ in pairs}) == 1:
        return turned, False
    if all(first == second for first, second in pairs):
        return date, False
    if half:
        return turned, False
    return (date, True) if day_first is not False else (turned, True)


def seconds_of(cells: pl.Series, written: Written, decimal: str) -> FloatArray:
    """Times as seconds, NaN where a cell holds none, shape (n,).

    Of dates, since 1970-01-01 (UTC where the cells bring their offset, the local clock else); of a time of
    day, since midnight; else since whatever start they count from.
    """
    if written.form in ("elapsed", "epoch"):
        return numbers(cells, decimal)[0] * CLOCK_UNITS[written.unit]
    if written.form == "days":
        return np.round((numbers(cells, decimal)[0] - SPREADSHEET_DAY_0) * 86_400, 3)
    if written.form == "day_share":
        return np.round(numbers(cells, decimal)[0] * 86_400, 3)
    if written.form == "text":
        return _dated(cells, written)
    return _of_parts(cells, written)


def offset_in(cell: str) -> timezone:
    """The offset from UTC that a cell says."""
    found = re.search(r"([+\-])(\d{2}):?(\d{2})\s*$", cell)
    if found is None or ":" not in cell[: found.start()]:
        return timezone.utc
    minutes = int(found[2]) * 60 + int(found[3])
    return (
        timezone(timedelta(minutes=minutes if found[1] == "+" else -minutes))
        if minutes < 1440
        else timezone.utc
    )


def _dated(cells: pl.Series, written: Written) -> FloatArray:
    import polars as pl

    fixed = None if written.zoned or len(cells) < _MANY else _of_fixed_width(cells, written.format)
    if fixed is not None:
        return fixed
    text = _tidied(cells)
    if written.zoned:
        text = text.str.replace(r"\s?(Z|UTC|GMT)$", "+00:00").str.replace(
            r"\s?([+\-]\d{2}):?(\d{2})$", "$1:$2"
        )
        form = written.format + "%:z"
    else:
        form = written.format
    if "%H" not in form and "%I" not in form:
        days = text.str.to_date(form, strict=False)
        return days.cast(pl.Int32).cast(pl.Float64).to_numpy() * 86_400.0
    found = text.str.to_datetime(form, time_unit="us", strict=False)
    if found.null_count() and "%.f" in form:
        # A moment on the full second may be written without its fraction.
        without = text.str.to_datetime(form.replace("%.f", ""), time_unit="us", strict=False)
        found = found.fill_null(without) if found.dtype == without.dtype else found
    return found.dt.timestamp("us").cast(pl.Float64).to_numpy() / 1e6


#: How many digits a part of a pattern has, where it always has as many.
_WIDTHS: Final = {"%Y": 4, "%m": 2, "%d": 2, "%H": 2, "%M": 2, "%S": 2}


def _of_fixed_width(cells: pl.Series, form: str) -> FloatArray | None:
    """The same for a table in which every moment is written with as many characters, a fifth of the time.

    Returns
    -------
    seconds since 1970-01-01, shape (n,); None where one cell is written otherwise
    """
    if cells.null_count() or "%I" in form or "%b" in form or "%y" in form:
        return None
    lengths = cells.str.len_bytes()
    width = int(lengths[0])
    if not (lengths == width).all() or width > 40:
        return None
    joined = "".join(cells.to_list()).encode()
    # A row for each place of the text: what is looked at together lies together.
    table = np.frombuffer(joined, dtype=np.uint8).reshape(len(cells), width).T.copy()
    at, parts = 0, {}
    for piece in re.findall(r"%\.f|%.|.", form):
        if piece == "%.f":
            parts[piece] = table[at + 1 : width]
            if not (table[at] == ord(".")).all():
                return None
            at = width
        elif piece in _WIDTHS:
            parts[piece] = table[at : at + _WIDTHS[piece]]
            at += _WIDTHS[piece]
        else:
            if at >= width or not (table[at] == ord(piece)).all():
                return None
            at += 1
    if at != width or any(((part < 48) | (part > 57)).any() for part in parts.values()):
        return None

    def number(name: str) -> NDArray[np.int64]:
        found = np.zeros(len(cells), dtype=np.int64)
        for digits in parts.get(name, ()):
            found = found * 10 + (digits.astype(np.int64) - 48)
        return found

    year, month, day = number("%Y"), number("%m"), number("%d")
    hour, minute, second = number("%H"), number("%M"), number("%S")
    possible = (month >= 1) & (month <= 12) & (day >= 1) & (day <= 31) & (hour < 24) & (minute < 60)
    if not possible.all():
        return None
    months = ((year - 1970) * 12 + month - 1).astype("datetime64[M]")
    days = months.astype("datetime64[D]").astype(np.int64) + day - 1
    seconds = (days * 86_400 + hour * 3600 + minute * 60 + second).astype(np.float64)
    if "%.f" in parts:
        seconds += number("%.f") / 10.0 ** len(parts["%.f"])
    return seconds


def _tidied(cells: pl.Series) -> pl.Series:
    found = cells.str.strip_chars(' "')
    first = found.drop_nulls()[:1].to_list()
    if first and re.search(r"[,_]| {2}|:\d\d:\d\d:\d", first[0]):
        found = found.str.replace(r"(:\d{2}),(\d{1,9})", "$1.$2").str.replace_all(r"[_ ]+", " ")
        found = found.str.replace_all(",", "", literal=True)
        found = found.str.replace(r"(\d{1,2}:\d{2}:\d{2}):(\d{3})$", "$1.$2")
    return found


def _of_parts(cells: pl.Series, written: Written) -> FloatArray:
    """Hours, minutes and seconds of a clock, which may count beyond a day."""
    import polars as pl

    text = _tidied(cells)
    afternoon = np.zeros(len(text), dtype=bool)
    half = "%p" in written.format or bool(
        text.str.contains(r"(?i)[ap]\.?m\.?$").fill_null(False).any()
    )
    if half:
        afternoon = text.str.contains(r"(?i)p\.?m\.?$").fill_null(False).to_numpy()
        text = text.str.replace(r"(?i)\s?[ap]\.?m\.?$", "")
    text = text.str.replace(r"\s?(Z|UTC|GMT)$", "")
    if "%H.%M.%S" in written.format:
        text = text.str.replace_all(".", ":", literal=True)
    parts = text.str.split_exact(":", 2).struct.unnest()
    values = [parts[name].cast(pl.Float64, strict=False).to_numpy() for name in parts.columns]
    if written.form == "minutes":
        return np.asarray(values[0] * 60 + values[1], dtype=np.float64)
    third = np.where(np.isnan(values[2]) & ~np.isnan(values[1]), 0.0, values[2])
    hours = values[0]
    if half:
        hours = hours % 12 + 12 * afternoon
    return np.asarray(hours * 3600 + values[1] * 60 + third, dtype=np.float64)
