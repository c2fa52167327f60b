"""Samples as each instrument sent them, and the one table that they make together."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

from limpet.evidence.gaps import gap_threshold_s

if TYPE_CHECKING:
    import polars as pl

#: Two clocks of one ride lie no further apart [s]: a year, for one that was never set.
MOST_OFFSET_S = 366 * 86_400.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Stream:
    """What one instrument sent during one test.

    `samples` has `time_s` on the instrument's own clock, strictly increasing; the test's time is
    that plus `clock_offset_s` [s]. `sign` is -1 when it counts the current positive while charging.
    `name` is what the instrument is called, `pack` which of several packs it is of.
    """

    samples: pl.DataFrame
    clock_offset_s: float = 0.0
    sign: int = 1
    name: str = ""
    pack: int | None = None

    def placed(self) -> pl.DataFrame:
        """The samples on the test's own time, current positive when discharging."""
        frame = self.samples
        if self.clock_offset_s:
            frame = frame.with_columns(frame["time_s"] + self.clock_offset_s)
        if self.sign < 0 and "current_a" in frame.columns:
            frame = frame.with_columns(-frame["current_a"])
        return frame


def joined(streams: Sequence[Stream]) -> pl.DataFrame | None:
    """One table of all streams; None without any.

    The stream that tells most of the energy leads: its rows stand as they are. What the others
    measured is set beside them as of the nearest time, as long as it is no farther off than their
    own gaps; where the leading one is silent, their rows stand alone. A column that two streams
    bring is the leading one's; the other fills it where the first has nothing.

    Parameters
    ----------
    streams : of one ride, each with its clock's offset [s]

    Returns
    -------
    rows in the order of their time; a column that nobody sent is not there
    """
    # The commonest case, and the fastest: nothing to join.
    if len(streams) < 2:
        return streams[0].placed() if streams else None
    placed = sorted((stream.placed() for stream in streams), key=_rank)
    table = placed[0]
    for other in placed[1:]:
        table = _beside(table, other)
    return table


def _rank(frame: pl.DataFrame) -> tuple[int, int]:
    """How little a table tells of the energy, the fuller of two equals first."""
    told = ("voltage_v" in frame.columns) + 2 * ("current_a" in frame.columns)
    return -told, -frame.height


def _beside(table: pl.DataFrame, other: pl.DataFrame) -> pl.DataFrame:
    # Loaded here: notes alone, which most tests are, need no tables.
    import polars as pl

    near_s = gap_threshold_s(other["time_s"].to_numpy())
    matched = table.join_asof(
        other, on="time_s", strategy="nearest", tolerance=near_s, suffix=_OTHER, coalesce=True
    )
    twice = [name for name in other.columns if name in table.columns and name != "time_s"]
    matched = matched.with_columns(
        pl.coalesce(pl.col(name), pl.col(f"{name}{_OTHER}")).alias(name) for name in twice
    ).drop([f"{name}{_OTHER}" for name in twice])
    silent_s = gap_threshold_s(table["time_s"].to_numpy())
    alone = (
        other.join_asof(
            table.select("time_s", pl.col("time_s").alias(_AT)),
            on="time_s", strategy="nearest", tolerance=silent_s, coalesce=True,
        )
        .filter(pl.col(_AT).is_null())
        .drop(_AT)
    )  # fmt: skip
    return pl.concat([matched, alone], how="diagonal_relaxed").sort("time_s")


_OTHER, _AT = " of the other", " at"
