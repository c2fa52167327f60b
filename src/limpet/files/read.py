"""One bundle in, one RangeTest out, or every fault of every file at once."""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import Path

from limpet.errors import BundleError, Fault
from limpet.evidence.model import Entry, RangeTest
from limpet.files.archive import files_of, is_read
from limpet.files.gpx import read_gpx
from limpet.files.photos import MOST_PHOTOS, is_photo, plain_jpeg
from limpet.files.sheet import read_sheet
from limpet.files.tables import ENTRIES, SAMPLES, read_entries, read_samples
from limpet.notices import Notice


def read_bundle(path: Path) -> RangeTest:
    """Read the bundle at a path, folder or zip.

    Raises
    ------
    BundleError
        With every fault of every file.
    """
    return read_files(files_of(path))


def read_files(files: Mapping[str, bytes]) -> RangeTest:
    """Read a bundle from its files by name.

    Parameters
    ----------
    files : by name, as they lie in the folder

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
    if SAMPLES not in files and ENTRIES not in files:
        faults.append(Fault(SAMPLES, 0, 0, f"neither {SAMPLES} nor {ENTRIES} is there; add one"))
    pack = sheet.pack if sheet is not None else None
    if SAMPLES in files:
        try:
            samples, found = read_samples(files[SAMPLES], pack)
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
    return RangeTest(
        sheet=sheet,
        samples=samples,
        entries=entries,
        route_gpx=route,
        notices=tuple(notices),
        extra=extra,
        photos=photos,
    )
