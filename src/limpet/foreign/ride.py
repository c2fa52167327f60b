"""What several instruments recorded of one ride, as one test: each its own stream, on one clock."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta, timezone
from typing import TYPE_CHECKING, Final
from zoneinfo import ZoneInfo

from limpet.errors import BundleError, Fault
from limpet.evidence.model import Entry, Gauge, Instruments, RangeTest, SampleSources, TestSheet
from limpet.evidence.streams import Stream, joined
from limpet.foreign.rests import Span
from limpet.notices import Notice

if TYPE_CHECKING:
    import polars as pl

#: Recordings are of one ride where they overlap, or lie no further apart than this [s] (assumption).
SAME_RIDE_S: Final = 600.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Recorded:
    """What one instrument recorded: its name, samples from its own time 0 [s], and when that was.

    `offset_s` is what its clock is to be moved by, beyond what the two clocks say [s].
    """

    name: str
    samples: pl.DataFrame
    started_at: datetime | None = None
    offset_s: float = 0.0
    is_track: bool = False
    notices: tuple[Notice, ...] = ()

    @property
    def lasted_s(self) -> float:
        """From its first row to its last."""
        return float(self.samples["time_s"][-1])


def part_of(recorded: Recorded, span: Span) -> Recorded:
    """A stretch of a recording as one of its own, from its own time 0.

    Raises
    ------
    BundleError
        When fewer than two rows lie in it.
    """
    import polars as pl

    rows = recorded.samples.filter(pl.col("time_s").is_between(span.from_s, span.to_s))
    if rows.height < 2:
        raise BundleError(
            [
                Fault(
                    recorded.name,
                    0,
                    0,
                    "has fewer than two rows in that stretch; choose a longer one",
                )
            ]
        )
    first = float(rows["time_s"][0])
    started = recorded.started_at
    return replace(
        recorded,
        samples=rows.with_columns(pl.col("time_s") - first),
        started_at=None if started is None else started + timedelta(seconds=first),
    )


def moment_of(when: datetime, zone: str | None) -> datetime:
    """A moment with an offset: a bare clock is one of the zone, UTC where nobody says."""
    if when.tzinfo is not None:
        return when
    try:
        placed = when.replace(tzinfo=ZoneInfo(zone)) if zone else when.replace(tzinfo=timezone.utc)
        # The offset of that day, and not the place's rules.
        return when.replace(tzinfo=timezone(placed.utcoffset() or timedelta()))
    except (KeyError, ValueError, OSError):
        return when.replace(tzinfo=timezone.utc)


def rides_in(recorded: Sequence[Recorded], zone: str | None = None) -> list[list[int]]:
    """Which recordings are of one ride, by their clocks; those without a date go with the only ride there is.

    Returns
    -------
    places in `recorded`, ride by ride
    """
    timed = [
        (moment_of(item.started_at, zone), at)
        for at, item in enumerate(recorded)
        if item.started_at is not None
    ]
    timed.sort()
    rides: list[list[int]] = []
    until: datetime | None = None
    for began, at in timed:
        ends = began + timedelta(seconds=recorded[at].lasted_s)
        overlaps = until is not None and began <= until
        if (
            rides
            and until is not None
            and (overlaps or (began - until).total_seconds() < SAME_RIDE_S)
        ):
            rides[-1].append(at)
            until = max(until, ends)
        else:
            rides.append([at])
            until = ends
    bare = [at for at, item in enumerate(recorded) if item.started_at is None]
    if len(rides) == 1 and bare:
        rides[0] += bare
    elif bare:
        rides += [[at] for at in bare]
    return rides


def ridden_test(
    recorded: Sequence[Recorded],
    sheet: TestSheet,
    zone: str | None = None,
    entries: tuple[Entry, ...] = (),
) -> RangeTest:
    """The recordings of one ride as a test that began with the first of them.

    Parameters
    ----------
    recorded : one or more
    sheet : what was tested; it keeps its own start where it has one
    zone : of clocks that say none
    """
    own = next((item for item in recorded if item.started_at is not None), None)
    started = sheet.started_at
    if started is None and own is not None:
        first = min(
            (item for item in recorded if item.started_at is not None),
            key=lambda item: (
                moment_of(item.started_at, zone) if item.started_at is not None else datetime.max
            ),
        )
        started = first.started_at
        if started is not None and zone is not None:
            started = moment_of(started, zone)
    streams = []
    for item in recorded:
        offset_s = item.offset_s
        if started is not None and item.started_at is not None:
            offset_s += (
                moment_of(item.started_at, zone) - moment_of(started, zone)
            ).total_seconds()
        streams.append(Stream(samples=item.samples, clock_offset_s=offset_s, name=item.name))
    notices = tuple(notice for item in recorded for notice in item.notices)
    tools = sheet.instruments or Instruments()
    columns = {name for item in recorded for name in item.samples.columns}
    if "gauge" in columns and tools.gauge is None:
        tools = replace(tools, gauge=Gauge(kind="percent"))
    if (
        tools.samples is None
        and any(item.is_track and "speed_mps" in item.samples.columns for item in recorded)
        and not any("distance_m" in item.samples.columns for item in recorded)
    ):
        tools = replace(tools, samples=SampleSources(distance="gps"))
    sheet = replace(
        sheet, started_at=started, instruments=None if tools == Instruments() else tools
    )
    return RangeTest(
        sheet=sheet,
        samples=joined(streams),
        streams=tuple(streams),
        entries=entries,
        notices=notices,
    )
