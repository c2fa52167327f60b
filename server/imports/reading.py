"""A ride's files read as what is stored. Knows no database, so that a process apart can do it."""

from __future__ import annotations

import hashlib
import re
from collections.abc import Mapping
from concurrent.futures import Future, ThreadPoolExecutor
from dataclasses import replace
from pathlib import Path
from typing import Any

from limpet.errors import BundleError, Fault
from limpet.evidence.model import TestSheet
from limpet.files.photos import plain_jpeg
from limpet.files.sheet import sheet_adapter
from limpet.foreign.raw import read_raw
from limpet.foreign.rests import Span
from limpet.foreign.ride import Recorded, part_of, ridden_test
from limpet.foreign.stranger import recorded_track
from limpet.foreign.taken import taken
from limpet.foreign.tracks import read_track
from limpet.pack import PackSpec
from server.imports.asked import cut_track, mapping_in
from server.logbook.intake import Intake, Make, intake_of
from server.wire.apart import tell


def read_ride(
    specs: list[dict[str, Any]], document: dict[str, Any], zone: str | None, make: Make
) -> tuple[Intake, dict[str, str]]:
    """A ride's files as what is stored, and what each measured as a digest."""
    sheet = sheet_adapter().validate_python(document)
    # Hashing and packing need no result, and hold up nobody while one is worked out beside them.
    with ThreadPoolExecutor(1) as beside:
        return _read(specs, sheet, zone, make, beside)


def _read(
    specs: list[dict[str, Any]],
    sheet: TestSheet,
    zone: str | None,
    make: Make,
    beside: ThreadPoolExecutor,
) -> tuple[Intake, dict[str, str]]:
    recorded: list[Recorded] = []
    digests: dict[str, Future[str]] = {}
    photos: dict[str, bytes] = {}
    for spec in specs:
        tell("reading")
        data = Path(spec["file"]).read_bytes()
        if spec["use"] == "photo":
            name = "photos/" + _plain_name(spec["name"])
            try:
                photos[name] = plain_jpeg(data)
            except ValueError as error:
                raise BundleError([Fault(spec["name"], 0, 0, str(error))]) from error
            continue
        found = _recorded(spec, data, sheet.pack)
        if spec["span"] is not None:
            found = part_of(found, Span(**spec["span"]))
        digests[spec["name"]] = beside.submit(readings_digest, found)
        recorded.append(replace(found, offset_s=spec["offset_s"]))
    if not recorded:
        raise BundleError(
            [Fault("files", 0, 0, "hold no log and no track; a picture alone is no ride")]
        )
    recorded.sort(key=lambda item: (item.is_track, "voltage_v" not in item.samples.columns))
    tell("working out")
    test = replace(ridden_test(recorded, sheet, zone), photos=photos)
    intake = intake_of(test, make, beside)
    tell("saving")
    return intake, {name: digest.result() for name, digest in digests.items()}


def _recorded(spec: Mapping[str, Any], data: bytes, pack: PackSpec) -> Recorded:
    if spec["use"] == "track":
        track = cut_track(read_track(spec["name"], data, spec["form"]), spec["cut"])
        return recorded_track(track)
    mapping = mapping_in(spec["mapping"] or {})
    found = taken(read_raw(spec["name"], data), mapping, pack)
    return Recorded(
        name=mapping.instrument,
        samples=found.samples,
        started_at=found.started_at,
        notices=found.notices,
    )


def readings_digest(item: Recorded) -> str:
    """The same for the same readings, in whatever file they come."""
    found = hashlib.blake2b(str(item.started_at).encode(), digest_size=32)
    for name in sorted(item.samples.columns):
        values = item.samples[name].round(3).to_numpy()
        found.update(name.encode())
        found.update(values.tobytes())
    return found.hexdigest()


def _plain_name(name: str) -> str:
    stem = re.sub(r"[^A-Za-z0-9_. -]+", "-", name.rsplit(".", 1)[0])[:60] or "picture"
    return f"{stem}.jpg"
