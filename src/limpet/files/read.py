"""One bundle in, one RangeTest out, or every fault of every file at once."""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import Path
from typing import TYPE_CHECKING

from limpet.errors import BundleError, Fault
from limpet.evidence.model import Entry, RangeTest, StreamPlace, TestSheet
from limpet.evidence.streams import Stream, joined
from limpet.files.archive import MOST_FURTHER, files_of, is_read, stream_name
from limpet.files.gpx import read_gpx
from limpet.files.photos import MOST_PHOTOS, is_photo, plain_jpeg
from limpet.files.sheet import read_sheet
from limpet.files.tables import ENTRIES, SAMPLES, read_entries, read_samples
from limpet.notices import Notice

if TYPE_CHECKING:
    import polars as pl


def read_bundle(path: Path) -> RangeTest:
    """Read the bundle at a path, folder or zip.

    Raises
    ------
    BundleError
        With every fault of every file.
    """
    return read_files(files_of(path))


def read_files(files: Mapping[str, bytes], *, begun: bool = False) -> RangeTest:
    """Read a bundle from its files by name.

    Parameters
    ----------
    files : by name, as they lie in the folder
    begun : whether a sheet alone will do, as a ride has that has only begun

    Raises
    ------
    BundleError
        With every fault of every file.
    """
    faults: list[Fault] = []
    notices: list[Notice] = []
    sheet = samples = None
    extra: dict[str, object] = {}
    entries: tuple[Entry, ...] = ()
    if "test.json" not in files:
        faults.append(Fault("test.json", 0, 0, "is missing; every bundle needs it"))
    else:
        try:
            sheet, extra, found = read_sheet(files["test.json"])
            notices += found
        except BundleError as error:
            faults += error.faults
    measured = {SAMPLES, ENTRIES} & files.keys() or any(stream_name(name) for name in files)
    if not measured and not begun:
        faults.append(Fault(SAMPLES, 0, 0, f"neither {SAMPLES} nor {ENTRIES} is there; add one"))
    pack = sheet.pack if sheet is not None else None
    if SAMPLES in files:
        try:
            samples, found = read_samples(files[SAMPLES], pack)
            notices += found
        except BundleError as error:
            faults += error.faults
    further: list[Stream] = []
    for name in sorted(files):
        called = stream_name(name)
        if called is None:
            continue
        if len(further) >= MOST_FURTHER:
            faults.append(Fault(name, 0, 0, f"is one too many: at most {MOST_FURTHER} are read"))
            break
        try:
            frame, found = read_samples(files[name], pack, file=name)
            further.append(_placed(called, frame, sheet))
            notices += found
        except BundleError as error:
            faults += error.faults
    if ENTRIES in files:
        try:
            entries, found = read_entries(files[ENTRIES], pack)
            notices += found
        except BundleError as error:
            faults += error.faults
    route = files.get("route.gpx")
    if route is not None:
        try:
            read_gpx(route)
        except BundleError as error:
            faults += error.faults
    photos: dict[str, bytes] = {}
    for name in sorted(files):
        if is_photo(name) and len(photos) < MOST_PHOTOS:
            try:
                photos[name] = plain_jpeg(files[name])
            except ValueError as error:
                notices.append(Notice("odd_photo", name=name, why=str(error)))
    others = sorted(name for name in files if not is_read(name))
    if others:
        listed = ", ".join(others[:10]) + ("…" if len(others) > 10 else "")
        notices.append(Notice("unknown_files", names=listed))
    if faults or sheet is None:
        raise BundleError(faults)
    streams: tuple[Stream, ...] = tuple(further)
    if samples is not None:
        tools = sheet.instruments
        logger = tools.samples.name if tools is not None and tools.samples is not None else None
        streams = (Stream(samples=samples, name=logger or ""), *streams)
    return RangeTest(
        sheet=sheet,
        samples=joined(streams),
        streams=streams if further else (),
        entries=entries,
        route_gpx=route,
        notices=tuple(notices),
        extra=extra,
        photos=photos,
    )


def _placed(called: str, samples: pl.DataFrame, sheet: TestSheet | None) -> Stream:
    """A further instrument's samples, where the sheet says that they lie."""
    tools = sheet.instruments if sheet is not None else None
    said = (tools.streams or {}).get(called, StreamPlace()) if tools is not None else StreamPlace()
    return Stream(
        samples=samples,
        clock_offset_s=said.offset_s or 0.0,
        name=said.name or called,
        pack=said.pack,
    )
