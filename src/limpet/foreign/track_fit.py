"""Activities as sports watches and handlebar computers write them (FIT)."""

from __future__ import annotations

import io
from datetime import datetime
from typing import Any, Final

from limpet.errors import BundleError, Fault
from limpet.foreign.track import MOST_FIXES, ReadTrack, Segment
from limpet.foreign.track_parts import Fixes, number_of
from limpet.notices import Notice

#: A semicircle [deg]: a whole turn is 2³² of them.
_SEMICIRCLE_DEG: Final = 180 / 2**31
_USED: Final = frozenset(
    {
        "timestamp",
        "position_lat",
        "position_long",
        "altitude",
        "enhanced_altitude",
        "speed",
        "enhanced_speed",
        "distance",
    }
)


def read_fit(file: str, data: bytes) -> ReadTrack:
    """The records of an activity; a pause of its timer parts them.

    References
    ----------
    Flexible and Interoperable Data Transfer protocol, as the package fitdecode reads it.
    """
    import fitdecode

    segments: list[Segment] = []
    fixes = Fixes()
    aside: set[str] = set()
    count, damaged = 0, False
    try:
        with fitdecode.FitReader(io.BytesIO(data), check_crc=fitdecode.CrcCheck.READONLY) as reader:
            for frame in reader:
                if isinstance(frame, fitdecode.FitCRC):
                    damaged = damaged or not frame.matched
                if not isinstance(frame, fitdecode.FitDataMessage):
                    continue
                if frame.name == "event" and _stops(frame) and len(fixes):
                    segments.append(fixes.segment())
                    fixes = Fixes()
                if frame.name != "record":
                    continue
                count += 1
                if count > MOST_FIXES:
                    raise BundleError(
                        [Fault(file, 0, 0, f"holds over {MOST_FIXES:,} points; thin it out")]
                    )
                values = {item.name: item.value for item in frame.fields if item.value is not None}
                aside |= {
                    name for name in values if name not in _USED and not name.startswith("unknown")
                }
                when = values.get("timestamp")
                latitude, longitude = (
                    number_of(values.get("position_lat")),
                    number_of(values.get("position_long")),
                )
                fixes.add(
                    None if latitude is None else latitude * _SEMICIRCLE_DEG,
                    None if longitude is None else longitude * _SEMICIRCLE_DEG,
                    number_of(values.get("enhanced_altitude", values.get("altitude"))),
                    when.timestamp() if isinstance(when, datetime) else None,
                    number_of(values.get("enhanced_speed", values.get("speed"))),
                )
    except BundleError:
        raise
    except Exception as cause:  # whatever bytes do to the decoder, they are no activity
        if not segments and not len(fixes):
            raise BundleError(
                [Fault(file, 0, 0, "is damaged, or no activity; export it again from the device")]
            ) from cause
        damaged = True
    if len(fixes):
        segments.append(fixes.segment())
    if not segments:
        raise BundleError(
            [Fault(file, 0, 0, "holds no records; export the activity, and not its settings")]
        )
    return ReadTrack(
        file=file,
        form="fit",
        segments=tuple(segments),
        aside=tuple(sorted(aside)),
        notices=(Notice("track_damaged", file=file),) if damaged else (),
    )


def _stops(frame: Any) -> bool:
    return bool(
        frame.get_value("event", fallback=None) == "timer"
        and str(frame.get_value("event_type", fallback="")).startswith("stop")
    )
