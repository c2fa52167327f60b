"""A CSV as read: columns of numbers and of words, and where each row stood in the file."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from limpet.errors import Fault
from limpet.notices import Notice

if TYPE_CHECKING:
    import polars as pl

FloatArray = NDArray[np.float64]


@dataclass(slots=True, kw_only=True)
class Table:
    """Columns in the file's order; a number that is not known is NaN, words are None.

    `line` gives each row's line in the file, shape (n,).
    """

    numbers: dict[str, FloatArray]
    words: dict[str, list[str | None]]
    names: list[str]
    line: NDArray[np.int64]
    unknown: list[str]
    notices: list[Notice] = field(default_factory=list)
    #: Cells and rows that cannot be read; they are NaN or missing in the columns, so that the
    #: rest can be checked as well and every fault be named at once.
    faults: list[Fault] = field(default_factory=list)
    #: The same columns as polars read them, while nothing has been left out of them.
    plain: pl.DataFrame | None = None

    @property
    def height(self) -> int:
        """Rows."""
        return len(self.line)

    def number_of(self, name: str) -> int:
        """The place of a column in the file, from 1."""
        return self.names.index(name) + 1

    def row(self, index: int) -> tuple[object, ...]:
        """One row, for comparing it with another; None where not known."""
        cells: list[object] = []
        for name in self.names:
            if name in self.words:
                cells.append(self.words[name][index])
            else:
                value = float(self.numbers[name][index])
                cells.append(None if np.isnan(value) else value)
        return tuple(cells)

    def keep(self, rows: NDArray[np.bool_]) -> None:
        """Leave out the rows that are not marked."""
        self.numbers = {name: values[rows] for name, values in self.numbers.items()}
        self.words = {
            name: [word for word, stays in zip(words, rows, strict=True) if stays]
            for name, words in self.words.items()
        }
        self.line = self.line[rows]
        self.plain = None

    def rename(self, names: Mapping[str, str]) -> None:
        """Call columns by other names; their places stay."""
        if all(names.get(name, name) == name for name in self.names):
            return
        self.numbers = {names.get(name, name): values for name, values in self.numbers.items()}
        self.words = {names.get(name, name): words for name, words in self.words.items()}
        self.names = [names.get(name, name) for name in self.names]
        self.plain = None

    def frame(self) -> pl.DataFrame:
        """The columns as a table of samples has them: nulls for what is not known."""
        if self.plain is not None:
            return self.plain
        # Loaded here: notes alone, which most tests are, need no tables.
        import polars as pl

        return pl.DataFrame(
            [
                pl.Series(name, self.words[name], dtype=pl.String)
                if name in self.words
                else pl.Series(name, self.numbers[name]).fill_nan(None)
                for name in self.names
            ]
        )
