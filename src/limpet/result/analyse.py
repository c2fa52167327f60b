"""`analyse(test) -> Result`: the one function behind the page, the API and the command line."""

from __future__ import annotations

import numpy as np

from limpet.assumptions import INSTRUMENT_PCT, RESERVE, SETTLE_S, InstrumentName
from limpet.evidence.checks import all_questions
from limpet.evidence.model import RangeTest
from limpet.notices import Notice
from limpet.pack import curve_family, voltage_limits
from limpet.quantity import Quantity
from limpet.result import cautions
from limpet.result.accuracy import accuracy
from limpet.result.alone import lone_estimates
from limpet.result.budget import Advice, Part, advice_of, budget_of, group_of
from limpet.result.choose import disagreements, least_uncertain, side_by_side, widened
from limpet.result.claim import claim_of
from limpet.result.climb import climb_of, profile_of
from limpet.result.distance import distance_methods, limp_distance_m
from limpet.result.energy import EnergyFindings, metered_energy
from limpet.result.fade import fade_of
from limpet.result.gauge import gauge_truth
from limpet.result.heights import LEAST_HEIGHT_M, Heights, climb_wh, heights_of
from limpet.result.left import Left, energy_left
from limpet.result.legs import legs_of
from limpet.result.line import Estimate
from limpet.result.model import (
    Budget,
    Consumption,
    InputResult,
    PackResult,
    Regeneration,
    Result,
)
from limpet.result.moving import driving_hours, driving_line
from limpet.result.packs import packs_of
from limpet.result.progress import Progress, progress_of
from limpet.result.promise import plan_on
from limpet.result.reach import GUESS_BELOW, Figures, figures, more_inputs, quantity
from limpet.result.readings import Reading, readings
from limpet.result.resistance import pack_resistance
from limpet.result.window import RideWindow, ride_window
from limpet.uncertain.inputs import Input
from limpet.units import METRES_PER_KM, METRES_PER_MILE, SECONDS_PER_HOUR

#: Limp distance worth a sentence [m].
LEAST_LIMP_M = 20.0

#: A pack that began with less than this of its usable energy began part empty [-].
PART_EMPTY = 0.95
#: Volts that leave the share used this uncertain, relative, do not tell it [-].
VOLTS_TELL = 0.10


