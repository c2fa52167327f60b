"""A track of any format: segments of fixes, what of it is used, and what is odd about it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timezone
from typing import TYPE_CHECKING, Final

import numpy as np
from numpy.typing import NDArray

from limpet.errors import BundleError, Fault
from limpet.notices import Notice
from limpet.road import step_lengths_m

if TYPE_CHECKING:
    import polars as pl

FloatArray = NDArray[np.float64]
#: Fixes that are read of one track, and bytes of its file.
MOST_FIXES, MOST_BYTES = 500_000, 64 * 2**20
#: Nothing of these vehicles' comes this far between two fixes, or this fast [m, m/s] (assumption).
JUMP_M, JUMP_MPS = 1500.0, 70.0
#: What may be cut from each end of a track, and round a place [m].
MOST_CUT_M: Final = 5000.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Segment:
    """Fixes without a break; NaN where something is not known, every array of shape (n,).

    `time_s` is seconds since 1970 UTC, or None where the fixes have no times.
    """

    latitude_deg: FloatArray
    longitude_deg: FloatArray
    altitude_m: FloatArray
    time_s: FloatArray | None = None
    speed_mps: FloatArray | None = None

    def __len__(self) -> int:
        return len(self.latitude_deg)

    def part(self, rows: NDArray[np.bool_]) -> Segment:
        """The fixes that are marked."""
        return Segment(
            latitude_deg=self.latitude_deg[rows],
            longitude_deg=self.longitude_deg[rows],
            altitude_m=self.altitude_m[rows],
            time_s=None if self.time_s is None else self.time_s[rows],
            speed_mps=None if self.speed_mps is None else self.speed_mps[rows],
        )


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadTrack:
    """What a track's file held; `aside` names what is not used, such as a heart rate."""

    file: str
    form: str
    segments: tuple[Segment, ...]
    aside: tuple[str, ...] = ()
    notices: tuple[Notice, ...] = ()

    @property
    def is_timed(self) -> bool:
        """Whether it was ridden, and not only planned."""
        return all(segment.time_s is not None for segment in self.segments)

    @property
    def fixes(self) -> int:
        """How many there are."""
        return sum(len(segment) for segment in self.segments)

    @property
    def length_m(self) -> float:
        """Along the fixes, gaps between the segments left out."""
        return sum(float(_steps(segment).sum()) for segment in self.segments)

    @property
    def started_at(self) -> datetime | None:
        """When it began, in UTC."""
        first = self.segments[0].time_s
        return None if first is None else datetime.fromtimestamp(float(first[0]), timezone.utc)


def _steps(segment: Segment) -> FloatArray:
    if len(segment) < 2:
        return np.zeros(0)
    return step_lengths_m(segment.latitude_deg, segment.longitude_deg)


