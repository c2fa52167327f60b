"""A stranger's log on the command line: which columns it was read by, and what is not sure of them."""

from __future__ import annotations

import argparse
import sys
from collections.abc import Sequence
from pathlib import Path
from typing import Any, get_args

from pydantic import ValidationError

from limpet.errors import BundleError, Fault, UnitError
from limpet.evidence.model import RangeTest, TestSheet
from limpet.files import read_bundle
from limpet.files.document import explain
from limpet.foreign.align import Match
from limpet.foreign.dropped import opened
from limpet.foreign.kinds import told
from limpet.foreign.mapping_file import MOST_BYTES, read_mapping, write_mapping
from limpet.foreign.pack_words import pack_in_words
from limpet.foreign.raw import MOST_BYTES as MOST_LOG
from limpet.foreign.recipe import LogMapping
from limpet.foreign.stranger import ReadLog, sheet_for, stranger_test
from limpet.road.kinds import VehicleKind


def add_log_options(parser: argparse.ArgumentParser) -> None:
    """What a log needs beside itself."""
    parser.add_argument("--pack", help="of a log: the pack in words, such as '13s 14Ah NMC'")
    parser.add_argument(
        "--vehicle",
        default="other",
        choices=get_args(VehicleKind),
        help="of a log: what was ridden",
    )
    parser.add_argument(
        "--mapping",
        type=Path,
        metavar="MAP.json",
        help="of a log: how its columns are read; guessed without",
    )
    parser.add_argument(
        "--track", type=Path, metavar="RIDE.gpx", help="of a log: a track of the same ride"
    )
    parser.add_argument(
        "--zone", help="of a log: the time zone of its clock, such as Europe/London"
    )
    parser.add_argument(
        "--save-mapping", type=Path, metavar="MAP.json", help="of a log: write down how it was read"
    )
    parser.add_argument(
        "--full", action="store_true", help="of a log: the pack was full at the start"
    )
    parser.add_argument("--ended", default=None, choices=("cutoff", "protect", "speed_floor", "reserve", "home", "aborted"), help="of a log: why the ride ended")  # fmt: skip


def read_any(options: argparse.Namespace) -> RangeTest:
    """A bundle, or a log of any maker's with what was said of it.

    Raises
    ------
    BundleError
        When it is neither, or what was said of it cannot be.
    """
    path: Path = options.bundle
    if path.is_dir() or not path.is_file() or _is_bundle(path):
        return read_bundle(path)
    return _read_log(path, options)


def _is_bundle(path: Path) -> bool:
    data = path.read_bytes() if path.suffix.lower() == ".zip" else b""
    return bool(data) and told(path.name, data).what not in ("several", "workbook", "track")


def sheet_of(options: argparse.Namespace, title: str) -> TestSheet:
    """What was said of a log's ride.

    Raises
    ------
    BundleError
        When the pack cannot be.
    """
    pack: dict[str, Any] = {}
    if options.pack:
        try:
            pack = pack_in_words(options.pack)
        except UnitError as error:
            raise BundleError([Fault("--pack", 0, 0, str(error))]) from error
    more: dict[str, Any] = {}
    if options.full:
        more["start"] = {"full": True}
    if options.ended:
        more["ending"] = {"reason": options.ended}
    try:
        return sheet_for(title[:200] or "Ride", kind=options.vehicle, pack=pack, **more)
    except ValidationError as error:
        first = error.errors()[0]
        said = f"{first['loc'][-1]} {explain(first)}"
        raise BundleError([Fault("--pack", 0, 0, said)]) from error


def mapping_of(options: argparse.Namespace) -> LogMapping | None:
    """The mapping that was named, None where it is to be guessed."""
    if options.mapping is None:
        return None
    return read_mapping(options.mapping.name, bytes_of(options.mapping, MOST_BYTES))


def _read_log(path: Path, options: argparse.Namespace) -> RangeTest:
    files = {path.name: bytes_of(path, MOST_LOG)}
    if options.track is not None:
        files[options.track.name] = bytes_of(options.track, MOST_LOG)
    test, logs, matches = stranger_test(
        opened(files), sheet_of(options, path.stem), mapping=mapping_of(options), zone=options.zone
    )
    tell(logs, matches)
    if options.save_mapping is not None and logs:
        options.save_mapping.write_bytes(write_mapping(logs[0].mapping))
    return test


def tell(logs: Sequence[ReadLog], matches: Sequence[Match | None]) -> None:
    """Say on standard error how files were read: the result stays alone on standard output."""
    for log in logs:
        _tell(log)
    for match in matches:
        if match is not None:
            print(
                f"limpet: a second recording is moved by {match.offset_s:+.1f} s. {match.notice.message}",
                file=sys.stderr,
            )


def bytes_of(path: Path, most: int) -> bytes:
    """A file's bytes, if it is there and no larger than is read."""
    try:
        if path.stat().st_size > most:
            raise BundleError([Fault(path.name, 0, 0, f"is larger than {most >> 20} MiB; part it")])
        return path.read_bytes()
    except OSError as cause:
        reason = (cause.strerror or "cannot be read").lower()
        raise BundleError([Fault(str(path), 0, 0, reason)]) from cause


def _tell(log: ReadLog) -> None:
    """Say how one table was read."""
    print(f"limpet: {log.recorded.name} is read as", file=sys.stderr)
    print(
        f"  time: {' and '.join(log.mapping.time.sources)} ({log.mapping.time.form})",
        file=sys.stderr,
    )
    for column in log.mapping.columns:
        unit = f" in {column.unit}" if column.unit else ""
        factor = f" × {column.factor:g}" if column.factor != 1 else ""
        sign = ", sign changed" if column.sign < 0 else ""
        print(f"  {column.quantity}: {column.source}{unit}{factor}{sign}", file=sys.stderr)
    for notice in log.look.unsure if log.look is not None else ():
        print(f"limpet: {notice.message}", file=sys.stderr)
