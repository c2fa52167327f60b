"""A test read once: its ride, its meters and distances, and what tells of its pack; nothing drawn yet."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from limpet.assumptions import InstrumentName
from limpet.evidence.checks import FASTEST_MPS
from limpet.evidence.model import RangeTest
from limpet.notices import Notice
from limpet.read.choose import least_uncertain, widened
from limpet.read.clock_apart import without_samples_of_another_clock
from limpet.read.contrary import told_apart, within_reach
from limpet.read.distance import distance_methods
from limpet.read.energy import MeteredEnergy, metered_energy
from limpet.read.height_difference import Heights, heights_of
from limpet.read.line import Estimate
from limpet.read.moving import driving_hours
from limpet.read.progress import Progress, progress_of
from limpet.read.readings import Reading, readings, shown_ranges_read
from limpet.read.resistance import Resistance, pack_resistance
from limpet.read.window import RideWindow, ride_window
from limpet.units import SECONDS_PER_HOUR


@dataclass(frozen=True, slots=True, kw_only=True)
class Evidence:
    """All that is read from a test before anything is drawn.

    Parameters
    ----------
    test : as recorded, its instruments corrected by what earlier tests taught
    ride : where the ride proper begins and ends
    readings : every reading of the pack's state, in time
    resistance : of all packs together as ridden
    hours : of driving [h]
    metered : what meters tell of the energy
    distances : every distance, in the order of bundle.md
    meter, distance : the least uncertain energy and distance that were read, None where none was
    progress : what progress along the ride is counted in
    heights : how far above its start the ride ended, None where nothing tells
    tells_share : whether anything tells the share of the pack that was used
    messages : what the reading itself has to say, gaps and resets
    """

    test: RangeTest
    ride: RideWindow
    readings: tuple[Reading, ...]
    resistance: Resistance
    hours: float
    metered: MeteredEnergy
    distances: tuple[Estimate, ...]
    meter: Estimate | None
    distance: Estimate | None
    progress: Progress
    heights: Heights | None
    tells_share: bool
    messages: tuple[Notice, ...]

    @property
    def energy_used(self) -> Estimate | None:
        """The metered energy, as uncertain as it takes to hold the methods that contradict it."""
        return widened(self.meter, self.metered.methods)

    @property
    def distance_used(self) -> Estimate | None:
        """The distance, as uncertain as it takes to hold the methods that contradict it and may be of one ride."""
        return widened(self.distance, within_reach(self.distance, self.distances))

    @property
    def gauges(self) -> tuple[Reading, ...]:
        """What the vehicle's gauge showed, in time."""
        return tuple(item for item in self.readings if item.kind == "gauge")

    @property
    def instruments(self) -> list[InstrumentName]:
        """Every instrument whose gain counts, the voltmeter always among them."""
        names: list[InstrumentName] = ["voltage"]
        names += [
            name for item in (*self.metered.methods, *self.distances) for name, _ in item.gains
        ]
        names += [self.progress.gain] if self.progress.gain is not None else []
        names += [self.metered.charge.gain] if self.metered.charge is not None else []
        return list(dict.fromkeys(names))


def read_test(test: RangeTest, *, mean_v: float, under_way: bool = False) -> Evidence:
    """Read a test.

    Parameters
    ----------
    test : as recorded, its instruments corrected by what earlier tests taught
    mean_v : mean voltage of a cell of its kind from full to cut-off [V]
    under_way : the ride goes on: what its display means is a reading too

    Returns
    -------
    Evidence; poor evidence is not an error
    """
    asked: list[Notice] = []
    if not under_way:
        test, asked = without_samples_of_another_clock(test)
    ride = ride_window(test)
    distances, messages = distance_methods(test, ride)
    distance, apart = (least_uncertain(distances), []) if under_way else told_apart(distances)
    found = readings(test, ride)
    if under_way:
        found += shown_ranges_read(test, ride, None if distance is None else distance.line)
    resistance = pack_resistance(test, ride)
    hours = driving_hours(test, ride)
    # Clocks that were set, or entries noted one after the other, make no ride faster than any can be.
    furthest = max((item.line.span for item in distances), default=0.0)
    hours = max(hours, furthest / FASTEST_MPS / SECONDS_PER_HOUR)
    finest = max((item.line for item in distances), key=lambda line: len(line.time_s), default=None)
    rests = [item for item in found if item.kind == "rest"]
    metered = metered_energy(test, ride, finest, resistance.ohm, hours, rests)
    progress = progress_of(
        test,
        ride,
        metered.charge,
        metered.counted,
        distance,
        test.sheet.pack.series * mean_v,
        hours,
    )
    return Evidence(
        test=test,
        ride=ride,
        readings=tuple(found),
        resistance=resistance,
        hours=hours,
        metered=metered,
        distances=tuple(distances),
        meter=least_uncertain(metered.methods),
        distance=distance,
        progress=progress,
        heights=heights_of(test, ride),
        tells_share=_tells_share(ride, found, metered, progress),
        messages=(*asked, *apart, *messages, *metered.notices),
    )


def _tells_share(
    ride: RideWindow,
    found: Sequence[Reading],
    metered: MeteredEnergy,
    progress: Progress,
) -> bool:
    """Whether anything tells the share of the pack that was used."""
    if ride.reached_end:
        return True
    if metered.charge is not None or metered.counted is not None:
        return True
    of_ride = [item for item in found if item.time_s <= ride.end_s or item.kind == "rest"]
    began = next((item for item in of_ride if item.at_start_of == 0), None)
    later = [item for item in of_ride if item is not began]
    # One reading at the start says nothing of what was used; one later does, from full.
    return bool(later) and (progress.basis != "time" or len(of_ride) > 1)
