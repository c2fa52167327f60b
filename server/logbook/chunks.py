"""Samples as immutable chunks of Parquet. Knows no database, so that a process apart can make them."""

from __future__ import annotations

import io
from typing import Any

import polars as pl

#: Rows of samples in one chunk: some 5 MB of Parquet, well below the largest packet.
CHUNK_ROWS = 200_000


def chunk_rows(frame: pl.DataFrame) -> list[dict[str, Any]]:
    """A table of samples as the columns of chunks."""
    chunks = []
    for sequence, part in enumerate(frame.iter_slices(CHUNK_ROWS)):
        buffer = io.BytesIO()
        part.write_parquet(buffer, compression="zstd", compression_level=1)
        chunks.append(
            {
                "sequence": sequence,
                "first_time_s": part["time_s"][0],
                "last_time_s": part["time_s"][-1],
                "count": part.height,
                "data": buffer.getvalue(),
            }
        )
    return chunks
