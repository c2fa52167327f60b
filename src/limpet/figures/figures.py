"""Every figure of a test in one value: what is told is told of these."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from limpet.assumptions import RESERVE
from limpet.evidence.model import RangeTest
from limpet.figures.budget import Advice, Part, advice_of, budget_of
from limpet.figures.claimed import ClaimResult, claim_of
from limpet.figures.climb import Climb, climb_of, noted_climb, profile_of
from limpet.figures.curve_seen import CurveSeen, curve_seen
from limpet.figures.fade import Fade, fade_of
from limpet.figures.findings import Findings
from limpet.figures.gauge_habits import GaugeHabits, gauge_habits
from limpet.figures.gauge_truth import GaugeStep, gauge_truth
from limpet.figures.headline import Headline, headline_of
from limpet.figures.legs import Leg, legs_of
from limpet.figures.listed import listed_inputs
from limpet.figures.methods import side_by_side
from limpet.figures.pack_figures import pack_figures
from limpet.figures.pack_parts import PackPart, packs_of
from limpet.figures.parts import (
    Budget,
    Consumption,
    InputResult,
    MethodResult,
    PackResult,
    Regeneration,
)
from limpet.figures.plan_on import PlanOn, plan_on
from limpet.figures.shown_ranges import ShownRange, shown_ranges
from limpet.notices import Notice
from limpet.quantity import Quantity
from limpet.read.energy import MeteredEnergy
from limpet.read.line import Estimate, Line
from limpet.read.readings import gauge_steps
from limpet.read.window import RideWindow
from limpet.state.priors import PooledStep
from limpet.units import SECONDS_PER_HOUR

FloatArray = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True, repr=False)
class Figures:
    """The figures of one test; None is "the evidence cannot give it".

    `started_fraction` of the first pack's usable energy, `gauge_full` what the gauge shows when full;
    they, `ride`, `energy_line` [Wh], `distance_line` [m] and the estimates that energy and distance are
    taken from are for what is told and drawn, and are not in the JSON; nor is `contradiction`: that the
    readings cannot all be true, so that nothing is told that hangs on the pack's state.
    """

    distance: Quantity | None
    energy: Quantity | None
    charge: Quantity | None
    consumption: Consumption | None
    energy_methods: tuple[MethodResult, ...]
    distance_methods: tuple[MethodResult, ...]
    energy_used_fraction: Quantity | None
    started_fraction: Quantity | None
    range_to_cutoff: Quantity | None
    range_to_reserve: Quantity | None
    reserve: float
    reserve_assumed: bool
    range_measured: bool
    pack: PackResult
    regeneration: Regeneration | None
    plan_on: PlanOn | None
    budget: Budget
    advice: tuple[Advice, ...]
    climb: Climb | None
    fade: Fade | None
    gauge_truth: tuple[GaugeStep, ...] | None
    gauge_pooled: tuple[PooledStep, ...] | None
    gauge_habits: GaugeHabits | None
    gauge_full: float
    shown_range: tuple[ShownRange, ...] | None
    claim: ClaimResult | None
    packs: tuple[PackPart, ...] | None
    legs: tuple[Leg, ...]
    inputs: tuple[InputResult, ...]
    ride: RideWindow
    energy_line: Line | None
    distance_line: Line | None
    energy_estimate: Estimate | None
    distance_estimate: Estimate | None
    contradiction: Notice | None
    curve: CurveSeen | None


def figures_of(found: Findings) -> Figures:
    """Every figure that a test's findings give.

    Parameters
    ----------
    found : evidence, what it leaves of the inputs, and the draws

    Returns
    -------
    Figures, each with its unit and uncertainty
    """
    evidence, remaining, drawn = found.evidence, found.remaining, found.drawn
    test, ride, way = evidence.test, evidence.ride, evidence.distance
    head = headline_of(found)
    reserve, reserve_assumed = _reserve(test)
    line = way.line if way is not None else None
    profile = profile_of(test, ride, line)
    range_value = head.range_m.value if head.range_m is not None else None
    gauge_full = gauge_steps(test, evidence.gauges)
    charge = evidence.metered.charge
    meter = evidence.meter if evidence.meter is not None and evidence.meter.gains else None
    swaps = [begin for begin, _ in ride.packs[1:]]
    return Figures(
        distance=head.distance,
        energy=head.energy,
        charge=charge.quantity if charge is not None else None,
        consumption=head.consumption,
        energy_methods=side_by_side(head.energies, head.used),
        distance_methods=side_by_side(evidence.distances, way),
        energy_used_fraction=head.share,
        started_fraction=head.started,
        range_to_cutoff=head.range_m,
        range_to_reserve=None if head.range_m is None else head.range_m.scaled(1 - reserve, "m"),
        reserve=reserve,
        reserve_assumed=reserve_assumed,
        range_measured=head.share is not None and drawn.measured,
        pack=pack_figures(found, head),
        regeneration=_regeneration(evidence.metered),
        plan_on=_plan_on(found, head, reserve),
        budget=_budget(found, head),
        advice=_advice(found, head),
        climb=climb_of(profile) or noted_climb(test, ride),
        fade=fade_of(test, ride, line, profile),
        gauge_truth=gauge_truth(
            remaining, evidence.gauges, line, range_value, ended=evidence.ride.reached_end
        )
        if found.contradiction is None
        else None,
        gauge_pooled=found.priors.gauge or None,
        gauge_habits=gauge_habits(evidence.gauges, gauge_full, line, swaps),
        gauge_full=gauge_full,
        shown_range=shown_ranges(test, ride, line, _from_here(found, head)),
        claim=claim_of(found, head.range_m, _mean_mps(found, head)),
        packs=packs_of(ride, remaining, drawn, meter, line)
        if found.contradiction is None
        else None,
        legs=legs_of(test, ride, meter, line, profile),
        inputs=listed_inputs(remaining),
        ride=ride,
        energy_line=head.energy_line,
        distance_line=line,
        energy_estimate=head.used,
        distance_estimate=way,
        contradiction=found.contradiction,
        curve=curve_seen(
            found,
            None if head.used is None else head.used.method,
            None if head.share is None else head.share.value,
        ),
    )


def _reserve(test: RangeTest) -> tuple[float, bool]:
    """What is to stay in the pack [-], and whether nobody said so."""
    stated = test.sheet.protocol.reserve if test.sheet.protocol else None
    return (RESERVE.value, True) if stated is None else (stated, False)


def _mean_mps(found: Findings, head: Headline) -> float | None:
    hours = found.evidence.hours
    if head.distance is None or hours <= 0:
        return None
    return head.distance.value / hours / SECONDS_PER_HOUR


def _plan_on(found: Findings, head: Headline, reserve: float) -> PlanOn | None:
    if head.range_m is None or found.drawn.range_m is None:
        return None
    return plan_on(found, found.drawn.range_m * (1 - reserve))


def _budget(found: Findings, head: Headline) -> Budget:
    drawn, per_km, reach = found.drawn, tuple[Part, ...](), tuple[Part, ...]()
    if (
        head.consumption is not None
        and drawn.energy_wh is not None
        and drawn.distance_m is not None
    ):
        per_km = budget_of(found.remaining, np.log(drawn.energy_wh / drawn.distance_m))
    if head.range_m is not None and drawn.range_m is not None:
        reach = budget_of(found.remaining, np.log(drawn.range_m))
    return Budget(wh_per_km=per_km, range_to_cutoff=reach)


def _advice(found: Findings, head: Headline) -> tuple[Advice, ...]:
    if head.range_m is None or found.drawn.range_m is None:
        return ()
    logs = np.log(found.drawn.range_m)
    return advice_of(found.remaining, "range_to_cutoff", logs, head.range_m)


def _from_here(found: Findings, head: Headline) -> FloatArray | None:
    """From the ride's start to the end of its pack, however full it began [m], shape (J,)."""
    drawn = found.drawn
    if head.range_m is None or drawn.range_m is None or drawn.distance_m is None:
        return None
    return np.maximum(drawn.range_m * np.clip(drawn.started, 0.0, 1.0), drawn.distance_m)


def _regeneration(metered: MeteredEnergy) -> Regeneration | None:
    logged = metered.logged
    if logged is None or logged.drawn_wh <= 0:
        return None
    return Regeneration(
        energy_wh=logged.returned_wh, fraction_of_drawn=logged.returned_wh / logged.drawn_wh
    )
