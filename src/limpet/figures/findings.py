"""What a test's evidence comes to before it is put in words: readings, meters, draws."""

from __future__ import annotations

from dataclasses import dataclass

from limpet.assumptions import InstrumentName
from limpet.evidence.checks import FASTEST_MPS
from limpet.evidence.model import RangeTest
from limpet.figures.drawn import DrawnFigures, drawn_figures, more_inputs
from limpet.notices import Notice
from limpet.pack import CurveFamily, curve_family
from limpet.read.choose import least_uncertain, widened
from limpet.read.distance import distance_methods
from limpet.read.energy import EnergyFindings, metered_energy
from limpet.read.heights import Heights, heights_of
from limpet.read.line import Estimate
from limpet.read.moving import driving_hours
from limpet.read.progress import Progress, progress_of
from limpet.read.readings import Reading, readings, shown_ranges_read
from limpet.read.resistance import Resistance, pack_resistance
from limpet.read.window import RideWindow, ride_window
from limpet.state.priors import NOTHING, Priors
from limpet.state.remaining import DRAWS, Left, energy_left
from limpet.units import SECONDS_PER_HOUR


@dataclass(frozen=True, slots=True, kw_only=True)
class Findings:
    """All that the questions about a test are asked of.

    `found` every reading of the pack's state; `meter`, `way` the least uncertain energy and distance
    that were read, None where none was; `hours` of driving; `told` whether anything tells the share of
    the pack that was used; `left`, `drawn` columns over the same draws.
    """

    ride: RideWindow
    found: list[Reading]
    resistance: Resistance
    hours: float
    evidence: EnergyFindings
    distances: list[Estimate]
    meter: Estimate | None
    way: Estimate | None
    progress: Progress
    heights: Heights | None
    left: Left
    drawn: DrawnFigures
    told: bool
    notices: list[Notice]


def find(
    test: RangeTest,
    priors: Priors = NOTHING,
    *,
    family: CurveFamily | None = None,
    draws: int = DRAWS,
    under_way: bool = False,
    cruise_w: float | None = None,
) -> Findings:
    """Read a test, draw every error of it once, and let its readings sort the draws out.

    Parameters
    ----------
    priors, family : as `analyse` has them
    draws : how many beside the best value
    under_way : the ride goes on: what nobody said of its start is not taken for granted
    cruise_w : what it would be ridden with [W], where nothing was ridden yet
    """
    ride = ride_window(test)
    distances, notices = distance_methods(test, ride)
    found = readings(test, ride)
    if under_way:
        best = least_uncertain(distances)
        found += shown_ranges_read(test, ride, None if best is None else best.line)
    resistance = pack_resistance(test, ride)
    hours = driving_hours(test, ride)
    # Clocks that were set, or entries noted one after the other, make no ride faster than any can be.
    furthest = max((item.line.span for item in distances), default=0.0)
    hours = max(hours, furthest / FASTEST_MPS / SECONDS_PER_HOUR)
    finest = max((item.line for item in distances), key=lambda line: len(line.time_s), default=None)
    rests = [item for item in found if item.kind == "rest"]
    evidence = metered_energy(test, ride, finest, resistance.ohm, hours, rests)
    meter = least_uncertain(evidence.methods)
    way = least_uncertain(distances)
    energy_used = widened(meter, evidence.methods)
    distance_used = widened(way, distances)
    family = family or curve_family(test.sheet.pack.chemistry)
    nominal_v = test.sheet.pack.series * family.mean_v
    progress = progress_of(
        test, ride, evidence.charge, evidence.counted, distance_used, nominal_v, hours
    )
    heights = heights_of(test, ride)
    left = energy_left(
        test,
        ride,
        progress,
        found,
        resistance,
        _instruments(evidence, distances, progress),
        more_inputs(energy_used, distance_used, heights, test.sheet.pack.equivalent_full_cycles),
        family=family,
        priors=priors,
        draws=draws,
        under_way=under_way,
        cruise_w=cruise_w,
    )
    drawn = drawn_figures(test, ride, left, energy_used, distance_used, evidence.charge, heights)
    return Findings(
        ride=ride,
        found=found,
        resistance=resistance,
        hours=hours,
        evidence=evidence,
        distances=distances,
        meter=meter,
        way=way,
        progress=progress,
        heights=heights,
        left=left,
        drawn=drawn,
        told=_told(test, ride, found, evidence, progress),
        notices=[*notices, *evidence.notices],
    )


def _instruments(
    evidence: EnergyFindings, distances: list[Estimate], progress: Progress
) -> list[InstrumentName]:
    """Every instrument whose gain counts, the voltmeter always among them."""
    names: list[InstrumentName] = ["voltage"]
    names += [name for item in (*evidence.methods, *distances) for name, _ in item.gains]
    names += [progress.gain] if progress.gain is not None else []
    names += [evidence.charge.gain] if evidence.charge is not None else []
    return list(dict.fromkeys(names))


def _told(
    test: RangeTest,
    ride: RideWindow,
    found: list[Reading],
    evidence: EnergyFindings,
    progress: Progress,
) -> bool:
    """Whether anything tells the share of the pack that was used."""
    if ride.reached_end:
        return True
    if evidence.charge is not None or evidence.counted is not None:
        return True
    state = [item for item in found if item.time_s <= ride.end_s or item.kind == "rest"]
    began = next((item for item in state if item.at_start_of == 0), None)
    later = [item for item in state if item is not began]
    # One reading at the start says nothing of what was used; one later does, from full.
    return bool(later) and (progress.basis != "time" or len(state) > 1)
