"""How a table's text is laid out: what stands between its fields, its heading, where its rows begin."""

from __future__ import annotations

import csv
import re
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

from limpet.errors import BundleError, Fault
from limpet.foreign.units import is_unit_row

#: Lines that are looked at to tell a layout, and the columns that a table may have.
MOST_LINES, MOST_COLUMNS, MOST_LINE = 400, 200, 64 * 1024
#: Rows of a heading: groups, names, units.
_MOST_HEADINGS: Final = 3
_DELIMITERS: Final = ("\t", ";", ",", "|", " ")
_COMMENTS: Final = ("#", "//", "%", "!", "*", ">")
#: What stands for "not known" in loggers' files (common practice, no source).
NOT_KNOWN: Final = frozenset(
    {"", "-", "--", "---", "nan", "n/a", "na", "none", "null", "nil", "inf", "-inf", "?", "*", "err", "error", "#n/a", "#value!", "#div/0!"}
)  # fmt: skip
_FIGURE: Final = re.compile(
    r"[+\-−]?(?:\d{1,3}(?:[ '\u00a0\u202f.,]\d{3})+|\d+)?(?:[.,]\d*)?(?:[eE][+\-]?\d+)?\s?(?:[%°µμA-Za-z/²Ω]{1,5})?"
)
_TIME: Final = re.compile(
    r"(?:\d{1,4}[-./]\d{1,2}[-./]\d{1,4}|\d{1,2}[ -][A-Za-z]{3}[ -]\d{2,4}|[A-Za-z]{3} \d{1,2},? \d{4}|\d{8})?"
    r"[T_, ]{0,2}(?:\d{1,4}[:.]\d{2}(?:[:.]\d{2}(?:[.,:]\d{1,9})?)?)?\s?(?:[AaPp]\.?[Mm]\.?)?\s?(?:Z|UTC|GMT|[+\-]\d{2}:?\d{2})?"
)


@dataclass(frozen=True, slots=True, kw_only=True)
class Layout:
    """`skip` lines stand before the first row; `raw_header` is the heading as its cells stand in the file.

    `names` are one a column, `units` what stands for units under or beside them, "" where nothing does.
    `preamble` are the lines above, without their marks.
    """

    delimiter: str
    decimal: str
    names: tuple[str, ...]
    units: tuple[str, ...]
    skip: int
    headed: bool
    raw_header: tuple[tuple[str, ...], ...]
    comment: str
    preamble: tuple[str, ...]
    #: Whether a comma or a point in a number may be either mark.
    decimal_unsure: bool = False


def layout_of(file: str, text: str) -> Layout:
    """Look at the beginning of a table's text.

    Raises
    ------
    BundleError
        When it holds no table: no two columns of figures below one another.
    """
    lines = text.splitlines()[:MOST_LINES]
    if any(len(line) > MOST_LINE for line in lines):
        raise BundleError(
            [
                Fault(
                    file,
                    1,
                    0,
                    f"has lines of over {MOST_LINE:,} characters; give a table with a row a line",
                )
            ]
        )
    comment = _comment_of(lines)
    best: tuple[float, str, int] | None = None
    for delimiter in _DELIMITERS:
        scored = _score(lines, delimiter, comment)
        if scored is not None and (best is None or scored[0] > best[0] + 1e-9):
            best = (scored[0], delimiter, scored[1])
    if best is None:
        raise BundleError([Fault(file, 0, 0, _no_table(lines))])
    _, delimiter, width = best
    if width > MOST_COLUMNS:
        raise BundleError(
            [
                Fault(
                    file,
                    1,
                    0,
                    f"has {width:,} columns, at most {MOST_COLUMNS} are read; leave out those that no ride needs",
                )
            ]
        )
    return _laid_out(file, lines, delimiter, width, comment)


def split_line(line: str, delimiter: str) -> list[str]:
    """The fields of one line, without what stands around them."""
    if delimiter == " ":
        return line.split()
    row = next(csv.reader([line], delimiter=delimiter), [])
    return [cell.strip() for cell in row]


def is_figure(cell: str) -> bool:
    """Whether a cell is a number, a time or a date; a sign for "not known" is one too."""
    cell = cell.strip()
    if cell.lower() in NOT_KNOWN:
        return True
    if not any(mark.isdigit() for mark in cell) or len(cell) > 40:
        return False
    return bool(_FIGURE.fullmatch(cell) or _TIME.fullmatch(cell))


def _comment_of(lines: Sequence[str]) -> str:
    """The mark that lines of remarks begin with, "" when there is none."""
    for mark in _COMMENTS:
        if any(line.lstrip().startswith(mark) for line in lines):
            return mark
    return ""


def _is_remark(line: str, comment: str) -> bool:
    return bool(comment) and line.lstrip().startswith(comment)


