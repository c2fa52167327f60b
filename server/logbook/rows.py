"""Between rows and the core's RangeTest: what was stored comes back as it was."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import fields
from datetime import datetime, timezone
from typing import Any

import polars as pl
from pydantic import ValidationError

from limpet.evidence.columns import ENTRY_COLUMNS
from limpet.evidence.model import Entry as CoreEntry
from limpet.evidence.model import RangeTest as CoreTest
from limpet.evidence.model import TestSheet
from limpet.evidence.streams import Stream as CoreStream
from limpet.evidence.streams import joined
from limpet.files.sheet import document_of, sheet_adapter
from limpet.notices import Notice
from server.logbook.chunks import read_chunk
from server.logbook.models import Entry, RangeTest
from server.wire.problems import UnreadableError
from server.wire.stored import unwrapped


def core_test(test: RangeTest, *, photos: bool = False) -> CoreTest:
    """The core's value of a stored test, samples and entries included; pictures, and what a lone instrument
    is called, where it is to leave as a bundle."""
    streams = core_streams(test)
    return CoreTest(
        sheet=core_sheet(test),
        samples=joined(streams),
        streams=tuple(streams) if len(streams) > 1 or photos else (),
        entries=tuple(core_entry(entry) for entry in test.entries.standing()),
        route_gpx=bytes(test.route_gpx) if test.route_gpx is not None else None,
        notices=tuple(Notice.from_json(kept) for kept in test.notices),
        extra=test.extra,
        photos={row.name: bytes(row.data) for row in test.photos.all()} if photos else {},
    )


def core_streams(
    test: RangeTest,
    from_s: float | None = None,
    to_s: float | None = None,
    *,
    columns: Sequence[str] | None = None,
    recorded: set[str] | None = None,
) -> list[CoreStream]:
    """The core's values of a test's streams; with times [s], of what lies between them at least.

    Parameters
    ----------
    columns : those that are wanted; all when None
    recorded : is told which columns there are in what was read, wanted or not
    """
    found = []
    for stream in test.streams.all():
        chunks = stream.chunks.all()
        if from_s is not None:
            chunks = chunks.filter(last_time_s__gte=from_s - stream.clock_offset_s)
        if to_s is not None:
            chunks = chunks.filter(first_time_s__lte=to_s - stream.clock_offset_s)
        frames = [
            read_chunk(bytes(chunk.data), stream.instrument, columns, recorded) for chunk in chunks
        ]
        if frames:
            # A chunk of another day may lack a column or bring one of its own.
            samples = pl.concat(frames, how="diagonal_relaxed")
            found.append(
                CoreStream(
                    samples=samples,
                    clock_offset_s=stream.clock_offset_s,
                    sign=stream.sign,
                    name=stream.instrument,
                )
            )
    return found


def core_sheet(test: RangeTest) -> TestSheet:
    """The sheet of a stored test."""
    try:
        return sheet_adapter().validate_python(unwrapped(test.sheet))
    except ValidationError as cause:
        first = cause.errors()[0]
        where = ".".join(str(part) for part in first["loc"]) or "it"
        raise UnreadableError(
            f"The sheet of this test was stored in a shape that cannot be read any more: {where} "
            f"{first['msg'].lower()}. Its entries are kept; export them, or remove the test."
        ) from cause


def core_entry(entry: Entry) -> CoreEntry:
    """The core's value of a stored entry."""
    return CoreEntry(**{item.name: getattr(entry, item.name) for item in fields(CoreEntry)})


def entry_values(entry: Entry | CoreEntry) -> dict[str, Any]:
    """An entry's columns by name, for a row, a revision or a comparison."""
    return {name: getattr(entry, name) for name in ENTRY_COLUMNS}


def sheet_columns(sheet: TestSheet) -> dict[str, Any]:
    """The columns of a test that come from its sheet."""
    started = sheet.started_at
    if started is not None and started.tzinfo is None:
        # A time without an offset sorts as UTC and keeps its own text.
        started = started.replace(tzinfo=timezone.utc)
    return {
        "title": sheet.title,
        "purpose": sheet.purpose,
        "started_at": started,
        **({"sorted_at": started} if started is not None else {}),
        "started_at_text": _text(sheet.started_at),
        "sheet": document_of(sheet),
        "ended_how": (sheet.ending.reason if sheet.ending else None) or "",
        "tags_text": tags_text(sheet.tags),
        "month": sheet.started_at.month if sheet.started_at is not None else None,
        "vehicle_name": (sheet.vehicle.name or "")[:100],
        "pack_name": (sheet.pack.name or "")[:100],
        "rider_name": ((sheet.rider.name if sheet.rider else None) or "")[:100],
    }


def tags_text(tags: Sequence[str]) -> str:
    """Tags as a column that one of them is found in: each between two bars."""
    return f"|{'|'.join(tag.replace('|', '/') for tag in tags)}|" if tags else ""


def tags_of(text: str) -> list[str]:
    """The tags of such a column."""
    return [tag for tag in text.split("|") if tag]


def _text(started: datetime | None) -> str:
    return "" if started is None else started.isoformat()
