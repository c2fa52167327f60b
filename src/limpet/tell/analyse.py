"""`analyse(test) -> Result`: the one function behind the page, the API and the command line."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from limpet.assumptions import RESERVE
from limpet.evidence.checks import all_questions
from limpet.evidence.model import RangeTest
from limpet.figures.budget import Advice, Part, advice_of, budget_of
from limpet.figures.claimed import claim_of
from limpet.figures.climb import climb_of, noted_climb, profile_of
from limpet.figures.drawn import GUESS_BELOW, DrawnFigures, quantity
from limpet.figures.fade import fade_of
from limpet.figures.findings import find
from limpet.figures.gauge_habits import gauge_habits
from limpet.figures.gauge_truth import gauge_truth
from limpet.figures.legs import legs_of
from limpet.figures.listed import listed_inputs
from limpet.figures.lone import lone_estimates
from limpet.figures.methods import side_by_side
from limpet.figures.pack_parts import packs_of
from limpet.figures.parts import AtReference, Budget, Consumption, PackResult, Regeneration
from limpet.figures.plan_on import plan_on
from limpet.figures.shown_ranges import shown_ranges
from limpet.notices import Notice
from limpet.pack import CurveFamily
from limpet.quantity import Quantity
from limpet.read.choose import least_uncertain
from limpet.read.energy import EnergyFindings
from limpet.read.line import Estimate, Line
from limpet.read.moving import driving_line
from limpet.read.readings import gauge_steps
from limpet.read.sheet import packs_together
from limpet.state.calibrated import calibrated
from limpet.state.priors import NOTHING, Priors
from limpet.state.remaining import Left
from limpet.tell import cautions
from limpet.tell.disagreements import disagreements
from limpet.tell.happened import happened
from limpet.tell.messages import (
    about_charging,
    about_energy,
    about_height,
    about_label,
    about_lessons,
    about_start,
    beyond_label,
    what_is_missing,
    what_volts_lack,
    what_was_assumed,
)
from limpet.tell.result import Result
from limpet.tell.verdict import Found, verdict_of
from limpet.tell.workings import Given, workings_of
from limpet.uncertain.inputs import Input
from limpet.units import METRES_PER_KM, METRES_PER_MILE, SECONDS_PER_HOUR

FloatArray = NDArray[np.float64]


def analyse(
    test: RangeTest, priors: Priors = NOTHING, *, family: CurveFamily | None = None
) -> Result:
    """Energy, distance, consumption and range of one test, each with its uncertainty.

    Parameters
    ----------
    test : as recorded; poor evidence is not an error
    priors : what earlier tests taught (`limpet.history.learn`); each is named among the inputs
    family : curves to draw the cells' from; the chemistry's own when None

    Returns
    -------
    Result; what the evidence cannot give is None, with a warning that says what to record next
    time. The formulas and their sources stand in docs/method.md.
    """
    test = calibrated(test, priors)
    seen = find(test, priors, family=family)
    ride, found, evidence, left, drawn = seen.ride, seen.found, seen.evidence, seen.left, seen.drawn
    resistance, meter, way, hours = seen.resistance, seen.meter, seen.way, seen.hours
    heights, distances, told = seen.heights, seen.distances, seen.told

    shape = (
        meter.line
        if meter is not None
        else way.line
        if way is not None
        else driving_line(test, ride)
    )
    labelled = test.sheet.pack.knows_energy
    # Without a label volts and gauges tell a share, and of how much nobody knows.
    lone = lone_estimates(test, ride, left, found, shape) if labelled else []
    energies = [*evidence.methods, *lone]
    used = meter or least_uncertain([item for item in energies if item.method != "linear_voltage"])
    energy = None
    if (used is not None or (told and labelled)) and drawn.energy_wh is not None:
        read = meter is not None and meter.gains
        value = meter.quantity.value if meter is not None and read else drawn.energy_value_wh
        energy = quantity(drawn.energy_wh, "Wh", value)
    distance = (
        quantity(drawn.distance_m, "m", way.quantity.value)
        if way is not None and drawn.distance_m is not None
        else None
    )
    # From full to the end nothing is extrapolated: what was ridden is the best value there is.
    whole = drawn.measured and all(item.shape == "shortfall" for item in _starts(left))
    share = (
        quantity(drawn.share, "1", 1.0 if whole else None)
        if told and seen.progress.line.span > 0
        else None
    )
    stated = test.sheet.protocol.reserve if test.sheet.protocol else None
    reserve = RESERVE.value if stated is None else stated
    reach = usable = None
    if share is not None and distance is not None and drawn.range_m is not None:
        reach = quantity(drawn.range_m, "m", distance.value if whole else None)
    if share is not None and energy is not None and drawn.usable_wh is not None:
        usable = quantity(drawn.usable_wh, "Wh", energy.value if whole else None)
    capacity = _capacity(evidence, drawn, share, whole and len(ride.packs) == 1, test)
    consumption = _consumption(energy, distance, drawn)

    asked = all_questions(test.sheet.pack, test.sheet.packs_used or 1, test.entries)
    energy_side = side_by_side(energies, used)
    distance_side = side_by_side(distances, way)
    inputs = listed_inputs(left)
    warm = _at_reference(left, drawn, capacity, usable)
    line = way.line if way is not None else None
    warnings = [
        *cautions.stop_now(test),
        *happened(
            test,
            ride,
            line,
            used.line if used is not None else None,
            reach.value if reach is not None else None,
        ),
        *disagreements("energy", energy_side),
        *disagreements("distance", distance_side),
        *(cautions.implausible(test, consumption.wh_per_mi) if consumption else []),
        *asked,
        *([Notice("hangs_on_question")] if asked else []),
        *seen.notices,
        *about_energy(evidence, energy),
        *about_start(test, ride, left, found),
        *(about_height(test, heights, drawn) if reach is not None else []),
        *(beyond_label(drawn, evidence, left) if share is not None else []),
        *what_is_missing(test, ride, used, way, share, drawn.measured, capacity),
        *what_volts_lack(test, left, found, drawn, evidence),
        *about_label(test),
        *about_charging(test, left),
        *about_lessons(inputs, priors),
        *what_was_assumed(test, ride, used, way, stated is None and share is not None),
        *test.notices,
    ]
    profile = profile_of(test, ride, line)
    gauges = [item for item in found if item.kind == "gauge"]
    gauge_full = gauge_steps(test, gauges)
    metered = meter if meter is not None and meter.gains else None
    advice: tuple[Advice, ...] = ()
    if reach is not None and drawn.range_m is not None:
        advice = advice_of(left, "range_to_cutoff", np.log(drawn.range_m), reach)
    start = quantity(drawn.started, "1", 1.0 if whole else None) if told else None
    ohm = None
    if resistance.measured:
        # As measured: among the draws it also takes what the model of the pack lacks.
        ohm = Quantity.of(
            resistance.ohm * resistance.packs, "ohm", resistance.std_ohm * resistance.packs
        )
    promise = None
    if reach is not None and drawn.range_m is not None:
        promise = plan_on(drawn.range_m * (1 - reserve), priors.learned.get("run_to_run"))
    retained = None
    if warm is not None and "rated_ah" not in test.sheet.pack.taken:
        retained = warm.capacity_ah.scaled(1 / test.sheet.pack.rated_ah, "1")
    claim = claim_of(
        test,
        reach,
        distance.value / hours / SECONDS_PER_HOUR if distance and hours > 0 else None,
    )
    verdict = verdict_of(
        test,
        Found(
            wh_per_km=consumption.wh_per_km if consumption is not None else None,
            distance=distance,
            share=share,
            range_m=reach,
            measured=share is not None and drawn.measured,
            reserve=reserve,
            plan_on=promise,
            retained=retained,
            cold=capacity.value / warm.capacity_ah.value if capacity and warm else None,
            claim=claim,
            method=used.method if used is not None else None,
            advice=advice,
        ),
    )
    lap = test.sheet.instruments.lap if test.sheet.instruments else None
    lap_m = lap.length_m if lap is not None else None
    workings = workings_of(
        Given(
            energy=energy,
            energy_method=used.method if used is not None and energy is not None else None,
            drawn_wh=evidence.logged.drawn_wh if evidence.logged is not None else None,
            returned_wh=evidence.logged.returned_wh if evidence.logged is not None else None,
            charge=_charge(evidence),
            distance=distance,
            distance_method=way.method if way is not None else None,
            laps=distance.value / lap_m if distance is not None and lap_m else None,
            lap_length_m=lap_m,
            wh_per_km=consumption.wh_per_km if consumption is not None else None,
            share=share,
            started=start,
            range_m=reach,
            measured=share is not None and drawn.measured,
            reserve=reserve,
            reserve_assumed=stated is None,
            plan_on_m=promise.distance_m if promise is not None else None,
            run_to_run=priors.learned["run_to_run"].value
            if promise is not None and promise.runs > 1
            else None,
            usable_wh=usable,
            capacity_ah=capacity,
            packs=packs_together(test),
            capacity_25_ah=warm.capacity_ah if warm is not None else None,
            rated_ah=test.sheet.pack.rated_ah,
            retained=retained,
            resistance_ohm=ohm,
            claimed_m=claim.claimed_m if claim is not None else None,
        )
    )
    return Result(
        verdict=verdict,
        workings=workings,
        distance=distance,
        energy=energy,
        charge=_charge(evidence),
        consumption=consumption,
        energy_methods=energy_side,
        distance_methods=distance_side,
        energy_used_fraction=share,
        started_fraction=start,
        range_to_cutoff=reach,
        range_to_reserve=reach.scaled(1 - reserve, "m") if reach is not None else None,
        reserve=reserve,
        reserve_assumed=stated is None,
        range_measured=share is not None and drawn.measured,
        pack=PackResult(
            resistance_ohm=ohm,
            capacity_ah=capacity,
            usable_energy_wh=usable,
            at_25_degc=warm,
            retained_fraction=retained,
        ),
        regeneration=_regeneration(evidence),
        plan_on=promise,
        budget=_budget(left, drawn, consumption is not None, reach is not None),
        advice=advice,
        climb=climb_of(profile) or noted_climb(test, ride),
        fade=fade_of(test, ride, line, profile),
        gauge_truth=gauge_truth(left, found, line, reach.value if reach is not None else None),
        gauge_pooled=priors.gauge or None,
        gauge_habits=gauge_habits(gauges, gauge_full, line, [begin for begin, _ in ride.packs[1:]]),
        gauge_full=gauge_full,
        shown_range=shown_ranges(test, ride, line, _from_here(left, drawn)),
        claim=claim,
        packs=packs_of(ride, left, drawn, metered, line),
        legs=legs_of(test, ride, metered, line, profile),
        inputs=inputs,
        warnings=tuple(dict.fromkeys(warnings)),
        ride=ride,
        energy_line=_energy_line(used, shape, energy),
        distance_line=line,
    )


def _energy_line(used: Estimate | None, shape: Line, energy: Quantity | None) -> Line | None:
    """How the energy ran up: as its method has it, else as the way did."""
    if used is not None:
        return used.line
    if energy is None or shape.span <= 0:
        return None
    return Line(time_s=shape.time_s, total=shape.total * (energy.value / shape.span))


def _budget(left: Left, drawn: DrawnFigures, consumed: bool, reaches: bool) -> Budget:
    per_km: tuple[Part, ...] = ()
    if consumed and drawn.energy_wh is not None and drawn.distance_m is not None:
        per_km = budget_of(left, np.log(drawn.energy_wh / drawn.distance_m))
    reach: tuple[Part, ...] = ()
    if reaches and drawn.range_m is not None:
        reach = budget_of(left, np.log(drawn.range_m))
    return Budget(wh_per_km=per_km, range_to_cutoff=reach)


def _from_here(left: Left, drawn: DrawnFigures) -> FloatArray | None:
    """From the ride's start to the end of its pack, however full it began [m], shape (J,)."""
    if drawn.range_m is None or drawn.distance_m is None:
        return None
    return np.maximum(drawn.range_m * np.clip(drawn.started, 0.0, 1.0), drawn.distance_m)


