"""A look at a part of a drop: what it would become, drawn; answered from the file, and nothing is stored."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, Final, Literal

import numpy as np
from django.contrib.auth.models import User

from limpet.errors import BundleError, Fault
from limpet.foreign.drawn import drawing_of
from limpet.foreign.guess import Look, look_at, pack_doubt
from limpet.foreign.mapping_file import mapping_document
from limpet.foreign.raw import RawTable, read_raw
from limpet.foreign.recipe import LogMapping, heading_digest
from limpet.foreign.records import (
    day_month_unsure,
    looks_like_records,
    record_columns,
    records_of,
)
from limpet.foreign.rests import rides_of
from limpet.foreign.stranger import instrument_of, sheet_for
from limpet.foreign.taken import taken
from limpet.foreign.track import (
    jumps,
    samples_of,
)
from limpet.foreign.tracks import read_track
from limpet.notices import Notice
from limpet.pack import PackSpec
from server.imports.asked import cut_track, mapping_in, record_columns_in
from server.imports.held import Drop
from server.imports.models import KeptMapping
from server.imports.opening import Part
from server.wire.problems import ConflictError
from server.wire.reader import reader_units
from server.wire.stored import unwrapped

#: Rows and cells of a table that are shown.
SHOWN_ROWS: Final = 6
SHOWN_CELL: Final = 40
#: Points of a track that are drawn.
SHOWN_FIXES: Final = 400


def look(
    owner: User,
    drop: Drop,
    part: Part,
    *,
    asked: Mapping[str, Any] | None,
    use: Literal["log", "records"] | None,
    zone: str | None,
    pack: PackSpec | None,
    cut: Mapping[str, Any] | None,
) -> dict[str, Any]:
    """What a part is taken for.

    Parameters
    ----------
    asked : a mapping (of a log) or columns (of records) that the rider changed; guessed when None
    use : as what a table is to be looked at, told when None
    zone : of clocks that say none
    pack : whose log it may be
    cut : what is to be cut off a track

    Raises
    ------
    BundleError
        When it cannot be read at all.
    """
    if part.fault:
        raise BundleError([Fault(part.name, 0, 0, part.fault)])
    if part.what == "track":
        return _look_at_track(drop, part, cut)
    if part.what != "table":
        raise ConflictError(
            "Only logs and tracks are looked at. Other files are taken as they are."
        )
    with drop.mapped(part) as data:
        raw = read_raw(part.name, data, sample=True)
    if use == "records" or (use is None and asked is None and looks_like_records(raw)):
        return _look_at_records(drop, part, asked)
    return _look_at_log(owner, raw, asked=asked, zone=zone, pack=pack)


def _look_at_log(
    owner: User,
    raw: RawTable,
    *,
    asked: Mapping[str, Any] | None,
    zone: str | None,
    pack: PackSpec | None,
) -> dict[str, Any]:
    mapping, kept = (mapping_in(asked), False) if asked else (kept_mapping(owner, raw), True)
    found: Look | None = None
    if mapping is None:
        kept = False
        found = look_at(raw, zone=zone)
        mapping = found.mapping(instrument_of(raw.file), raw)
    said: dict[str, Any] = {
        "kind": "log",
        "of_rows": raw.of_rows,
        "sampled": raw.sampled,
        "headings": list(raw.names),
        "rows": _first_rows(raw),
        "mapping": mapping_document(mapping),
        "kept": kept,
        "columns": _columns_said(raw, mapping, found),
        "time_why": _said(found.time_why) if found is not None else [],
        "unsure": _said(found.unsure) if found is not None else [],
        "faults": [],
        "notices": [],
        "drawing": None,
        "started_at": None,
    }
    try:
        # Without the pack: another's volts are asked about, and not refused.
        got = taken(raw, mapping)
    except BundleError as error:
        # A choice that cannot be is shown beside what it was made from.
        return {**said, "faults": [fault.message for fault in error.faults]}
    doubt = pack_doubt(got.samples, pack)
    if doubt is not None:
        said["unsure"] = [*said["unsure"], doubt.said(reader_units())]
    return {
        **said,
        "notices": _said(got.notices),
        "drawing": _drawing(got.samples),
        "rides": _rides(got.samples),
        "started_at": got.started_at.isoformat() if got.started_at is not None else None,
    }


def _said(notices: Any) -> list[str]:
    return [notice.said(reader_units()) for notice in notices]


def _first_rows(raw: RawTable) -> list[list[str]]:
    rows = raw.cells.head(SHOWN_ROWS).rows()
    return [["" if cell is None else str(cell)[:SHOWN_CELL] for cell in row] for row in rows]


def _columns_said(raw: RawTable, mapping: LogMapping, found: Look | None) -> list[dict[str, Any]]:
    reads = {column.source: column for column in mapping.columns}
    guesses = {guess.source: guess for guess in found.columns} if found is not None else {}
    said = []
    for at, name in enumerate(raw.names):
        read, guess = reads.get(name), guesses.get(name)
        cells = [
            cell for cell in raw.column(at).drop_nulls().head(40).to_list() if str(cell).strip()
        ][:3]
        said.append(
            {
                "source": name,
                "cells": [str(cell)[:SHOWN_CELL] for cell in cells],
                "is_time": name in mapping.time.sources,
                "quantity": read.quantity if read is not None else None,
                "unit": read.unit if read is not None else "",
                "factor": read.factor if read is not None else 1.0,
                "sign": read.sign if read is not None else 1,
                "sure": guess.sure if guess is not None else 1.0,
                "why": _said(guess.why) if guess is not None else [],
            }
        )
    return said


def _rides(samples: Any) -> list[dict[str, float]]:
    found = rides_of(samples)
    return [{"from_s": each.from_s, "to_s": each.to_s} for each in found] if len(found) > 1 else []


def _drawing(samples: Any) -> dict[str, Any]:
    drawn = drawing_of(samples)
    sums = drawn.sums
    return {
        "time_s": drawn.time_s,
        "channels": drawn.channels,
        "sums": {
            "duration_s": sums.duration_s,
            "energy_wh": sums.energy_wh,
            "charge_ah": sums.charge_ah,
            "distance_m": sums.distance_m,
            "wh_per_km": sums.wh_per_km,
            "by": sums.by,
        },
    }


def kept_mapping(owner: User, raw: RawTable) -> LogMapping | None:
    """How tables with these headings were read before; None where none was, or it cannot be read any more."""
    row = (
        KeptMapping.objects.owned_by(owner)
        .filter(headings=heading_digest(raw.names, raw.units if any(raw.units) else ()))
        .first()
    )
    if row is None:
        return None
    try:
        return mapping_in(unwrapped(row.mapping))
    except BundleError:
        return None


def _look_at_records(drop: Drop, part: Part, asked: Mapping[str, Any] | None) -> dict[str, Any]:
    raw = read_raw(part.name, drop.data(part))
    columns = record_columns_in(asked) if asked else record_columns(raw)
    said: dict[str, Any] = {
        "kind": "records",
        "of_rows": raw.of_rows,
        "headings": list(raw.names),
        "rows": _first_rows(raw),
        "record_columns": [{"source": c.source, "field": c.field, "unit": c.unit} for c in columns],
        "unsure": [Notice("look_day_month").said(reader_units())]
        if day_month_unsure(raw, columns)
        else [],
        "faults": [],
        "records": [],
    }
    try:
        records = records_of(raw, columns, sheet_for("ride"))
    except BundleError as error:
        return {**said, "faults": [fault.message for fault in error.faults]}
    for record in records:
        sheet = record.test.sheet if record.test is not None else None
        end = (
            next((e for e in record.test.entries if e.kind == "end"), None)
            if record.test is not None
            else None
        )
        start = record.test.entries[0] if record.test is not None else None
        wall = (
            next((e.wall_wh for e in record.test.entries if e.wall_wh), None)
            if record.test is not None
            else None
        )
        said["records"].append(
            {
                "row": record.row + 1,
                "title": sheet.title if sheet is not None else "",
                "started_at": sheet.started_at.isoformat()
                if sheet is not None and sheet.started_at
                else None,
                "distance_m": end.trip_m if end is not None else None,
                "energy_wh": end.energy_wh if end is not None else None,
                "volts_start_v": start.voltage_rest_v if start is not None else None,
                "volts_end_v": end.voltage_rest_v if end is not None else None,
                "wall_wh": wall,
                "faults": [f"{name} {text}" for name, text in record.faults.items()],
            }
        )
    return said


def _look_at_track(drop: Drop, part: Part, cut: Mapping[str, Any] | None) -> dict[str, Any]:
    track = read_track(part.name, drop.data(part), part.form)
    leaps = jumps(track)
    track = cut_track(track, cut)
    segments = track.segments
    every = max(-(-track.fixes // SHOWN_FIXES), 1)
    heights = any((~np.isnan(segment.altitude_m)).any() for segment in segments)
    unsure = (
        [Notice("look_leap", leap_m=leaps[0])] if leaps and not (cut or {}).get("leaps") else []
    )
    started = track.started_at
    return {
        "kind": "track",
        "form": track.form,
        "fixes": track.fixes,
        "segments": len(segments),
        "length_m": track.length_m,
        "timed": track.is_timed,
        "has_heights": heights,
        "leaps_m": leaps[:5],
        "unsure": _said(unsure),
        "notices": _said(track.notices),
        "faults": [],
        "started_at": started.isoformat() if started is not None else None,
        "path": [
            [
                [round(float(a), 6), round(float(b), 6)]
                for a, b in zip(s.latitude_deg[::every], s.longitude_deg[::every], strict=True)
            ]
            for s in segments
        ],
        "drawing": _drawing(samples_of(track)) if track.is_timed else None,
        "rides": _rides(samples_of(track)) if track.is_timed else [],
    }
