"""What a rider noted on the practice ride, and what was true at each moment of it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

from limpet.evidence.model import (
    Conditions,
    Ending,
    EndReason,
    Entry,
    Gauge,
    Instruments,
    RangeTest,
    RiderSpec,
    Start,
    TestSheet,
)
from limpet.practice.course import Place, PracticeRide, WayHome

#: More than this nobody notes in two minutes.
MOST_ENTRIES = 60


@dataclass(frozen=True)
class PracticeLog:
    """A ride's entries, in the order of their times; `stop`, `resume` and `turn` are what was done.

    `time_s` counts stops in; the truth is kept by the time of riding alone.
    """

    ride: PracticeRide
    entries: tuple[Entry, ...]

    @cached_property
    def test(self) -> RangeTest:
        """The log as any other test: the core judges it as it would a real one."""
        ride = self.ride
        ending = None
        if self.entries and self.entries[-1].kind == "end":
            reason: EndReason = "aborted"
            if self.is_over:
                reason = "home" if self.way.home else "cutoff"
            ending = Ending(reason=reason)
        sheet = TestSheet(
            title=ride.name,
            purpose="everyday",
            vehicle=ride.vehicle,
            pack=ride.pack,
            rider=RiderSpec(mass_kg=ride.rider_kg),
            conditions=Conditions(temp_start_c=ride.temp_c),
            instruments=Instruments(gauge=Gauge(kind="bars", steps=ride.bars)),
            start=Start(full=True),
            ending=ending,
        )
        # That it began is known, whether or not anything was read then.
        begun = not self.entries or self.entries[0].time_s > 0
        start = (Entry(time_s=0.0, kind="start"),) if begun else ()
        return RangeTest(sheet=sheet, entries=(*start, *self.entries))

    def with_entries(self, entries: Sequence[Entry]) -> PracticeLog:
        """The same ride with another log."""
        return PracticeLog(self.ride, tuple(sorted(entries, key=lambda entry: entry.time_s)))

    @cached_property
    def turn_s(self) -> float | None:
        """When it was turned, in time of riding [s]; None while it goes out."""
        for entry in self.entries:
            if entry.kind == "turn":
                return self.moving_s(entry.time_s)
        return None

    @cached_property
    def way(self) -> WayHome:
        """The way home from the stone where it was turned; from the last one until then."""
        if self.turn_s is None:
            return self.ride.ways[-1]
        at_m = self.ride.out.at(self.turn_s).distance_m
        return min(self.ride.ways, key=lambda way: abs(way.turn_m - at_m))

    @cached_property
    def is_over(self) -> bool:
        """Whether it came home, or to where the drive cut off."""
        last = self.entries[-1].time_s if self.entries else 0.0
        return self.moving_s(last) >= float(self.way.rows.time_s[-1]) - 1

    def moving_s(self, time_s: float) -> float:
        """How long it had been ridden, without stops [s]."""
        stood, since = 0.0, None
        for entry in self.entries:
            if entry.time_s > time_s:
                break
            if entry.kind == "stop" and since is None:
                since = entry.time_s
            elif entry.kind == "resume" and since is not None:
                stood, since = stood + entry.time_s - since, None
        return (time_s if since is None else since) - stood

    def stood_s(self, time_s: float) -> float | None:
        """For how long it had been standing [s]; None on the move. Before the first metre and after
        the last it stands, too."""
        since: float | None = None
        for entry in self.entries:
            if entry.time_s > time_s:
                break
            if entry.kind == "stop" and since is None:
                since = entry.time_s
            elif entry.kind == "resume":
                since = None
        if since is not None:
            return time_s - since
        moving = self.moving_s(time_s)
        if moving <= 1:
            return float("inf")
        beyond = moving - float(self.way.rows.time_s[-1])
        return beyond if beyond >= 0 else None

    def place(self, time_s: float) -> Place:
        """What was true at a moment of the log."""
        moving = self.moving_s(time_s)
        home = self.way.rows
        return home.at(moving) if moving >= home.time_s[0] else self.ride.out.at(moving)
