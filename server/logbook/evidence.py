"""Between rows and the core's RangeTest: what was stored comes back as it was."""

from __future__ import annotations

import io
from dataclasses import fields
from datetime import datetime, timezone
from typing import Any

import polars as pl

from limpet.bundle.columns import ENTRY_COLUMNS
from limpet.bundle.sheet import sheet_adapter
from limpet.evidence.model import Entry as CoreEntry
from limpet.evidence.model import Notice, TestSheet
from limpet.evidence.model import RangeTest as CoreTest
from server.logbook.models import Entry, RangeTest, SampleChunk

__all__ = ["chunk_rows", "core_entry", "core_sheet", "core_test", "entry_values", "sheet_columns"]

#: Rows of samples in one chunk: some 5 MB of Parquet, well below the largest packet.
CHUNK_ROWS = 200_000


def core_test(test: RangeTest) -> CoreTest:
    """The core's value of a stored test, samples and entries included."""
    chunks = list(test.chunks.all())
    frames = [pl.read_parquet(io.BytesIO(bytes(chunk.data))) for chunk in chunks]
    return CoreTest(
        sheet=core_sheet(test),
        samples=pl.concat(frames) if frames else None,
        entries=tuple(core_entry(entry) for entry in test.entries.standing()),
        route_gpx=bytes(test.route_gpx) if test.route_gpx is not None else None,
        notices=tuple(Notice(**notice) for notice in test.notices),
        extra=test.extra,
    )


def core_sheet(test: RangeTest) -> TestSheet:
    """The sheet of a stored test."""
    return sheet_adapter().validate_python(test.sheet)


def core_entry(entry: Entry) -> CoreEntry:
    """The core's value of a stored entry."""
    return CoreEntry(**{item.name: getattr(entry, item.name) for item in fields(CoreEntry)})


def entry_values(entry: Entry | CoreEntry) -> dict[str, Any]:
    """An entry's columns by name, for a row, a revision or a comparison."""
    return {name: getattr(entry, name) for name in ENTRY_COLUMNS}


def sheet_columns(sheet: TestSheet) -> dict[str, Any]:
    """The columns of a test that come from its sheet."""
    started = sheet.started_at
    stored = sheet_adapter().dump_python(sheet, mode="json", exclude_none=True)
    if started is not None:
        stored["started_at"] = started.isoformat()
        if started.tzinfo is None:
            # A time without an offset sorts as UTC and keeps its own text.
            started = started.replace(tzinfo=timezone.utc)
    return {
        "title": sheet.title,
        "purpose": sheet.purpose,
        "started_at": started,
        "started_at_text": _text(sheet.started_at),
        "sheet": stored,
        "vehicle_name": (sheet.vehicle.name or "")[:100],
        "pack_name": (sheet.pack.name or "")[:100],
        "rider_name": ((sheet.rider.name if sheet.rider else None) or "")[:100],
    }


def _text(started: datetime | None) -> str:
    return "" if started is None else started.isoformat()


def chunk_rows(test: RangeTest, frame: pl.DataFrame) -> list[SampleChunk]:
    """A table of samples as chunks, not yet saved."""
    chunks = []
    for sequence, part in enumerate(frame.iter_slices(CHUNK_ROWS)):
        buffer = io.BytesIO()
        part.write_parquet(buffer, compression="zstd", compression_level=1)
        chunks.append(
            SampleChunk(
                test=test,
                sequence=sequence,
                first_time_s=part["time_s"][0],
                last_time_s=part["time_s"][-1],
                count=part.height,
                data=buffer.getvalue(),
            )
        )
    return chunks
