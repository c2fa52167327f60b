"""A bundle read and cut into what is stored; a large one in a process of its own.

Reading a million rows takes a gigabyte for a moment. A process gives it back when it ends, and its
limits stop a file that would take more than any ride does.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any, NamedTuple

from limpet.evidence.model import Entry, RangeTest, TestSheet
from limpet.files import files_of, read_files
from server.logbook.chunks import chunk_rows
from server.wire.apart import apart
from server.wire.turns import by_turns

#: A bundle up to this size is read where it came in: starting a process takes a second.
SMALL_BYTES = 1 * 2**20


class Beside(NamedTuple):
    """What is made of a test while it is at hand, and kept in the transaction that stores it.

    `make` runs where the test is read, which may be a process apart: a function of a module.
    """

    make: Callable[[RangeTest], dict[str, Any]]
    keep: Callable[[Any, dict[str, Any]], Any]


Make = Callable[[RangeTest], dict[str, Any]] | None


#: The one stream of a bundle's samples.csv.
FROM_A_FILE = "samples.csv"


class StreamIntake(NamedTuple):
    """What one instrument sent, ready to be stored."""

    instrument: str
    clock_offset_s: float
    sign: int
    chunks: list[dict[str, Any]]


@dataclass(frozen=True, slots=True, kw_only=True)
class Intake:
    """A test ready to be stored: its sheet, rows and chunks, and what was made of it beside them."""

    sheet: TestSheet
    entries: tuple[Entry, ...]
    streams: list[StreamIntake]
    route_gpx: bytes | None
    notices: list[dict[str, Any]]
    extra: dict[str, Any]
    beside: dict[str, Any] | None
    photos: dict[str, bytes] = field(default_factory=dict)


def streams_of(test: RangeTest) -> list[StreamIntake]:
    """The samples of a test, instrument by instrument, as chunks."""
    if test.streams:
        return [
            StreamIntake(
                stream.name or FROM_A_FILE,
                stream.clock_offset_s,
                stream.sign,
                chunk_rows(stream.samples),
            )
            for stream in test.streams
        ]
    if test.samples is None:
        return []
    tools = test.sheet.instruments
    logger = None if tools is None or tools.samples is None else tools.samples.name
    return [StreamIntake(logger or FROM_A_FILE, 0.0, 1, chunk_rows(test.samples))]


def intake_of(
    test: RangeTest, make: Make = None, beside: ThreadPoolExecutor | None = None
) -> Intake:
    """A test that the core has accepted; `beside` packs its samples while its result is worked out."""
    packed = None if beside is None else beside.submit(streams_of, test)
    made = make(test) if make is not None else None
    return Intake(
        sheet=test.sheet,
        entries=test.entries,
        streams=streams_of(test) if packed is None else packed.result(),
        route_gpx=test.route_gpx,
        notices=[notice.to_json() for notice in test.notices],
        extra=dict(test.extra),
        beside=made,
        photos=dict(test.photos),
    )


@by_turns
def taken_in(files: Mapping[str, bytes], make: Make = None) -> Intake:
    """A bundle's files, read.

    Raises
    ------
    BundleError
        With every fault, or when it takes more than it may.
    """
    if sum(len(data) for data in files.values()) <= SMALL_BYTES:
        return intake_of(read_files(files), make)
    with TemporaryDirectory(prefix="limpet-") as folder:
        for number, data in enumerate(files.values()):
            (Path(folder) / str(number)).write_bytes(data)
        return apart(_read_named, folder, list(files), make)


@by_turns
def taken_in_zip(path: Path, name: str, make: Make = None) -> Intake:
    """A zipped bundle on disk, read.

    Raises
    ------
    BundleError
        With every fault, or when it takes more than it may.
    """
    if path.stat().st_size <= SMALL_BYTES // 8:
        return intake_of(read_files(files_of(path, name)), make)
    return apart(_read_zip, str(path), name, make)


def _read_named(folder: str, names: list[str], make: Make) -> Intake:
    files = {name: (Path(folder) / str(number)).read_bytes() for number, name in enumerate(names)}
    return intake_of(read_files(files), make)


def _read_zip(path: str, name: str, make: Make) -> Intake:
    return intake_of(read_files(files_of(Path(path), name)), make)
