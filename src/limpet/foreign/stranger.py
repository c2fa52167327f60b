"""From a stranger's files to a test, in one call: what the command line does, and the page step by step."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from pathlib import PurePath
from typing import Any

from limpet.errors import BundleError, Fault
from limpet.evidence.model import RangeTest, TestSheet
from limpet.files.sheet import sheet_adapter
from limpet.foreign.align import Match, matched
from limpet.foreign.dropped import Dropped
from limpet.foreign.guess import Look, look_at
from limpet.foreign.raw import RawTable, read_raw
from limpet.foreign.recipe import LogMapping
from limpet.foreign.ride import Recorded, moment_of, ridden_test
from limpet.foreign.taken import taken
from limpet.foreign.track import ReadTrack, samples_of
from limpet.foreign.tracks import read_track
from limpet.pack import PackSpec


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadLog:
    """A log as it was read: the mapping that was used, and what is not sure where it was guessed."""

    recorded: Recorded
    mapping: LogMapping
    look: Look | None


def instrument_of(name: str) -> str:
    """What an instrument is called after its file."""
    return PurePath(name.split(": ")[0]).stem[:80] or "log"


def read_log(
    file: str,
    data: bytes,
    *,
    mapping: LogMapping | None = None,
    pack: PackSpec | None = None,
    zone: str | None = None,
) -> ReadLog:
    """A table as what an instrument recorded; without a mapping its columns are guessed.

    Raises
    ------
    BundleError
        When it is no log that can be read.
    """
    look = None
    if mapping is None:
        sample: RawTable = read_raw(file, data, sample=True)
        look = look_at(sample, pack=pack, zone=zone)
        mapping = look.mapping(instrument_of(file), sample)
    found = taken(read_raw(file, data), mapping, pack)
    recorded = Recorded(
        name=mapping.instrument,
        samples=found.samples,
        started_at=found.started_at,
        notices=found.notices,
    )
    return ReadLog(recorded=recorded, mapping=mapping, look=look)


def recorded_track(track: ReadTrack) -> Recorded:
    """A ridden track as what an instrument recorded."""
    return Recorded(
        name=instrument_of(track.file),
        samples=samples_of(track),
        started_at=track.started_at,
        is_track=True,
        notices=track.notices,
    )


def on_one_clock(
    recorded: Sequence[Recorded], zone: str | None = None
) -> tuple[list[Recorded], list[Match | None]]:
    """Recordings of one ride, moved to where they tell it alike; the first one stays.

    Returns
    -------
    the recordings, and how sure each is of its place; None where only the clocks, or nothing, say it
    """
    first, *others = recorded
    placed, matches = [first], list[Match | None]([None])
    for item in others:
        by_clocks = None
        if first.started_at is not None and item.started_at is not None:
            apart = moment_of(item.started_at, zone) - moment_of(first.started_at, zone)
            by_clocks = apart.total_seconds()
        match = matched(first.samples, item.samples, by_clocks_s=by_clocks)
        matches.append(match)
        # Without a sure match clocks that were set are the better guess.
        if match is not None and (match.sure or by_clocks is None):
            item = replace(item, offset_s=match.offset_s - (by_clocks or 0.0))
        placed.append(item)
    return placed, matches


def sheet_for(
    title: str, *, kind: str = "other", pack: dict[str, Any] | None = None, **more: Any
) -> TestSheet:
    """A sheet of what little is known.

    Raises
    ------
    ValidationError
        When the pack cannot be.
    """
    document = {
        "title": title,
        "vehicle": {"kind": kind},
        **({"pack": pack} if pack else {}),
        **more,
    }
    return sheet_adapter().validate_python(document)


def stranger_test(
    parts: Sequence[Dropped],
    sheet: TestSheet,
    *,
    mapping: LogMapping | None = None,
    zone: str | None = None,
) -> tuple[RangeTest, list[ReadLog], list[Match | None]]:
    """Tables and tracks of one ride as a test.

    Parameters
    ----------
    parts : opened files; those that are neither are refused
    sheet : what was tested
    mapping : how the tables are read, guessed when None
    zone : of clocks that say none

    Raises
    ------
    BundleError
        When one of them is no log and no track, or they hold nothing.
    """
    logs: list[ReadLog] = []
    recorded: list[Recorded] = []
    for part in parts:
        if part.fault is not None:
            raise BundleError([part.fault])
        if part.told.what == "table":
            log = read_log(part.name, part.data, mapping=mapping, pack=sheet.pack, zone=zone)
            logs.append(log)
            recorded.append(log.recorded)
        elif part.told.what == "track":
            recorded.append(recorded_track(read_track(part.name, part.data, part.told.form)))
        else:
            text = f"is a {part.told.what} ({part.told.form}); give a log or a track"
            raise BundleError([Fault(part.name, 0, 0, text)])
    if not recorded:
        raise BundleError([Fault("files", 0, 0, "hold no log and no track")])
    # What tells the energy leads.
    recorded.sort(key=lambda item: (item.is_track, "voltage_v" not in item.samples.columns))
    placed, matches = on_one_clock(recorded, zone)
    return ridden_test(placed, sheet, zone), logs, matches
