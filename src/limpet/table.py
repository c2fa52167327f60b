"""Columns by their names, for whatever reads tables."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    import pandas
    import polars as pl
    import pyarrow


class Table:
    """A table: names and columns of one length, None where a cell is not known.

    Parameters
    ----------
    columns : by their names, each of shape (n,); the unit is the end of the name
    """

    __slots__ = ("columns",)

    def __init__(self, columns: Mapping[str, Sequence[object]]) -> None:
        self.columns = {name: list(values) for name, values in columns.items()}

    def __len__(self) -> int:
        return len(next(iter(self.columns.values()), []))

    def __repr__(self) -> str:
        return f"Table({len(self)} rows: {', '.join(self.columns)})"

    def to_polars(self) -> pl.DataFrame:
        """The same as a polars DataFrame."""
        import polars as pl

        return pl.DataFrame(self.columns, strict=False)

    def to_arrow(self) -> pyarrow.Table:
        """The same as an Arrow table.

        Raises
        ------
        ImportError
            When pyarrow is not installed (the extra "arrow").
        """
        import pyarrow

        return pyarrow.table(self.columns)

    def to_pandas(self) -> pandas.DataFrame:
        """The same as a pandas DataFrame.

        Raises
        ------
        ImportError
            When pandas is not installed (the extra "pandas").
        """
        import pandas

        return pandas.DataFrame(self.columns)
