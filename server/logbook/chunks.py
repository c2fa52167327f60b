"""Samples as immutable chunks of Parquet. Knows no database, so that a process apart can make them."""

from __future__ import annotations

import io
from collections.abc import Sequence
from typing import Any

import polars as pl

from limpet.evidence.reduction import reduced
from server.wire.problems import UnreadableError
from server.wire.stored import wrapped

#: Rows of samples in one chunk: half a megabyte of Parquet, so that a part of a ride is drawn from a part
#: of its samples.
CHUNK_ROWS = 25_000


def chunk_rows(frame: pl.DataFrame) -> list[dict[str, Any]]:
    """A table of samples as the columns of chunks."""
    parts = frame.iter_slices(CHUNK_ROWS)
    return [chunk_of(part, sequence, sequence) for sequence, part in enumerate(parts)]


def chunk_of(part: pl.DataFrame, sequence: int, through: int) -> dict[str, Any]:
    """A stretch of samples as the columns of one chunk."""
    buffer = io.BytesIO()
    part.write_parquet(buffer, compression="zstd", compression_level=1)
    return {
        "sequence": sequence,
        "through": through,
        "first_time_s": part["time_s"][0],
        "last_time_s": part["time_s"][-1],
        "count": part.height,
        "sums": wrapped(reduced(part).to_json()),
        "data": buffer.getvalue(),
    }


def read_chunk(
    data: bytes,
    called: str,
    columns: Sequence[str] | None = None,
    recorded: set[str] | None = None,
) -> pl.DataFrame:
    """A chunk's samples, as far as the columns are there: a chunk of another day may lack one.

    Parameters
    ----------
    called : the instrument, as it is told where its samples cannot be read
    columns : those that are wanted; all when None
    recorded : is told which columns there are, wanted or not

    Raises
    ------
    UnreadableError
        When the bytes are no table any more.
    """
    try:
        if columns is None and recorded is None:
            return pl.read_parquet(io.BytesIO(data))
        there = pl.read_parquet_schema(io.BytesIO(data))
        if recorded is not None:
            recorded.update(there)
        columns = list(there) if columns is None else columns
        return pl.read_parquet(
            io.BytesIO(data), columns=[name for name in columns if name in there]
        )
    except (pl.exceptions.PolarsError, OSError) as cause:
        raise UnreadableError(
            f"Samples of {called} cannot be read any more: what is stored of them is damaged. The test’s "
            "entries are kept; a backup or its exported bundle may still hold the samples."
        ) from cause