def analyse(test: RangeTest) -> Result:
    """Energy, distance, consumption and range of one test, each with its uncertainty.

    Parameters
    ----------
    test : as recorded; poor evidence is not an error

    Returns
    -------
    Result; what the evidence cannot give is None, with a warning that says what to record next
    time. The formulas and their sources stand in docs/method.md.
    """
    ride = ride_window(test)
    distances, notices = distance_methods(test, ride)
    found = readings(test, ride)
    resistance = pack_resistance(test, ride)
    hours = driving_hours(test, ride)
    finest = max((item.line for item in distances), key=lambda line: len(line.time_s), default=None)
    rests = [item for item in found if item.kind == "rest"]
    evidence = metered_energy(test, ride, finest, resistance.ohm, hours, rests)
    notices += evidence.notices
    meter = least_uncertain(evidence.methods)
    way = least_uncertain(distances)
    energy_used = widened(meter, evidence.methods)
    distance_used = widened(way, distances)
    nominal_v = test.sheet.pack.series * curve_family(test.sheet.pack.chemistry).mean_v
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
    )
    drawn = figures(test, ride, left, energy_used, distance_used, evidence.charge, heights)
    told = _told(test, ride, found, evidence, progress)

    shape = (
        meter.line
        if meter is not None
        else way.line
        if way is not None
        else driving_line(test, ride)
    )
    energies = [*evidence.methods, *lone_estimates(test, ride, left, found, shape)]
    used = meter or least_uncertain([item for item in energies if item.method != "linear_voltage"])
    energy = None
    if used is not None and drawn.energy_wh is not None:
        value = used.quantity.value if meter is not None and meter.gains else None
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
        if told and progress.line.span > 0
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

    energy_side = side_by_side(energies, used)
    distance_side = side_by_side(distances, way)
    warnings = [
        *cautions.stop_now(test),
        *disagreements("energy", energy_side),
        *disagreements("distance", distance_side),
        *(cautions.implausible(test, consumption.wh_per_mi) if consumption else []),
        *all_questions(test.sheet.pack, test.sheet.packs_used or 1, test.entries),
        *notices,
        *_energy_notice(evidence, energy),
        *_start_notices(test, ride, left, found),
        *(_height_notice(test, heights, drawn) if reach is not None else []),
        *(_label_notice(drawn, evidence, left) if share is not None else []),
        *_missing(test, ride, used, way, share, drawn.measured, capacity),
        *_volt_advice(test, left, found, drawn, evidence),
        *_assumptions(test, ride, used, way, stated is None and share is not None),
        *test.notices,
    ]
    start = quantity(drawn.started, "1", 1.0 if whole else None) if told else None
    line = way.line if way is not None else None
    profile = profile_of(test, ride, line)
    metered = meter if meter is not None and meter.gains else None
    advice: tuple[Advice, ...] = ()
    if reach is not None and drawn.range_m is not None:
        advice = advice_of(left, "range_to_cutoff", np.log(drawn.range_m), reach)
    return Result(
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
            resistance_ohm=quantity(left.value("resistance_ohm") * resistance.packs, "ohm")
            if resistance.measured
            else None,
            capacity_ah=capacity,
            usable_energy_wh=usable,
            retained_fraction=capacity.scaled(1 / test.sheet.pack.rated_ah, "1")
            if capacity is not None
            else None,
        ),
        regeneration=_regeneration(evidence),
        plan_on=plan_on(drawn.range_m * (1 - reserve))
        if reach is not None and drawn.range_m is not None
        else None,
        budget=_budget(left, drawn, consumption is not None, reach is not None),
        advice=advice,
        climb=climb_of(profile),
        fade=fade_of(test, ride, line, profile),
        gauge_truth=gauge_truth(left, found, line, reach.value if reach is not None else None),
        claim=claim_of(
            test,
            reach,
            distance.value / hours / SECONDS_PER_HOUR if distance and hours > 0 else None,
        ),
        packs=packs_of(ride, left, drawn, metered, line),
        legs=legs_of(test, ride, metered, line, profile),
        inputs=_inputs(left),
        warnings=tuple(dict.fromkeys(warnings)),
        ride=ride,
        energy_line=used.line if used is not None else None,
        distance_line=line,
    )


def _budget(left: Left, drawn: Figures, consumed: bool, reaches: bool) -> Budget:
    per_km: tuple[Part, ...] = ()
    if consumed and drawn.energy_wh is not None and drawn.distance_m is not None:
        per_km = budget_of(left, np.log(drawn.energy_wh / drawn.distance_m))
    reach: tuple[Part, ...] = ()
    if reaches and drawn.range_m is not None:
        reach = budget_of(left, np.log(drawn.range_m))
    return Budget(wh_per_km=per_km, range_to_cutoff=reach)


def _inputs(left: Left) -> tuple[InputResult, ...]:
    """Every input that is a number of its own: pieces of the way and of the curve are not."""
    found = []
    for item in left.model.inputs:
        if group_of(item.name) in ("curve", "way", "height", "way_ahead") or item.name.endswith(
            "_read"
        ):
            continue
        draws = left.value(item.name)
        found.append(
            InputResult(
                name=item.name,
                value=float(np.median(draws)),
                standard_uncertainty=float(draws.std()),
                source=item.source,
            )
        )
    return tuple(found)


def _starts(left: Left) -> list[Input]:
    return [item for item in left.model.inputs if item.name.startswith("start_")]


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


def _consumption(
    energy: Quantity | None, distance: Quantity | None, drawn: Figures
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
    drawn: Figures,
    share: Quantity | None,
    whole: bool,
    test: RangeTest,
) -> Quantity | None:
    """Ah from full to cut-off as ridden, of one pack: only where charge was measured."""
    if evidence.charge is None or share is None or drawn.capacity_ah is None:
        return None
    if share.value < GUESS_BELOW:
        return None
    counted = evidence.charge.quantity.value / (test.sheet.packs_used or 1)
    return quantity(drawn.capacity_ah, "Ah", counted if whole else None)


def _regeneration(evidence: EnergyFindings) -> Regeneration | None:
    logged = evidence.logged
    if logged is None or logged.drawn_wh <= 0:
        return None
    return Regeneration(
        energy_wh=logged.returned_wh, fraction_of_drawn=logged.returned_wh / logged.drawn_wh
    )