def tidied(track: ReadTrack) -> ReadTrack:
    """A track in order: fixes without a place or a time left out, times rising, no empty segment.

    Raises
    ------
    BundleError
        When fewer than two fixes are left, there are too many, or a place is not on Earth.
    """
    if track.fixes > MOST_FIXES:
        text = f"holds {track.fixes:,} points, at most {MOST_FIXES:,} are read; thin it out"
        raise BundleError([Fault(track.file, 0, 0, text)])
    notices = list(track.notices)
    timed = [
        s for s in track.segments if s.time_s is not None and np.isfinite(s.time_s).mean() > 0.5
    ]
    use_times = len(timed) > 0 and sum(len(s) for s in timed) > track.fixes / 2
    if use_times and _stands_still(timed):
        use_times = False
        notices.append(Notice("fixes_still_clock", file=track.file))
    kept: list[Segment] = []
    placeless = timeless = backwards = 0
    latest = -np.inf
    for segment in track.segments:
        placed = np.isfinite(segment.latitude_deg) & np.isfinite(segment.longitude_deg)
        # Without a fix a receiver says 0, 0.
        placed &= ~((segment.latitude_deg == 0) & (segment.longitude_deg == 0))
        placeless += int((~placed).sum())
        segment = segment.part(placed)
        if use_times:
            time = segment.time_s if segment.time_s is not None else np.full(len(segment), np.nan)
            known = np.isfinite(time)
            timeless += int((~known).sum())
            segment = replace(segment, time_s=time).part(known)
            assert segment.time_s is not None
            before = np.maximum.accumulate(np.concatenate([[latest], segment.time_s]))[:-1]
            rising = segment.time_s > before
            backwards += int((~rising).sum())
            segment = segment.part(rising)
            if segment.time_s is not None and len(segment):
                latest = float(segment.time_s[-1])
        else:
            segment = replace(segment, time_s=None)
        if len(segment):
            kept.append(segment)
    for code, count in (
        ("fixes_without_place", placeless),
        ("fixes_without_time", timeless),
        ("fixes_backwards", backwards),
    ):
        if count:
            notices.append(Notice(code, file=track.file, count=count))
    found = replace(track, segments=tuple(kept), notices=tuple(notices))
    if found.fixes < 2:
        raise BundleError(
            [
                Fault(
                    track.file, 0, 0, "holds no track of two points or more; export the ride itself"
                )
            ]
        )
    for segment in kept:
        off = (np.abs(segment.latitude_deg) > 90) | (np.abs(segment.longitude_deg) > 360)
        if off.any():
            row = int(np.argmax(off))
            place = f"{segment.latitude_deg[row]:g}, {segment.longitude_deg[row]:g}"
            raise BundleError(
                [Fault(track.file, 0, 0, f"has a point at {place}; expected degrees on Earth")]
            )
    if track.aside:
        listed = ", ".join(track.aside[:12]) + ("…" if len(track.aside) > 12 else "")
        found = replace(
            found, notices=(*found.notices, Notice("columns_aside", file=track.file, names=listed))
        )
    return found


def _stands_still(segments: Sequence[Segment]) -> bool:
    """Whether most times don't rise: the clock of a receiver that never had its time."""
    times = np.concatenate([s.time_s for s in segments if s.time_s is not None])
    times = times[np.isfinite(times)]
    rising = times[1:] > np.maximum.accumulate(times)[:-1]
    return len(rising) > 0 and float(rising.mean()) < 0.5


def jumps(track: ReadTrack) -> list[float]:
    """How far a track leaps where nothing rides so far or so fast [m], the longest first."""
    found: list[float] = []
    for segment in track.segments:
        found += _steps(segment)[_leaps(segment)].tolist()
    return sorted(found, reverse=True)


def _leaps(segment: Segment) -> NDArray[np.bool_]:
    steps = _steps(segment)
    if segment.time_s is None:
        usual = float(np.median(steps)) if len(steps) else 0.0
        return steps > max(JUMP_M * 20, 200 * usual)
    lasted = np.maximum(np.diff(segment.time_s), 1e-3)
    return (steps > JUMP_M) & (steps / lasted > JUMP_MPS)


def without_jumps(track: ReadTrack) -> ReadTrack:
    """Only the pieces that hang together with the longest of them: fixes beyond a leap are left out."""
    kept = []
    for segment in track.segments:
        leaps = _leaps(segment)
        if not leaps.any():
            kept.append(segment)
            continue
        piece = np.concatenate([[0], np.cumsum(leaps)])
        main = int(np.bincount(piece).argmax())
        middle = piece == main
        centre = (np.median(segment.latitude_deg[middle]), np.median(segment.longitude_deg[middle]))
        near = np.zeros(len(segment), dtype=bool)
        for number in range(int(piece.max()) + 1):
            rows = piece == number
            apart = step_lengths_m(
                np.array([centre[0], np.median(segment.latitude_deg[rows])]),
                np.array([centre[1], np.median(segment.longitude_deg[rows])]),
            )
            near |= (
                rows
                & (float(apart[0]) < 200_000 if number != main else True)
                & (rows.sum() > 5 or number == main)
            )
        kept.append(segment.part(near))
    dropped = track.fixes - sum(len(segment) for segment in kept)
    if not dropped:
        return track
    notice = Notice("fixes_beyond_leap", file=track.file, count=dropped)
    return replace(
        track, segments=tuple(s for s in kept if len(s)), notices=(*track.notices, notice)
    )