def _score(lines: Sequence[str], delimiter: str, comment: str) -> tuple[float, int] | None:
    """How well a mark explains the rows, and how wide they are then; None when it makes no columns."""
    body = [line for line in lines if line.strip() and not _is_remark(line, comment)]
    body = body[len(body) // 3 :] if len(body) > 6 else body[1:] or body
    rows = [split_line(line, delimiter) for line in body]
    widths = Counter(len(row) for row in rows)
    if not widths:
        return None
    width = max(widths, key=lambda size: (widths[size], size))
    if width < 2:
        return None
    even = widths[width] / len(rows)
    cells = [cell for row in rows if len(row) == width for cell in row if cell]
    figures = sum(is_figure(cell) for cell in cells) / max(len(cells), 1)
    # A space parts dates from times and words from each other: it counts only where nothing else does.
    return even * (0.1 + figures) * (0.6 if delimiter == " " else 1.0), width


def _laid_out(file: str, lines: list[str], delimiter: str, width: int, comment: str) -> Layout:
    rows = [
        [] if not line.strip() or _is_remark(line, comment) else split_line(line, delimiter)
        for line in lines
    ]
    usual = _usual_share(rows, width)
    first = next(
        (
            at
            for at, row in enumerate(rows)
            if len(row) >= max(width - 1, 2)
            and _figures(row) >= max(0.5 * usual, 0.25)
            and _goes_on(rows, at, width, usual)
        ),
        None,
    )
    if first is None:
        raise BundleError([Fault(file, 0, 0, _no_table(lines))])
    heads, above = _headings(lines, rows, first, width, delimiter, comment)
    names, units = _names_of(heads, width)
    data = [row for row in rows[first:] if row]
    decimal, unsure = _decimal_of(data, delimiter)
    return Layout(
        delimiter=delimiter,
        decimal=decimal,
        names=names,
        units=units,
        skip=first,
        headed=bool(heads),
        raw_header=tuple(tuple(row) for row in heads),
        comment=comment,
        preamble=tuple(
            line.strip().lstrip(comment or " ").strip()[:300]
            for line in lines[:above]
            if line.strip()
        ),
        decimal_unsure=unsure,
    )


def _usual_share(rows: Sequence[list[str]], width: int) -> float:
    shares = [_figures(row) for row in rows if len(row) == width]
    shares = shares[len(shares) // 3 :] or shares
    return sorted(shares)[len(shares) // 2] if shares else 0.0


def _figures(row: Sequence[str]) -> float:
    """The share of a row's filled cells that are figures."""
    filled = [cell for cell in row if cell]
    return sum(is_figure(cell) for cell in filled) / len(filled) if filled else 0.0


def _goes_on(rows: Sequence[list[str]], at: int, width: int, usual: float) -> bool:
    """Whether most of the rows below are of the table too: a preamble has figures of its own."""
    below = [row for row in rows[at : at + 8] if row]
    wide = sum(len(row) >= width - 1 and _figures(row) >= 0.5 * usual for row in below)
    return wide > len(below) / 2


def _headings(
    lines: Sequence[str],
    rows: Sequence[list[str]],
    first: int,
    width: int,
    delimiter: str,
    comment: str,
) -> tuple[list[list[str]], int]:
    """The rows of the heading from above, and how many lines stand before them."""
    heads: list[list[str]] = []
    at = first - 1
    while at >= 0 and len(heads) < _MOST_HEADINGS:
        row = rows[at]
        if not row and lines[at].strip() and not heads:
            # A heading may stand in a remark.
            row = split_line(lines[at].strip().lstrip(comment).strip(), delimiter)
        if not row and not lines[at].strip():
            if heads:
                break
            at -= 1
            continue
        named = [cell for cell in row if cell]
        if not (width - 1 <= len(row) <= width + 1 and named) or _figures(row) > 0.5:
            break
        if heads and len(named) < 2:
            break
        heads.insert(0, (row + [""] * width)[:width])
        at -= 1
    return heads, at + 1


def _names_of(heads: list[list[str]], width: int) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """A name and a unit for each column, out of the rows of a heading."""
    rows = list(heads)
    units = [""] * width
    if len(rows) > 1 and is_unit_row(rows[-1]):
        units = rows.pop()
    parts = rows[-1] if rows else [""] * width
    if len(rows) > 1:
        # Groups stand once above the columns that they hold.
        group, groups = "", []
        for cell in rows[-2]:
            group = cell or group
            groups.append(group)
        parts = [f"{group} {name}".strip() for group, name in zip(groups, parts, strict=True)]
    names: list[str] = []
    for number, name in enumerate(parts, start=1):
        name = " ".join(name.split())[:100] or f"column {number}"
        # A name that stands twice is told apart by its place.
        names.append(name if name not in names else f"{name} ({number})")
    return tuple(names), tuple(unit.strip("[]() ")[:20] for unit in units)


_COMMA: Final = re.compile(r"[+\-−]?\d+,\d+")
_POINT: Final = re.compile(r"[+\-−]?\d+\.\d+")
_THOUSANDS: Final = re.compile(r"[+\-−]?[1-9]\d{0,2},\d{3}")


def _decimal_of(rows: Sequence[list[str]], delimiter: str) -> tuple[str, bool]:
    """The decimal mark, and whether it may as well be the other."""
    cells = [cell.split(" ")[0] for row in rows for cell in row if cell]
    commas = [cell for cell in cells if _COMMA.fullmatch(cell)]
    points = [cell for cell in cells if _POINT.fullmatch(cell)]
    both = [cell for cell in cells if re.fullmatch(r"[+\-−]?\d{1,3}(?:[.,]\d{3})+[.,]\d+", cell)]
    if both:
        # The last mark of a number with two kinds is the decimal one.
        last = Counter(
            max(cell.rfind("."), cell.rfind(",")) == cell.rfind(",")
            for cell in both
            if "." in cell and "," in cell
        )
        if last:
            return ("," if last[True] > last[False] else "."), False
    if not commas or (delimiter == "," and not any("," in cell for cell in cells)):
        return ".", False
    if points and len(points) > len(commas):
        return ".", False
    in_threes = all(_THOUSANDS.fullmatch(cell) for cell in commas)
    return ",", in_threes and not points


def _no_table(lines: Sequence[str]) -> str:
    if len([line for line in lines if line.strip()]) < 2:
        return "holds no rows; a log has a heading and a row for each moment"
    return "holds no table that can be read; a log has columns of figures, one row for each moment"
