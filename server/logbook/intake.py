"""A bundle read and cut into what is stored; a large one in a process of its own.

Reading a million rows takes a gigabyte for a moment. A process gives it back when it ends, and its
limits stop a file that would take more than any ride does.
"""

from __future__ import annotations

import multiprocessing
import os
import resource
import signal
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from multiprocessing.connection import Connection
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any, NamedTuple

from limpet.errors import BundleError, Fault
from limpet.evidence.model import Entry, RangeTest, TestSheet
from limpet.files import files_of, read_files
from server.logbook.chunks import chunk_rows
from server.wire.turns import BusyError, by_turns

#: A bundle up to this size is read where it came in: starting a process takes a second.
SMALL_BYTES = 1 * 2**20
#: What the process may take: memory beyond what its libraries reserve, and processor time [s].
MOST_MEMORY_BYTES = 6 * 2**30
MOST_CPU_S = 120


class Beside(NamedTuple):
    """What is made of a test while it is at hand, and kept in the transaction that stores it.

    `make` runs where the test is read, which may be a process apart: a function of a module.
    """

    make: Callable[[RangeTest], dict[str, Any]]
    keep: Callable[[Any, dict[str, Any]], Any]


Make = Callable[[RangeTest], dict[str, Any]] | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Intake:
    """A test ready to be stored: its sheet, rows and chunks, and what was made of it beside them."""

    sheet: TestSheet
    entries: tuple[Entry, ...]
    chunks: list[dict[str, Any]]
    route_gpx: bytes | None
    notices: list[dict[str, Any]]
    extra: dict[str, Any]
    beside: dict[str, Any] | None
    photos: dict[str, bytes] = field(default_factory=dict)


def intake_of(test: RangeTest, make: Make = None) -> Intake:
    """A test that the core has accepted."""
    return Intake(
        sheet=test.sheet,
        entries=test.entries,
        chunks=chunk_rows(test.samples) if test.samples is not None else [],
        route_gpx=test.route_gpx,
        notices=[notice.to_json() for notice in test.notices],
        extra=dict(test.extra),
        beside=make(test) if make is not None else None,
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
        return _apart(_read_named, folder, list(files), make)


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
    return _apart(_read_zip, str(path), name, make)


def _read_named(folder: str, names: list[str], make: Make) -> Intake:
    files = {name: (Path(folder) / str(number)).read_bytes() for number, name in enumerate(names)}
    return intake_of(read_files(files), make)


def _read_zip(path: str, name: str, make: Make) -> Intake:
    return intake_of(read_files(files_of(Path(path), name)), make)


def _limited() -> None:
    """Limits of the process that reads; beyond them it ends and the rest of Limpet goes on."""
    resource.setrlimit(resource.RLIMIT_DATA, (MOST_MEMORY_BYTES, MOST_MEMORY_BYTES))
    resource.setrlimit(resource.RLIMIT_CPU, (MOST_CPU_S, MOST_CPU_S))
    os.nice(5)


def _apart(read: Any, *arguments: Any) -> Intake:
    context = multiprocessing.get_context("spawn")
    here, there = context.Pipe(duplex=False)
    process = context.Process(target=_read_apart, args=(there, read, arguments), daemon=True)
    process.start()
    there.close()
    try:
        found: Intake | Exception = here.recv()
    except EOFError:
        # It ended without a word; how, it says at once.
        process.join()
        if process.exitcode == -signal.SIGKILL:
            raise BusyError(
                "Reading this bundle was stopped, perhaps because memory ran out; nothing was stored. "
                "Try again in a moment."
            ) from None
        if process.exitcode != -signal.SIGXCPU:
            raise RuntimeError(f"the reader of a bundle ended with {process.exitcode}") from None
        found = MemoryError()
    finally:
        here.close()
        process.join()
    if isinstance(found, MemoryError):
        message = "takes more memory or time to read than any ride does; thin it out"
        raise BundleError([Fault("bundle", 0, 0, message)])
    if isinstance(found, Exception):
        raise found
    return found


def _read_apart(there: Connection, read: Any, arguments: tuple[Any, ...]) -> None:
    """What the process does: it reads, and sends what it found or what was wrong."""
    _limited()
    try:
        found: Intake | Exception = read(*arguments)
    except Exception as error:  # raised again where it was asked for
        found = error
    there.send(found)
    there.close()
