"""A test and its result as a workbook: readings and samples as they are, the sums as formulas that go on living."""

from __future__ import annotations

import io
from collections.abc import Sequence
from typing import Any, Final

import numpy as np
from numpy.typing import NDArray

from limpet.evidence.columns import ENTRY_COLUMNS, SAMPLE_COLUMNS
from limpet.evidence.model import RangeTest
from limpet.notices.lines import SHEET
from limpet.quantity import Quantity
from limpet.read.window import ride_window
from limpet.readers import METRIC
from limpet.tell.result import Result
from limpet.units import METRES_PER_KM, METRES_PER_MILE
from limpet.words import METHODS

FloatArray = NDArray[np.float64]
#: Rows of samples in a sheet; of more every so many are written, and the sheet says so.
MOST_ROWS: Final = 100_000
#: A spreadsheet takes no longer text in a cell.
_LONGEST: Final = 32_000


def _said(code: str, **values: float) -> str:
    return SHEET.say(code, values, METRIC)


def workbook(test: RangeTest, result: Result) -> bytes:
    """The workbook.

    Parameters
    ----------
    test : as recorded
    result : of this test

    Returns
    -------
    Office Open XML (.xlsx); texts are written as texts, so nothing that looks like a formula is run

    Notes
    -----
    Energy from the samples is their trapezoidal sum over the ride, as the result has it where no gap was filled;
    what comes from another method stands as its value. Consumption is the quotient of the two cells above it.
    """
    import xlsxwriter

    out = io.BytesIO()
    options = {
        "in_memory": True,
        "strings_to_formulas": False,
        "strings_to_urls": False,
        "strings_to_numbers": False,
    }
    with xlsxwriter.Workbook(out, options) as book:
        bold = book.add_format({"bold": True})
        sums = book.add_worksheet("Sums")
        _entries(book.add_worksheet("Readings"), test, bold)
        span = _samples(book.add_worksheet("Samples"), test, bold)
        _sums(sums, test, result, span, bold)
        _method(book.add_worksheet("Method"), result, bold)
    return out.getvalue()


def _entries(sheet: Any, test: RangeTest, bold: Any) -> None:
    used = [
        name
        for name in ENTRY_COLUMNS
        if name in ("time_s", "kind")
        or any(getattr(entry, name) is not None for entry in test.entries)
    ]
    for column, name in enumerate(used):
        sheet.write_string(0, column, name, bold)
    for row, entry in enumerate(test.entries, start=1):
        for column, name in enumerate(used):
            _cell(sheet, row, column, getattr(entry, name))
    sheet.freeze_panes(1, 0)


def _cell(sheet: Any, row: int, column: int, value: object) -> None:
    if value is None:
        return
    if isinstance(value, int | float):
        if np.isfinite(value):
            sheet.write_number(row, column, float(value))
    else:
        sheet.write_string(row, column, str(value)[:_LONGEST])


class _Span:
    """Where the samples of the ride stand: their columns' letters and their first and last row, from 1."""

    def __init__(self, columns: dict[str, str], first: int, last: int) -> None:
        self.columns, self.first, self.last = columns, first, last

    def range(self, name: str, shift: int = 0) -> str:
        """The cells of a column without the last row (or the first, shifted by one)."""
        letter = self.columns[name]
        return f"Samples!${letter}${self.first + shift}:${letter}${self.last - 1 + shift}"


