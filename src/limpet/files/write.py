"""A RangeTest out as a bundle: open text files that any spreadsheet or script can read."""

from __future__ import annotations

import csv
import io
import json
import re
import zipfile
from collections.abc import Mapping
from dataclasses import replace
from pathlib import Path
from typing import TYPE_CHECKING

from limpet.bounds import MOST_NAME
from limpet.evidence.columns import ENTRY_COLUMNS, SAMPLE_COLUMNS, Column
from limpet.evidence.model import (
    Entry,
    Instruments,
    RangeTest,
    SampleSources,
    StreamPlace,
    TestSheet,
)
from limpet.files.sheet import write_sheet
from limpet.files.shielded import shielded, shielded_frame
from limpet.files.tables import ENTRIES, SAMPLES

if TYPE_CHECKING:
    import polars as pl

#: The same bytes for the same test: a zip needs some date, and this is the earliest it can hold.
_ZIP_DATE = (1980, 1, 1, 0, 0, 0)


def bundle_files(test: RangeTest) -> dict[str, bytes]:
    """The files of a bundle by name; reading them back gives the same test."""
    tables, sheet = _tables_of(test)
    files = {"test.json": write_sheet(sheet, test.extra)}
    resources: list[dict[str, object]] = []
    for name, frame in tables.items():
        files[name] = shielded_frame(frame).write_csv().encode("utf-8")
        called = name.removesuffix(".csv").lower()
        resources.append(_resource(called, name, frame.columns, SAMPLE_COLUMNS))
    if test.entries:
        names = _entry_columns(test.entries)
        files[ENTRIES] = _entries_csv(test.entries, names)
        resources.append(_resource("entries", ENTRIES, names, ENTRY_COLUMNS))
    if test.route_gpx is not None:
        files["route.gpx"] = test.route_gpx
        resources.append(
            {
                "name": "route",
                "path": "route.gpx",
                "format": "gpx",
                "mediatype": "application/gpx+xml",
            }
        )
    for number, (name, data) in enumerate(sorted(test.photos.items()), start=1):
        files[name] = data
        resources.append(
            {"name": f"photo-{number}", "path": name, "format": "jpg", "mediatype": "image/jpeg"}
        )
    resources.append(
        {"name": "test", "path": "test.json", "format": "json", "mediatype": "application/json"}
    )
    package = {
        "profile": "data-package",
        "name": "range-test",
        "title": test.sheet.title,
        "limpet": {"bundle": 1},
        "resources": resources,
    }
    text = json.dumps(package, indent=2, ensure_ascii=False) + "\n"
    return {"datapackage.json": text.encode("utf-8"), **files}


def _tables_of(test: RangeTest) -> tuple[dict[str, pl.DataFrame], TestSheet]:
    """Samples by the files that they go into, and the sheet that says where further instruments' lie."""
    sheet = _with_logger(test)
    if len(test.streams) < 2:
        return ({} if test.samples is None else {SAMPLES: test.samples}), sheet
    first, *others = test.streams
    tables = {SAMPLES: first.placed()}
    places: dict[str, StreamPlace] = {}
    for stream in others:
        called = _file_name(stream.name, places)
        # The format knows no instrument that counts the other way: what charges is negative in every file.
        tables[f"samples-{called}.csv"] = replace(stream, clock_offset_s=0.0).placed()
        places[called] = StreamPlace(
            offset_s=stream.clock_offset_s,
            pack=stream.pack,
            name=stream.name if stream.name != called else None,
        )
    tools = sheet.instruments or Instruments()
    return tables, replace(sheet, instruments=replace(tools, streams=places))


def _with_logger(test: RangeTest) -> TestSheet:
    """The sheet, with what the first stream's instrument is called."""
    if not test.streams or test.streams[0].name in ("", SAMPLES):
        return test.sheet
    tools = test.sheet.instruments or Instruments()
    samples = replace(tools.samples or SampleSources(), name=test.streams[0].name[:MOST_NAME])
    return replace(test.sheet, instruments=replace(tools, samples=samples))


def _file_name(name: str, taken: Mapping[str, object]) -> str:
    """An instrument's name as a part of a file's, unlike the others."""
    plain = re.sub(r"[^A-Za-z0-9_.-]+", "-", name).strip("-.")[:50] or "instrument"
    found, number = plain, 2
    while found in taken:
        found, number = f"{plain}-{number}", number + 1
    return found


def write_folder(test: RangeTest, folder: Path) -> None:
    """Write a bundle into a folder, which is made if need be."""
    folder.mkdir(parents=True, exist_ok=True)
    for name, data in bundle_files(test).items():
        (folder / name).parent.mkdir(exist_ok=True)
        (folder / name).write_bytes(data)


def write_zip(test: RangeTest) -> bytes:
    """A zipped bundle, byte for byte the same for the same test."""
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in bundle_files(test).items():
            member = zipfile.ZipInfo(name, _ZIP_DATE)
            member.compress_type = zipfile.ZIP_DEFLATED
            archive.writestr(member, data)
    return buffer.getvalue()


def _resource(
    name: str, path: str, columns: list[str], known: Mapping[str, Column]
) -> dict[str, object]:
    """A tabular resource with its table schema (Frictionless Data Package v1)."""
    described: list[dict[str, object]] = []
    for column in columns:
        is_text = column not in known or known[column].is_text
        entry: dict[str, object] = {"name": column, "type": "string" if is_text else "number"}
        if column in known:
            entry["description"] = known[column].words
        if column == "time_s":
            entry["constraints"] = {"required": True}
        described.append(entry)
    return {
        "name": name,
        "path": path,
        "profile": "tabular-data-resource",
        "format": "csv",
        "mediatype": "text/csv",
        "encoding": "utf-8",
        "schema": {"fields": described, "missingValues": [""]},
    }


def _entry_columns(entries: tuple[Entry, ...]) -> list[str]:
    """The format's columns that hold anything, then the rider's own."""
    used = [
        name
        for name in ENTRY_COLUMNS
        if name in ("time_s", "kind") or any(getattr(entry, name) is not None for entry in entries)
    ]
    own = sorted({name for entry in entries for name in entry.extra})
    return used + own


def _entries_csv(entries: tuple[Entry, ...], names: list[str]) -> bytes:
    buffer = io.StringIO(newline="")
    writer = csv.writer(buffer, lineterminator="\r\n")
    writer.writerow([shielded(name) for name in names])
    for entry in entries:
        row = [
            getattr(entry, name) if name in ENTRY_COLUMNS else entry.extra.get(name)
            for name in names
        ]
        # repr of a float is the shortest text that reads back to the same bits.
        writer.writerow(
            [
                ""
                if cell is None
                else repr(cell)
                if isinstance(cell, float)
                else shielded(cell)
                if isinstance(cell, str)
                else cell
                for cell in row
            ]
        )
    return buffer.getvalue().encode("utf-8")