def _starts(left: Left) -> list[Input]:
    return [item for item in left.model.inputs if item.name.startswith("start_")]


def _consumption(
    energy: Quantity | None, distance: Quantity | None, drawn: DrawnFigures
) -> Consumption | None:
    if energy is None or distance is None or drawn.energy_wh is None or drawn.distance_m is None:
        return None
    if distance.value <= 0:
        return None
    per_metre = quantity(drawn.energy_wh / drawn.distance_m, "Wh/m", energy.value / distance.value)
    return Consumption(
        wh_per_km=per_metre.scaled(METRES_PER_KM, "Wh/km"),
        wh_per_mi=per_metre.scaled(METRES_PER_MILE, "Wh/mi"),
    )


def _charge(evidence: EnergyFindings) -> Quantity | None:
    return evidence.charge.quantity if evidence.charge is not None else None


def _capacity(
    evidence: EnergyFindings,
    drawn: DrawnFigures,
    share: Quantity | None,
    whole: bool,
    test: RangeTest,
) -> Quantity | None:
    """Ah from full to cut-off as ridden, of one pack: only where charge was measured."""
    if evidence.charge is None or share is None or drawn.capacity_ah is None:
        return None
    if share.value < GUESS_BELOW:
        return None
    counted = evidence.charge.quantity.value / packs_together(test)
    return quantity(drawn.capacity_ah, "Ah", counted if whole else None)


def _at_reference(
    left: Left, drawn: DrawnFigures, capacity: Quantity | None, usable: Quantity | None
) -> AtReference | None:
    """The capacity that was measured, and the energy with it, without what the cold took."""
    if capacity is None or drawn.capacity_ah is None:
        return None
    cold = left.value("cold")
    energy = None
    if usable is not None and drawn.usable_wh is not None:
        energy = quantity(drawn.usable_wh / cold, "Wh", usable.value / float(cold[0]))
    return AtReference(
        capacity_ah=quantity(drawn.capacity_ah / cold, "Ah", capacity.value / float(cold[0])),
        usable_energy_wh=energy,
    )


def _regeneration(evidence: EnergyFindings) -> Regeneration | None:
    logged = evidence.logged
    if logged is None or logged.drawn_wh <= 0:
        return None
    return Regeneration(
        energy_wh=logged.returned_wh, fraction_of_drawn=logged.returned_wh / logged.drawn_wh
    )
