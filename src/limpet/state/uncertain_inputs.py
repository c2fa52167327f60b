"""The uncertain inputs of a test: each once, with its spread, its shape and where it is from."""

from __future__ import annotations

from collections.abc import Sequence
from math import sqrt
from typing import Final

import numpy as np

from limpet.assumptions import (
    FULL_WITHIN_V,
    GAUGE_BEND,
    LABEL,
    PLAUSIBLE_WH_PER_MI,
    SAID_FULL,
    START_SHOWN,
    UNKNOWN_PACK,
    InstrumentName,
    retained_after,
)
from limpet.evidence.model import RangeTest
from limpet.pack import (
    PackSpec,
    capacity_factor,
    full_energy_wh,
    is_lead,
    resistance_factor,
    voltage_limits,
)
from limpet.pack.usable import LOW_CHARGE_OHM, LOW_CHARGE_STD, PEUKERT, PEUKERT_STD
from limpet.read.accuracy import accuracy
from limpet.read.evidence import Evidence
from limpet.read.height_difference import CLIMB_EFFICIENCY
from limpet.read.readings import Reading, gauge_steps
from limpet.read.stated import mass_kg, pack_temp_c, packs_together
from limpet.read.window import RideWindow
from limpet.state.priors import Priors, taught
from limpet.state.usual_consumption import usual_wh_per_m
from limpet.uncertain.input import Input, Shape
from limpet.units import METRES_PER_MILE, SECONDS_PER_HOUR, STANDARD_GRAVITY_MPS2

#: A capacity factor for the cold is off by this share of what it takes away (assumption).
COLD_STD = 0.3
#: Polarisation beyond the 10-s resistance, at one times the amp-hours of current, warm [V a cell], and
#: its relative u (assumption): 15 mV at half of that, 5 to 40 by the kind of cell.
LAG_V_PER_RATE, LAG_STD = 0.030, 1.1
#: Noted by a rider who trusts a display, or nobody: what may be off of the cut-off [-] (assumption).
CUTOFF_STD, CUTOFF_ASSUMED_STD = 0.004, 0.03
#: A cell of iron phosphate at rest from here on is anything from so full up to full: off its charger it rests
#: anywhere between this and its charger's volts, and so does one at 82% [V, -] (handbook section 4).
LFP_HIGH_V, LFP_HIGH = 3.33, 0.8
#: A gauge shows ((left − bottom)/(1 − bottom))^bend: gauges hang high in the middle (common practice,
#: no source: rides of handbook section 18 give bends of 0.6 and 0.9).
GAUGE_BOTTOM = (0.0, 0.05)
#: A gauge that goes by volts under load falls at once by so much of its full when the ride begins, and
#: stands the lower for it all along; one that counts does not: value and u (assumption, by the gauges of
#: handbook section 18 and volts of simulated rides).
GAUGE_DROP: Final = (0.04, 0.045)
#: What truly came over what a display promised: 0.5 to 1.6 in nineteen of twenty (handbook section 9,
#: assumption): middle, and u.
CAME_OF_SHOWN: Final = (0.89, 0.27)
#: A pack of which nobody said how full it was, on a ride that goes on: evenly from here up to full [-]
#: (handbook section 4).
LEAST_UNSAID = 0.2
#: Where such a start is from, and one that a test's rules ask for.
UNSAID: Final = "not said: full or not"
ASSUMED_FULL: Final = "assumed full"
#: u of a start that came off the charger within the hour [-]; of iron phosphate, whose chargers end in steps
#: that nothing shows (handbook section 4: ± 3%).
JUST_CHARGED_STD, LFP_CHARGED_STD = 0.02, 0.03
#: Rules of a test that ask for a full pack, and ends that such a test has.
FROM_FULL: Final = frozenset({"cutoff", "protect", "speed_floor"})
#: A difference of height that nobody noted [m] (assumption).
UNKNOWN_HEIGHT_M = 15.0


