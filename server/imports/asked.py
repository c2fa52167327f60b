"""What a client asks of a part, as the core's values. Knows no database, so that a process apart can read it."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from pydantic import ValidationError

from limpet.errors import BundleError, Fault
from limpet.files.document import explain
from limpet.foreign.mapping_file import mapping_adapter
from limpet.foreign.recipe import LogMapping, mapping_faults
from limpet.foreign.records import RecordColumn
from limpet.foreign.track import ReadTrack, without_ends, without_jumps, without_place


def mapping_in(document: Mapping[str, Any]) -> LogMapping:
    """A mapping that was sent.

    Raises
    ------
    BundleError
        With every fault of it.
    """
    try:
        mapping = mapping_adapter().validate_python(document)
    except ValidationError as cause:
        faults = [
            Fault(
                "mapping", 0, 0, f"{'.'.join(str(part) for part in error['loc'])} {explain(error)}"
            )
            for error in cause.errors(include_url=False)[:20]
        ]
        raise BundleError(faults) from cause
    odd = mapping_faults(mapping)
    if odd:
        raise BundleError([Fault("mapping", 0, 0, f"{path[-1]} {text}") for path, text in odd])
    return mapping


def record_columns_in(document: Mapping[str, Any]) -> tuple[RecordColumn, ...]:
    """Columns of a sheet of rides that were sent."""
    columns = document.get("record_columns")
    if not isinstance(columns, list) or len(columns) > 200:
        raise BundleError(
            [Fault("columns", 0, 0, "are missing; send each with its source and field")]
        )
    return tuple(
        RecordColumn(
            source=str(c.get("source", ""))[:120],
            field=str(c.get("field", ""))[:40],
            unit=str(c.get("unit", ""))[:20],
        )
        for c in columns
        if isinstance(c, dict)
    )


def cut_track(track: ReadTrack, cut: Mapping[str, Any] | None) -> ReadTrack:
    """A track without what its rider wants cut off."""
    if not cut:
        return track
    if cut.get("leaps"):
        track = without_jumps(track)
    home = cut.get("home")
    if home is not None:
        track = without_place(track, home["latitude_deg"], home["longitude_deg"], home["within_m"])
    first_m, last_m = float(cut.get("first_m") or 0), float(cut.get("last_m") or 0)
    return without_ends(track, first_m, last_m) if first_m or last_m else track
