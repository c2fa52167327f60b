"""Samples as immutable chunks of Parquet. Knows no database, so that a process apart can make them."""

from __future__ import annotations

import io
from typing import Any

import polars as pl

from limpet.evidence.reduction import reduced
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