def world_inputs(evidence: Evidence, priors: Priors, *, under_way: bool = False) -> list[Input]:
    """Every uncertain input of the pack and of the instruments that read it and the way.

    Parameters
    ----------
    evidence : what was read of the test
    priors : what earlier tests taught
    under_way : a ride goes on: what nobody said of its start is not taken for granted
    """
    test, ride, found = evidence.test, evidence.ride, evidence.readings
    progress, resistance = evidence.progress, evidence.resistance
    pack = test.sheet.pack
    temp = pack_temp_c(test)
    cold = capacity_factor(pack.chemistry, temp)
    slower = float(resistance_factor(np.array([temp]))[0])
    ohm, ohm_std = resistance.ohm, resistance.std_ohm
    if not resistance.measured:
        ohm, ohm_std = ohm * slower, ohm_std * slower
    cycles = pack.equivalent_full_cycles
    _, _, cutoff_assumed = voltage_limits(pack)
    cutoff_source = "assumed for the chemistry" if cutoff_assumed else "sheet"
    lag = LAG_V_PER_RATE * slower
    retained, retained_std = retained_after(cycles)
    usual, usual_std = _usual(evidence)
    kind = test.sheet.vehicle.kind.replace("_", " ")
    packs = 1 if len(ride.packs) > 1 else packs_together(test)
    told = "assumption"
    inputs = [
        _rated_ah(pack, packs),
        _input("label", *LABEL.spread, "common practice", "soft_top"),
        _input("retained", retained, retained_std, told if cycles is None else "cycles"),
        _input("cold", cold, COLD_STD * (1 - cold) + 0.005, told),
        *([_input("peukert", PEUKERT, PEUKERT_STD, told)] if is_lead(pack.chemistry) else []),
        *(instrument(test, name) for name in evidence.instruments),
        _input("consumption", usual, usual_std, f"road model of the {kind}", "far_tailed"),
        _input("resistance_ohm", ohm, ohm_std, resistance.source, "lognormal"),
        _input(
            "low_charge_resistance",
            LOW_CHARGE_OHM,
            LOW_CHARGE_STD * LOW_CHARGE_OHM,
            told,
            "lognormal",
        ),
        _input("lag", lag, LAG_STD * lag, told, "lognormal"),
        _input("end_current", *progress.amps_per_mean, told, "lognormal"),
        _input("pull", 1.3, 0.45, told, "lognormal"),
        _input("cutoff", 1.0, CUTOFF_ASSUMED_STD if cutoff_assumed else CUTOFF_STD, cutoff_source),
        _input("gauge_bottom", *GAUGE_BOTTOM, told),
        _input("gauge_bend", *GAUGE_BEND.spread, told, "lognormal"),
        *(_of_the_display(test, ride, found) if under_way else ()),
        *(_start(test, ride, found, number, under_way) for number in range(len(ride.packs))),
    ]
    if pack.chemistry == "lfp":
        # A gauge that goes by its volts has no bend that one ride could teach the next: it is near no smooth map.
        priors = priors.without("gauge_bend", "gauge_bottom")
    return taught(
        inputs,
        priors,
        slower=slower,
        packs=resistance.packs,
        by_distance=progress.basis == "distance",
    )


def _of_the_display(test: RangeTest, ride: RideWindow, found: Sequence[Reading]) -> list[Input]:
    """What a display may mean that no finished test asks of it."""
    inputs = []
    if any(item.kind == "shown" for item in found):
        inputs.append(_input("came_of_shown", *CAME_OF_SHOWN, "assumption", "lognormal"))
    if any(item.kind == "gauge" for item in found):
        inputs.append(_input("gauge_drop", *GAUGE_DROP, "assumption"))
    packs = packs_together(test)
    if packs > 1 and len(ride.packs) == 1 and any(item.kind == "gauge" for item in found):
        # Of several packs it may show their mean, or the fuller one: evenly anything between.
        half = (packs - 1) / 2
        inputs.append(
            _input("gauge_leads", half, half / sqrt(3), "several packs, one gauge", "rectangular")
        )
    return inputs


def _rated_ah(pack: PackSpec, packs: int) -> Input:
    """A label is what it says; a pack that nobody describes is any."""
    rated_ah = pack.rated_ah * packs
    if pack.knows_energy:
        return _input("rated_ah", rated_ah, 0.0, "label")
    return _input("rated_ah", rated_ah, UNKNOWN_PACK.std * rated_ah, "taken: no label", "lognormal")


