"""Logs of a GPS receiver's own sentences (NMEA 0183)."""

from __future__ import annotations

from datetime import datetime, time, timedelta, timezone
from typing import Final

from limpet.errors import BundleError, Fault
from limpet.foreign.text import as_utf8
from limpet.foreign.track import MOST_FIXES, ReadTrack
from limpet.foreign.track_parts import Fixes
from limpet.notices import Notice

#: Sentences that are read; the others of a receiver say how it knows.
_READ: Final = ("RMC", "GGA")
_KNOT_MPS: Final = 1852 / 3600


def read_nmea(file: str, data: bytes) -> ReadTrack:
    """Fixes of RMC (place, speed, day) and GGA (height) sentences; damaged lines are counted.

    References
    ----------
    NMEA 0183, sentences RMC and GGA, as the package pynmea2 reads them.
    """
    import pynmea2

    fixes = Fixes()
    heights: dict[object, float] = {}
    rows: list[tuple[datetime | None, object, float, float, float | None]] = []
    odd = 0
    for line in as_utf8(data)[0].decode("utf-8", "replace").splitlines():
        start = line.find("$")
        if start < 0 or line[start + 3 : start + 6] not in _READ:
            continue
        try:
            sentence = pynmea2.parse(line[start : start + 120].strip(), check=True)
            when = sentence.timestamp
            if sentence.sentence_type == "GGA":
                if sentence.gps_qual and sentence.altitude is not None:
                    heights[when] = float(sentence.altitude)
                    if not rows or rows[-1][1] != when:
                        rows.append((None, when, sentence.latitude, sentence.longitude, None))
                continue
            if sentence.status != "A":
                continue
            moment = datetime.combine(sentence.datestamp, when)
            moment = moment if moment.tzinfo is not None else moment.replace(tzinfo=timezone.utc)
            speed = (
                None
                if sentence.spd_over_grnd is None
                else float(sentence.spd_over_grnd) * _KNOT_MPS
            )
            row = (moment, when, sentence.latitude, sentence.longitude, speed)
        except Exception:  # a broken line breaks the package in many ways
            odd += 1
            continue
        if rows and rows[-1][1] == when:
            rows[-1] = row
        else:
            rows.append(row)
        if len(rows) > MOST_FIXES:
            raise BundleError([Fault(file, 0, 0, f"holds over {MOST_FIXES:,} points; thin it out")])
    epoch = datetime(1970, 1, 1, tzinfo=timezone.utc)
    day: datetime | None = next((row[0] for row in rows if row[0] is not None), None)
    for said, when, latitude, longitude, speed in rows:
        placed = said
        if placed is not None:
            day = placed
        elif day is not None and isinstance(when, time):
            # A height's sentence says no day: the one of the place before it.
            placed = datetime.combine(day.date(), when.replace(tzinfo=timezone.utc))
            if placed < day - timedelta(hours=12):
                placed += timedelta(days=1)
        time_s = None if placed is None else (placed - epoch).total_seconds()
        fixes.add(latitude, longitude, heights.get(when), time_s, speed)
    if not len(fixes):
        what = "every sentence in it is damaged" if odd else "it holds no fix (RMC or GGA)"
        raise BundleError([Fault(file, 0, 0, f"{what}; log outdoors, with a fix")])
    notices = (Notice("sentences_damaged", file=file, count=odd),) if odd else ()
    return ReadTrack(file=file, form="nmea", segments=(fixes.segment(),), notices=notices)
