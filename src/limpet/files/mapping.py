"""From the columns of a file to those of the one list: name, unit, sign, offset.

The bundle's own files are the trivial case: every column has its own name and the core's unit.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property

from limpet.evidence.columns import Column
from limpet.files.csv_table import Table
from limpet.units import factor_and_zero


@dataclass(frozen=True, slots=True, kw_only=True)
class Source:
    """One column of a file: `value = sign × (factor × read + zero) + offset`.

    `unit` is as riders write it, such as "km/h"; None when the file has the core's own. `offset` is
    in the core's unit.
    """

    source: str
    column: str
    unit: str | None = None
    sign: int = 1
    offset: float = 0.0


@dataclass(frozen=True)
class ColumnMapping:
    """Which columns of a file are read, and as what; `timed` where every row needs its time.

    Raises
    ------
    ValueError
        When a column or a source stands twice, none is the time, or a unit is not one of its kind.
    """

    columns: Mapping[str, Column]
    sources: tuple[Source, ...]
    timed: bool = True

    def __post_init__(self) -> None:
        """Refuse what cannot be read, before any file is."""
        for names in (
            [item.source for item in self.sources],
            [item.column for item in self.sources],
        ):
            if len(set(names)) < len(names):
                raise ValueError("a mapping names every source and every column once")
        if "time_s" not in self._by_column:
            raise ValueError("a mapping needs a source for time_s")
        for item in self.sources:
            self._factor_and_zero(item)

    @classmethod
    def plain(cls, columns: Mapping[str, Column], *, timed: bool = True) -> ColumnMapping:
        """A file that has the columns under their own names."""
        return cls(columns, tuple(Source(source=name, column=name) for name in columns), timed)

    @cached_property
    def _by_column(self) -> dict[str, Source]:
        return {item.column: item for item in self.sources}

    @cached_property
    def known(self) -> frozenset[str]:
        """What the file calls the columns that are read."""
        return frozenset(item.source for item in self.sources)

    @cached_property
    def words(self) -> frozenset[str]:
        """Those of them that hold words."""
        return frozenset(i.source for i in self.sources if self.columns[i.column].is_text)

    @property
    def time(self) -> str:
        """What the file calls the time since the start."""
        return self._by_column["time_s"].source

    def applied(self, table: Table) -> Table:
        """The table under the columns' names, in the core's units; faults keep the file's places."""
        for item in self.sources:
            if item.source in table.numbers:
                factor, zero = self._factor_and_zero(item)
                if (factor, zero, item.sign, item.offset) != (1.0, 0.0, 1, 0.0):
                    read = table.numbers[item.source]
                    table.numbers[item.source] = item.sign * (factor * read + zero) + item.offset
                    table.plain = None
        table.rename({item.source: item.column for item in self.sources})
        return table

    def _factor_and_zero(self, item: Source) -> tuple[float, float]:
        column = self.columns[item.column]
        if item.unit is None or column.is_text:
            return 1.0, 0.0
        if column.kind is None:
            raise ValueError(f"{item.column} is a bare number and has no unit")
        return factor_and_zero(item.unit, column.kind)