def instrument(test: RangeTest, name: InstrumentName) -> Input:
    """What an instrument shows over what is true, evenly within what its maker states (GUM 4.3.7)."""
    found = accuracy(test, name)
    source = "assumed accuracy" if found.assumed else "stated accuracy"
    return _input(name, 1.0, found.relative_std, source, "rectangular")


def metres_of_height(test: RangeTest) -> float:
    """How far the energy of a height that nobody noted would carry on the level [m]."""
    low, high = PLAUSIBLE_WH_PER_MI.get(test.sheet.vehicle.kind, (12.0, 160.0))
    usual = sqrt(low * high) / METRES_PER_MILE
    climb_wh = mass_kg(test) * STANDARD_GRAVITY_MPS2 * UNKNOWN_HEIGHT_M / CLIMB_EFFICIENCY
    return climb_wh / SECONDS_PER_HOUR / usual


def _usual(evidence: Evidence) -> tuple[float, float]:
    if evidence.progress.basis == "time":
        # Anything between a pack in half an hour and one in eight.
        rate = full_energy_wh(evidence.test.sheet.pack) / (2 * SECONDS_PER_HOUR)
        return rate, 2.0 * rate
    way = None if evidence.distance is None else evidence.distance.line
    return usual_wh_per_m(evidence.test, evidence.ride, way, evidence.hours)


def _start(
    test: RangeTest, ride: RideWindow, found: Sequence[Reading], number: int, under_way: bool
) -> Input:
    """The share of usable energy that a pack began with."""
    name = f"start_{number + 1}"
    pack = test.sheet.pack
    said = test.sheet.start if number == 0 else None
    if said is not None and said.energy_fraction is not None and said.energy_fraction < 1:
        return _input(name, said.energy_fraction, START_SHOWN.std, "sheet: share at the start")
    if said is not None and said.just_charged:
        short = LFP_CHARGED_STD if pack.chemistry == "lfp" else JUST_CHARGED_STD
        return _input(name, 1.0, short, "sheet: just charged", "shortfall")
    if said is not None and (said.full or said.energy_fraction == 1):
        return _input(name, 1.0, SAID_FULL.std, "sheet: full at the start", "shortfall")
    full_v, _, _ = voltage_limits(pack)
    first = next((item for item in found if item.at_start_of == number), None)
    if first is not None and first.kind == "rest":
        if pack.chemistry == "lfp":
            if first.value >= LFP_HIGH_V * pack.series:
                return _between(name, LFP_HIGH, "resting volts at the start")
        elif first.value >= full_v - FULL_WITHIN_V.value * pack.series - 1e-9:
            return _input(name, 1.0, SAID_FULL.std, "resting volts at the start", "shortfall")
        return _anything(name, "resting volts at the start")
    if first is not None and first.kind == "gauge":
        if first.value < 0.98 * gauge_steps(test, [item for item in found if item.kind == "gauge"]):
            return _anything(name, "gauge at the start")
        return _input(name, 1.0, SAID_FULL.std, "gauge at the start", "shortfall")
    if said is not None and said.full is False:
        return _anything(name, "sheet: not full at the start")
    if number == 0 and (under_way or not asks_for_full(test, ride)):
        return _between(name, LEAST_UNSAID, UNSAID)
    return _input(name, 1.0, SAID_FULL.std, ASSUMED_FULL, "shortfall")


def asks_for_full(test: RangeTest, ride: RideWindow) -> bool:
    """Whether a finished test's rules, or its end where no rule is said, ask for a pack that began full."""
    rule = test.sheet.protocol.end_rule if test.sheet.protocol is not None else None
    reason = test.sheet.ending.reason if test.sheet.ending is not None else None
    return ride.reached_end if rule is None and reason is None else (rule or reason) in FROM_FULL


def _between(name: str, least: float, source: str) -> Input:
    """Evenly anything from a share up to full."""
    return _input(name, (1 + least) / 2, (1 - least) / 2 / sqrt(3), source, "rectangular")


def _anything(name: str, source: str) -> Input:
    return _input(name, 0.5, 0.5 / sqrt(3), source, "rectangular")


def _input(name: str, value: float, std: float, source: str, shape: Shape = "normal") -> Input:
    return Input(name=name, value=value, standard_uncertainty=std, source=source, shape=shape)
