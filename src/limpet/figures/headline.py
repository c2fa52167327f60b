"""A test's headline figures: energy, distance, consumption, the share of the pack, range."""

from __future__ import annotations

from dataclasses import dataclass

from limpet.figures.drawn import quantity
from limpet.figures.findings import Findings
from limpet.figures.lone import lone_estimates
from limpet.figures.parts import Consumption
from limpet.quantity import Quantity
from limpet.read.choose import least_uncertain
from limpet.read.line import Estimate, Line
from limpet.read.moving import driving_line
from limpet.units import METRES_PER_KM, METRES_PER_MILE


@dataclass(frozen=True, slots=True, kw_only=True)
class Headline:
    """The headline figures; None is "the evidence cannot give it".

    `energies` are all methods, `used` the one that energy is taken from; `energy_line` how the energy
    ran up [Wh]; `share` of usable energy that was used, `started` with so much of the first pack's.
    """

    energies: list[Estimate]
    used: Estimate | None
    energy: Quantity | None
    energy_line: Line | None
    distance: Quantity | None
    consumption: Consumption | None
    share: Quantity | None
    started: Quantity | None
    range_m: Quantity | None
    usable: Quantity | None


def headline_of(found: Findings) -> Headline:
    """Each headline figure, from the draws, about what was read where something was.

    Parameters
    ----------
    found : the test's findings
    """
    evidence, drawn, whole = found.evidence, found.drawn, found.from_full_to_end
    labelled = evidence.test.sheet.pack.knows_energy
    shape = _shape(found)
    # Without a label, volts and gauges give a share of an unknown energy.
    lone = lone_estimates(evidence, found.remaining, shape) if labelled else []
    energies = [*evidence.metered.methods, *lone]
    used = evidence.meter
    if used is None and found.contradiction is None:
        used = least_uncertain([item for item in energies if item.method != "linear_voltage"])
    # A label that the ride contradicts tells no energy.
    known = used is not None or (found.tells_share and labelled and found.contradiction is None)
    energy = _energy(found) if known else None
    distance = _distance(found)
    share = started = range_m = usable = None
    if found.tells_share:
        started = quantity(drawn.started, "1", 1.0 if whole else None)
        if evidence.progress.line.span > 0:
            share = quantity(drawn.share, "1", 1.0 if whole else None)
    if share is not None and distance is not None and drawn.range_m is not None:
        range_m = quantity(drawn.range_m, "m", distance.value if whole else None)
    if share is not None and energy is not None and drawn.usable_wh is not None:
        usable = quantity(drawn.usable_wh, "Wh", energy.value if whole else None)
    return Headline(
        energies=energies,
        used=used,
        energy=energy,
        energy_line=_energy_line(used, shape, energy),
        distance=distance,
        consumption=_consumption(found, energy, distance),
        share=share,
        started=started,
        range_m=range_m,
        usable=usable,
    )


def _shape(found: Findings) -> Line:
    """How energy ran up along the ride, by the best that tells: a meter, the way, the time driven."""
    evidence = found.evidence
    best = evidence.meter or evidence.distance
    return best.line if best is not None else driving_line(evidence.test, evidence.ride)


def _energy(found: Findings) -> Quantity | None:
    meter, drawn = found.evidence.meter, found.drawn
    if drawn.energy_wh is None:
        return None
    read = meter is not None and meter.gains
    value = meter.quantity.value if meter is not None and read else drawn.energy_value_wh
    return quantity(drawn.energy_wh, "Wh", value)


def _distance(found: Findings) -> Quantity | None:
    way, drawn = found.evidence.distance, found.drawn.distance_m
    return None if way is None or drawn is None else quantity(drawn, "m", way.quantity.value)


def _energy_line(used: Estimate | None, shape: Line, energy: Quantity | None) -> Line | None:
    """How the energy ran up: as its method has it, else as the way did."""
    if used is not None:
        return used.line
    if energy is None or shape.span <= 0:
        return None
    return Line(time_s=shape.time_s, total=shape.total * (energy.value / shape.span))


def _consumption(
    found: Findings, energy: Quantity | None, distance: Quantity | None
) -> Consumption | None:
    energy_wh, distance_m = found.drawn.energy_wh, found.drawn.distance_m
    if energy is None or distance is None or energy_wh is None or distance_m is None:
        return None
    if distance.value <= 0:
        return None
    per_metre = quantity(energy_wh / distance_m, "Wh/m", energy.value / distance.value)
    return Consumption(
        wh_per_km=per_metre.scaled(METRES_PER_KM, "Wh/km"),
        wh_per_mi=per_metre.scaled(METRES_PER_MILE, "Wh/mi"),
    )
