"""Cells of text as numbers: decimal commas, thousands, signs of other kinds, units behind them."""

from __future__ import annotations

import re
from collections import Counter
from typing import TYPE_CHECKING, Final

import numpy as np
from numpy.typing import NDArray

from limpet.foreign.layout import NOT_KNOWN
from limpet.foreign.units import unit_of

if TYPE_CHECKING:
    import polars as pl

FloatArray = NDArray[np.float64]
#: A number with words behind it.
_WITH_UNIT: Final = re.compile(r"^[+\-−]?[\d.,' ]*\d\s*([%°µμA-Za-z/²Ω][^\d]{0,11})$")
_LOOKED_AT: Final = 60


def numbers(cells: pl.Series, decimal: str) -> tuple[FloatArray, int]:
    """Cells as numbers.

    Parameters
    ----------
    cells : as text
    decimal : the mark before decimals, "." or ","

    Returns
    -------
    (values, NaN where a cell is empty or no number, shape (n,); how many cells are neither)
    """
    import polars as pl

    if cells.dtype == pl.Float64:
        values = cells.to_numpy().astype(np.float64, copy=True)
        values[~np.isfinite(values)] = np.nan
        return values, 0
    text = cells
    if decimal == "," and _parts_thousands(text):
        text = text.str.replace_all(".", "", literal=True)
    plain = text.cast(pl.Float64, strict=False)
    lost = plain.is_null() & text.is_not_null()
    if lost.any():
        held = text.filter(lost)
        again = _cleaned(held, decimal).cast(pl.Float64, strict=False)
        plain = plain.scatter(lost.arg_true(), again)
        words = text.filter(plain.is_null() & text.is_not_null()).str.strip_chars()
        odd = int((~words.str.to_lowercase().is_in(list(NOT_KNOWN))).sum())
    else:
        odd = 0
    values = plain.to_numpy().astype(np.float64, copy=True)
    values[~np.isfinite(values)] = np.nan
    return values, odd


def _parts_thousands(text: pl.Series) -> bool:
    """Whether points part thousands in a column whose decimal mark is a comma: all of them must."""
    pointed = text.filter(text.str.contains(".", literal=True).fill_null(False))
    parted = pointed.str.contains(r"^\s*[+\-−]?\d{1,3}(\.\d{3})+(,\d*)?\s*$")
    return bool(len(pointed) and parted.all())


def _cleaned(text: pl.Series, decimal: str) -> pl.Series:
    found = text.str.strip_chars().str.replace_all("[\u2212\u2013]", "-")
    found = found.str.replace_all("[ \u00a0\u202f']", "")
    found = found.str.replace(r"[%°µμA-Za-z/²Ω][^\d]*$", "")
    if decimal == ",":
        return found.str.replace(",", ".", literal=True)
    return found.str.replace_all(",", "", literal=True)


def unit_of_cells(cells: pl.Series) -> str:
    """The unit that stands behind the numbers of a column, "" where none does."""
    import polars as pl

    found: Counter[str] = Counter()
    looked = 0
    for cell in cells.drop_nulls()[:_LOOKED_AT].cast(pl.String).to_list():
        match = _WITH_UNIT.match(cell.strip())
        looked += 1
        if match is not None and unit_of(match[1]) is not None:
            found[match[1].strip()] += 1
    if not found:
        return ""
    unit, count = found.most_common(1)[0]
    return unit if count > looked / 2 else ""