def _samples(sheet: Any, test: RangeTest, bold: Any) -> _Span | None:
    if test.samples is None:
        sheet.write_string(0, 0, _said("no_samples"))
        return None
    from xlsxwriter.utility import xl_col_to_name

    names = [name for name in test.samples.columns if name in SAMPLE_COLUMNS]
    every = max(-(-test.samples.height // MOST_ROWS), 1)
    frame = test.samples.select(names).gather_every(every)
    for column, name in enumerate(names):
        sheet.write_string(0, column, name, bold)
        for row, value in enumerate(frame[name].to_list(), start=1):
            _cell(sheet, row, column, value)
    if every > 1:
        sheet.write_string(
            0, len(names) + 1, _said("every_nth", every=every, count=test.samples.height)
        )
    sheet.freeze_panes(1, 0)
    window = ride_window(test)
    time = frame["time_s"].to_numpy()
    inside = np.flatnonzero((time >= window.start_s) & (time <= window.end_s))
    if len(inside) < 2:
        return None
    letters = {name: xl_col_to_name(at) for at, name in enumerate(names)}
    return _Span(letters, int(inside[0]) + 2, int(inside[-1]) + 2)


def _sums(sheet: Any, test: RangeTest, result: Result, span: _Span | None, bold: Any) -> None:
    sheet.set_column(0, 0, 34)
    sheet.set_column(1, 4, 14)
    sheet.write_string(0, 0, test.sheet.title[:200], bold)
    for column, text in enumerate(("", "value", "unit", "low (95%)", "high (95%)")):
        sheet.write_string(2, column, text, bold)
    energy_at = _line(sheet, 3, "Energy", result.energy, "Wh", _energy_formula(test, result, span))
    way_at = _line(sheet, 4, "Distance", result.distance, "m", None)
    if result.consumption is not None and energy_at and way_at:
        for row, unit, metres, quantity in (
            (5, "Wh/km", METRES_PER_KM, result.consumption.wh_per_km),
            (6, "Wh/mi", METRES_PER_MILE, result.consumption.wh_per_mi),
        ):
            _line(sheet, row, "Consumption", quantity, unit, f"={energy_at}/({way_at}/{metres!r})")
    _line(sheet, 7, "Range to cut-off", result.range_to_cutoff, "m", None)
    _line(sheet, 8, "Range to reserve", result.range_to_reserve, "m", None)
    charge_ah = None if span is None else _summed(test, span, "current_a")
    if span is not None and charge_ah is not None:
        formula = _trapezoid(span, "current_a", None)
        sheet.write_string(10, 0, "Amp-hours of the samples")
        sheet.write_formula(10, 1, formula, None, charge_ah)
        sheet.write_string(10, 2, "Ah")
    sheet.write_string(12, 0, _said("live_sums"))


def _line(
    sheet: Any, row: int, label: str, quantity: Quantity | None, unit: str, formula: str | None
) -> str | None:
    """A figure with its bounds; the address of its value, None where it is not known."""
    sheet.write_string(row, 0, label)
    sheet.write_string(row, 2, unit)
    if quantity is None:
        sheet.write_string(row, 1, "not known")
        return None
    if formula is None:
        sheet.write_number(row, 1, quantity.value)
    else:
        # What a reader shows that runs no formula.
        sheet.write_formula(row, 1, formula, None, quantity.value)
    sheet.write_number(row, 3, quantity.low)
    sheet.write_number(row, 4, quantity.high)
    return f"$B${row + 1}"


def _energy_formula(test: RangeTest, result: Result, span: _Span | None) -> str | None:
    """The sum of the samples where the energy is theirs; None where it is another method's.

    What gaps took, and what earlier tests taught of the instruments, stands beside the sum as a number.
    """
    used = next((method for method in result.energy_methods if method.used), None)
    if used is None or used.method != "sampled" or span is None or result.energy is None:
        return None
    summed = _summed(test, span, "voltage_v", "current_a")
    if summed is None:
        return None
    apart = result.energy.value - summed
    formula = _trapezoid(span, "voltage_v", "current_a")
    return formula if abs(apart) < 1e-9 * max(summed, 1.0) else f"{formula}+({apart!r})"


def _trapezoid(span: _Span, name: str, times: str | None) -> str:
    def product(shift: int) -> str:
        other = f"*{span.range(times, shift)}" if times is not None else ""
        return f"{span.range(name, shift)}{other}"

    step = f"({span.range('time_s', 1)}-{span.range('time_s')})"
    return f"=SUMPRODUCT({step},{product(1)}+{product(0)})/7200"


def _summed(test: RangeTest, span: _Span, *names: str) -> float | None:
    """What the formula comes to; None where the sheet holds other rows than the log, or empty cells."""
    if (
        test.samples is None
        or test.samples.height > MOST_ROWS
        or not set(names) <= span.columns.keys()
    ):
        return None
    frame = test.samples[span.first - 2 : span.last - 1]
    if any(frame[name].null_count() for name in names):
        return None
    time = frame["time_s"].to_numpy()
    rate = np.prod([frame[name].to_numpy() for name in names], axis=0)
    return float((np.diff(time) * (rate[1:] + rate[:-1])).sum()) / 7200


def _method(sheet: Any, result: Result, bold: Any) -> None:
    sheet.set_column(0, 0, 30)
    sheet.set_column(1, 3, 14)
    for column, text in enumerate(("method", "value", "unit", "u", "", "note")):
        sheet.write_string(0, column, text, bold)
    methods: Sequence[Any] = (*result.energy_methods, *result.distance_methods)
    row = 0
    for row, item in enumerate(methods, start=1):
        sheet.write_string(row, 0, METHODS[item.method][0])
        sheet.write_number(row, 1, item.quantity.value)
        sheet.write_string(row, 2, item.quantity.unit)
        sheet.write_number(row, 3, item.quantity.standard_uncertainty)
        sheet.write_string(
            row, 4, "used" if item.used else "agrees" if item.agrees else "disagrees"
        )
        sheet.write_string(row, 5, item.note[:_LONGEST])
    at = row + 2
    sheet.write_string(at, 0, "input", bold)
    for each in result.inputs:
        at += 1
        sheet.write_string(at, 0, each.name)
        sheet.write_number(at, 1, each.value)
        sheet.write_number(at, 3, each.standard_uncertainty)
        sheet.write_string(at, 5, each.source[:_LONGEST])
    at += 2
    sheet.write_string(at, 0, "notes", bold)
    for notice in result.warnings:
        at += 1
        sheet.write_string(at, 0, notice.said(METRIC)[:_LONGEST])