def without_ends(track: ReadTrack, first_m: float, last_m: float) -> ReadTrack:
    """A track without its first and its last metres, so that it doesn't tell where its rider lives.

    Raises
    ------
    BundleError
        When nothing of it would be left.
    """
    total = track.length_m
    if first_m + last_m >= total:
        raise BundleError(
            [Fault(track.file, 0, 0, "is shorter than what is to be cut off; cut less")]
        )
    kept: list[Segment] = []
    come = 0.0
    for segment in track.segments:
        at = come + np.concatenate([[0.0], np.cumsum(_steps(segment))])
        come = float(at[-1]) if len(at) else come
        part = segment.part((at >= first_m) & (at <= total - last_m))
        if len(part):
            kept.append(part)
    return _cut(track, kept)


def without_place(
    track: ReadTrack, latitude_deg: float, longitude_deg: float, within_m: float
) -> ReadTrack:
    """A track without all that lies round a place.

    Raises
    ------
    BundleError
        When nothing of it would be left.
    """
    kept: list[Segment] = []
    for segment in track.segments:
        pairs = (
            np.column_stack([np.full(len(segment), here), there]).ravel()
            for here, there in (
                (latitude_deg, segment.latitude_deg),
                (longitude_deg, segment.longitude_deg),
            )
        )
        apart = step_lengths_m(*pairs)[::2]
        far = apart > within_m
        # What lies on two sides of the place is not joined through it.
        group = np.cumsum(np.diff(far, prepend=far[:1]))
        kept += [segment.part(far & (group == each)) for each in np.unique(group[far])]
    return _cut(track, [segment for segment in kept if len(segment)])


def _cut(track: ReadTrack, kept: Sequence[Segment]) -> ReadTrack:
    left = sum(len(segment) for segment in kept)
    if left < 2:
        raise BundleError([Fault(track.file, 0, 0, "has nothing left after the cut; cut less")])
    notice = Notice("track_cut", file=track.file, count=track.fixes - left)
    return replace(track, segments=tuple(kept), notices=(*track.notices, notice))


def samples_of(track: ReadTrack) -> pl.DataFrame:
    """A ridden track as samples: time from its first fix, places, heights and speed where they are known.

    Raises
    ------
    BundleError
        When it has no times.
    """
    import polars as pl

    if not track.is_timed:
        raise BundleError(
            [Fault(track.file, 0, 0, "has no times, so it tells no ride; take it as a route")]
        )
    parts = track.segments
    time = np.concatenate([part.time_s for part in parts if part.time_s is not None])
    columns = {
        "time_s": time - time[0],
        "speed_mps": np.concatenate(
            [
                part.speed_mps if part.speed_mps is not None else np.full(len(part), np.nan)
                for part in parts
            ]
        ),
        "latitude_deg": np.concatenate([part.latitude_deg for part in parts]),
        "longitude_deg": np.concatenate([part.longitude_deg for part in parts]),
        "altitude_m": np.concatenate([part.altitude_m for part in parts]),
    }
    frame = pl.DataFrame(
        {name: values for name, values in columns.items() if not np.isnan(values).all()}
    )
    return frame.with_columns(pl.col(name).fill_nan(None) for name in frame.columns[1:])


def as_gpx(track: ReadTrack, name: str) -> bytes:
    """A track as GPX 1.1, its segments apart."""
    import gpxpy.gpx as gpx

    document = gpx.GPX()
    document.creator = "Limpet"
    line = gpx.GPXTrack(name=name[:200])
    document.tracks.append(line)
    for part in track.segments:
        segment = gpx.GPXTrackSegment()
        for row in range(len(part)):
            when = (
                None
                if part.time_s is None
                else datetime.fromtimestamp(float(part.time_s[row]), timezone.utc)
            )
            height = float(part.altitude_m[row])
            segment.points.append(
                gpx.GPXTrackPoint(
                    latitude=round(float(part.latitude_deg[row]), 7),
                    longitude=round(float(part.longitude_deg[row]), 7),
                    elevation=None if np.isnan(height) else round(height, 2),
                    time=when,
                )
            )
        line.segments.append(segment)
    return bytes(document.to_xml("1.1").encode("utf-8"))