def _energy_notice(evidence: EnergyFindings, energy: Quantity | None) -> list[Notice]:
    """Says so where no meter told the energy."""
    if energy is None or evidence.charge is not None or evidence.counted is not None:
        return []
    return [Notice("energy_from_label", share=(energy.high - energy.low) / 2 / energy.value)]


def _start_notices(
    test: RangeTest, ride: RideWindow, left: Left, found: list[Reading]
) -> list[Notice]:
    """What was taken of the pack's start."""
    began = next((item for item in found if item.at_start_of == 0), None)
    if began is None:
        return [Notice("assumed_full")]
    share = float(np.median(left.value("start_1")))
    if began.kind == "rest" and share < PART_EMPTY:
        return [Notice("began_part_empty", voltage_v=began.value, share=share)]
    return []


def _label_notice(drawn: Figures, evidence: EnergyFindings, left: Left) -> list[Notice]:
    """Where more was metered than such a label promises, and the ride had not ended."""
    if drawn.measured or drawn.energy_wh is None or not evidence.methods:
        return []
    state = left.model.state(left.posterior.before[:, :1])
    promised = state.usable * state.capacity_ah * left.model.ride.series * (1 - state.lost)
    share = float(np.median(drawn.energy_wh)) / max(float(promised[0]) * drawn.packs, 1e-6)
    return [Notice("more_than_label", share=share)] if share > 1 else []


def _height_notice(test: RangeTest, heights: Heights | None, drawn: Figures) -> list[Notice]:
    if heights is None or drawn.measured or abs(heights.climbed_m) < LEAST_HEIGHT_M:
        return []
    return [
        Notice(
            "height_corrected",
            height_m=abs(heights.climbed_m),
            side="above" if heights.climbed_m > 0 else "below",
            set_aside_wh=abs(climb_wh(test, heights.climbed_m)),
        )
    ]


def _missing(
    test: RangeTest,
    ride: RideWindow,
    energy: Estimate | None,
    distance: Estimate | None,
    share: Quantity | None,
    measured: bool,
    capacity: Quantity | None,
) -> list[Notice]:
    """For everything that is null: what to record next time."""
    found: list[Notice] = []
    if energy is None:
        found.append(Notice("no_energy"))
    if distance is None:
        found.append(Notice("no_distance"))
    if share is None:
        found.append(Notice("no_range"))
    elif not measured and share.value < GUESS_BELOW:
        found.append(Notice("guess", share=share.value, wanted=GUESS_BELOW))
    if capacity is None:
        found.append(Notice("no_capacity"))
    limp_m = limp_distance_m(test, ride)
    if limp_m > LEAST_LIMP_M:
        found.append(Notice("limp_distance", limp_m=limp_m))
    return found


def _volt_advice(
    test: RangeTest, left: Left, found: list[Reading], drawn: Figures, evidence: EnergyFindings
) -> list[Notice]:
    """What volts could not tell, and what would let them."""
    if drawn.measured:
        return []
    rests = [item for item in found if item.kind == "rest"]
    if not rests:
        return []
    apart = float(np.std(drawn.share) / np.median(drawn.share))
    metered = evidence.charge is not None or evidence.counted is not None
    if apart > VOLTS_TELL and not metered and test.sheet.pack.chemistry == "lfp":
        return [Notice("volts_cannot_tell", chemistry=test.sheet.pack.chemistry)]
    last = rests[-1]
    if last.settled_s is not None and last.settled_s < SETTLE_S.value:
        return [Notice("not_settled")]
    return []


def _assumptions(
    test: RangeTest,
    ride: RideWindow,
    energy: Estimate | None,
    distance: Estimate | None,
    reserve_assumed: bool,
) -> list[Notice]:
    assumed = [
        f"{name} ±{INSTRUMENT_PCT[name].value:g} %"
        for item in (energy, distance)
        if item is not None
        for name, _ in item.gains
        if accuracy(test, name).assumed
    ]
    notices = []
    if assumed:
        notices.append(Notice("accuracy_assumed", assumed=", ".join(dict.fromkeys(assumed))))
    if reserve_assumed:
        notices.append(Notice("reserve_assumed", reserve=RESERVE.value))
    _, cutoff_v, cutoff_assumed = voltage_limits(test.sheet.pack)
    if cutoff_assumed:
        notices.append(Notice("cutoff_assumed", cutoff_v=cutoff_v))
    return notices
