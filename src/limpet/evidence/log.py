"""The samples of a test, opened once: columns, where they are known, and a view at a few a second."""

from __future__ import annotations

from typing import TYPE_CHECKING, Final

import numpy as np
from numpy.typing import NDArray

if TYPE_CHECKING:
    import polars as pl

FloatArray = NDArray[np.float64]

#: Samples a second that tell a trend as well as all of them do [Hz] (assumption): a step of current is held
#: for seconds, a fade for minutes. Integrals take every sample.
MOST_HZ: Final = 5.0


class Log:
    """A test's samples as arrays, each made when it is first asked for and kept.

    Parameters
    ----------
    samples : `time_s` and any of the columns of bundle.md, None where nothing was logged
    """

    __slots__ = ("_columns", "_known", "_samples", "_thinned")

    def __init__(self, samples: pl.DataFrame | None) -> None:
        self._samples = samples
        self._columns: dict[str, FloatArray | None] = {}
        self._known: dict[tuple[str, ...], tuple[FloatArray, ...] | None] = {}
        self._thinned: dict[tuple[str, ...], tuple[FloatArray, ...] | None] = {}

    def __reduce__(self) -> tuple[type[Log], tuple[pl.DataFrame | None]]:
        return Log, (self._samples,)

    def column(self, name: str) -> FloatArray | None:
        """A column, shape (n,), NaN where not known; None when it is absent or empty."""
        if name not in self._columns:
            self._columns[name] = self._opened(name)
        return self._columns[name]

    def _opened(self, name: str) -> FloatArray | None:
        if self._samples is None or name not in self._samples.columns:
            return None
        series = self._samples[name]
        if series.null_count() == len(series):
            return None
        values = series.to_numpy()
        if values.dtype.kind == "f":
            # It is lent to everybody.
            values = values.view()
            values.flags.writeable = False
        return values

    def known(
        self, *names: str, from_s: float | None = None, until_s: float | None = None
    ) -> tuple[FloatArray, ...] | None:
        """Times and columns where all of them are known.

        Parameters
        ----------
        names : of the columns
        from_s, until_s : the first and the last time that is wanted [s], all when None

        Returns
        -------
        `time_s` [s] and the columns in the order of their names, each of shape (k,); None where one of them
        is absent
        """
        if names not in self._known:
            self._known[names] = self._rows_known(names)
        return _between(self._known[names], from_s, until_s)

    def thinned(
        self, *names: str, from_s: float | None = None, until_s: float | None = None
    ) -> tuple[FloatArray, ...] | None:
        """The same, but of a log of more than twice `MOST_HZ` no more than `MOST_HZ` rows a second."""
        if names not in self._thinned:
            self._thinned[names] = _a_few_a_second(self.known(*names))
        return _between(self._thinned[names], from_s, until_s)

    def _rows_known(self, names: tuple[str, ...]) -> tuple[FloatArray, ...] | None:
        columns = []
        for name in ("time_s", *names):
            column = self.column(name)
            if column is None:
                return None
            columns.append(column)
        unknown = np.zeros(len(columns[0]), dtype=np.bool_)
        for column in columns[1:]:
            unknown |= np.isnan(column)
        return tuple(column[~unknown] for column in columns) if unknown.any() else tuple(columns)


def _between(
    rows: tuple[FloatArray, ...] | None, from_s: float | None, until_s: float | None
) -> tuple[FloatArray, ...] | None:
    if rows is None or (from_s is None and until_s is None):
        return rows
    time = rows[0]
    first = 0 if from_s is None else int(np.searchsorted(time, from_s, side="left"))
    end = len(time) if until_s is None else int(np.searchsorted(time, until_s, side="right"))
    return tuple(column[first:end] for column in rows)


def _a_few_a_second(rows: tuple[FloatArray, ...] | None) -> tuple[FloatArray, ...] | None:
    """The first row of each slot of 1/`MOST_HZ` seconds; all rows where that leaves out less than half."""
    if rows is None or len(rows[0]) < 2:
        return rows
    slots = np.floor(rows[0] * MOST_HZ)
    first = np.concatenate([[0], np.flatnonzero(slots[1:] != slots[:-1]) + 1])
    return rows if len(first) > len(slots) / 2 else tuple(column[first] for column in rows)
