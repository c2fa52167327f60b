"""`analyse(test) -> Result`: the one function behind the page, the API and the command line."""

from __future__ import annotations

import numpy as np

from limpet.assumptions import INSTRUMENT_PCT, RESERVE, InstrumentName
from limpet.evidence.checks import all_questions
from limpet.evidence.model import RangeTest
from limpet.notices import Notice
from limpet.pack import NoCurveError, ocv_curve, voltage_limits
from limpet.quantity import Quantity, ratio
from limpet.result import cautions
from limpet.result.accuracy import accuracy
from limpet.result.choose import disagreements, least_uncertain, side_by_side
from limpet.result.distance import distance_methods, limp_distance_m
from limpet.result.energy import EnergyFindings, energy_methods
from limpet.result.line import Estimate, counted_on
from limpet.result.model import Consumption, PackResult, Regeneration, Result
from limpet.result.promise import promised_energy
from limpet.result.reach import GUESS_BELOW, UsedShare, reach, used_share
from limpet.result.rest import RestReading, first_and_last_rest, pack_resistance
from limpet.result.share import EnergyShare, energy_share
from limpet.result.window import RideWindow, ride_window
from limpet.units import METRES_PER_KM, METRES_PER_MILE, SECONDS_PER_HOUR

#: Limp distance worth a sentence [m].
LEAST_LIMP_M = 20.0

_INSTRUMENTS_OF: dict[str, tuple[InstrumentName, ...]] = {
    "sampled": ("voltage", "current"),
    "energy_counter": ("energy",),
    "charge_counter": ("charge", "voltage"),
    "rest_voltage": ("voltage",),
    "laps": ("lap",),
    "gps": ("gps",),
    "trip": ("trip",),
    "odometer": ("odometer",),
    "samples": ("trip",),
}


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
    used_distance = least_uncertain(distances)
    track = used_distance.line if used_distance is not None else None
    resistance = pack_resistance(test)
    first, last = first_and_last_rest(test, ride)
    mean_a = _mean_current_a(test, ride)
    share = energy_share(test, first, last, mean_a, resistance)
    promised = promised_energy(test, resistance, mean_a)
    evidence = energy_methods(test, ride, track, resistance, share, promised)
    notices += evidence.notices
    used_energy = least_uncertain(evidence.methods)
    energy = used_energy.quantity if used_energy is not None else None
    distance = used_distance.quantity if used_distance is not None else None
    consumption = _consumption(energy, distance)

    used = used_share(test, ride, energy, first, share, promised, resistance, mean_a)
    stated = test.sheet.protocol.reserve if test.sheet.protocol else None
    reserve = RESERVE.value if stated is None else stated
    whole = reach(test, ride, energy, distance, used, reserve)
    capacity = _capacity_ah(test, evidence, used, share)

    energy_side = side_by_side(evidence.methods, used_energy)
    distance_side = side_by_side(distances, used_distance)
    warnings = [
        *cautions.stop_now(test),
        *disagreements("energy", energy_side),
        *disagreements("distance", distance_side),
        *(cautions.implausible(test, consumption.wh_per_mi) if consumption else []),
        *all_questions(test.sheet.pack, test.sheet.packs_used or 1, test.entries),
        *notices,
        *(used.notices if used is not None else ()),
        *whole.notices,
        *_missing(test, ride, used_energy, used_distance, used, capacity),
        *_volt_advice(test, share, last, used),
        *_assumptions(test, ride, used_energy, used_distance, stated is None and used is not None),
        *test.notices,
    ]
    return Result(
        distance=distance,
        energy=energy,
        charge=evidence.charge,
        consumption=consumption,
        energy_methods=energy_side,
        distance_methods=distance_side,
        energy_used_fraction=used.share if used is not None else None,
        range_to_cutoff=whole.range_to_cutoff,
        range_to_reserve=whole.range_to_reserve,
        reserve=reserve,
        reserve_assumed=stated is None,
        range_measured=used is not None and used.measured,
        pack=PackResult(
            capacity_ah=capacity,
            usable_energy_wh=whole.usable_energy_wh,
            retained_fraction=capacity.scaled(1 / test.sheet.pack.rated_ah, "1")
            if capacity is not None
            else None,
        ),
        regeneration=_regeneration(evidence),
        warnings=tuple(dict.fromkeys(warnings)),
        ride=ride,
        energy_line=used_energy.line if used_energy is not None else None,
        distance_line=track,
    )


def _consumption(energy: Quantity | None, distance: Quantity | None) -> Consumption | None:
    if energy is None or distance is None or distance.value <= 0:
        return None
    per_metre = ratio(energy, distance, "Wh/m")
    return Consumption(
        wh_per_km=per_metre.scaled(METRES_PER_KM, "Wh/km"),
        wh_per_mi=per_metre.scaled(METRES_PER_MILE, "Wh/mi"),
    )


def _mean_current_a(test: RangeTest, ride: RideWindow) -> float:
    """Mean current of the ride [A], for the sag at cut-off.

    Notes
    -----
    Where nothing tells it, half the pack in the time that was ridden, at most its 1-hour current
    (*assumption*: a ride of a few minutes has not emptied half a pack).
    """
    hours = max((ride.end_s - ride.start_s) / SECONDS_PER_HOUR, 1 / 60)
    amps, time = test.column("current_a"), test.column("time_s")
    if amps is not None and time is not None:
        known = ~np.isnan(amps) & (time <= ride.end_s)
        if known.sum() > 1:
            return max(
                float(np.trapezoid(amps[known], time[known])) / SECONDS_PER_HOUR / hours, 0.0
            )
    _, counted = test.readings("charge_ah")
    if len(counted) > 1:
        total, _ = counted_on(counted)
        return max(float(total[-1]) / hours, 0.0)
    rated_ah = test.sheet.pack.rated_ah
    return min(0.5 * rated_ah / hours, rated_ah / 1.0)


def _capacity_ah(
    test: RangeTest, evidence: EnergyFindings, used: UsedShare | None, share: EnergyShare | None
) -> Quantity | None:
    """Ah from full to cut-off as ridden, of one pack: measured, or by the share of charge used."""
    if evidence.charge is None or used is None:
        return None
    packs = test.sheet.packs_used or 1
    part = used.share if used.measured else share.charge_used if share is not None else None
    if part is None or part.value < GUESS_BELOW:
        return None
    return ratio(evidence.charge, part, "Ah").scaled(1 / packs, "Ah")


def _regeneration(evidence: EnergyFindings) -> Regeneration | None:
    logged = evidence.logged
    if logged is None or logged.drawn_wh <= 0:
        return None
    return Regeneration(
        energy_wh=logged.returned_wh, fraction_of_drawn=logged.returned_wh / logged.drawn_wh
    )


def _missing(
    test: RangeTest,
    ride: RideWindow,
    energy: Estimate | None,
    distance: Estimate | None,
    used: UsedShare | None,
    capacity: Quantity | None,
) -> list[Notice]:
    """For everything that is null: what to record next time."""
    found: list[Notice] = []
    if energy is None:
        chemistry = test.sheet.pack.chemistry
        try:
            ocv_curve(chemistry)
            found.append(Notice("no_energy"))
        except NoCurveError:
            found.append(Notice("no_energy_no_curve", chemistry=chemistry))
    if distance is None:
        found.append(Notice("no_distance"))
    if used is None:
        found.append(Notice("no_range"))
    elif not used.measured and used.share.value < GUESS_BELOW:
        found.append(Notice("guess", share=used.share.value, wanted=GUESS_BELOW))
    if capacity is None:
        found.append(Notice("no_capacity"))
    limp_m = limp_distance_m(test, ride)
    if limp_m > LEAST_LIMP_M:
        found.append(Notice("limp_distance", limp_m=limp_m))
    return found


def _volt_advice(
    test: RangeTest, share: EnergyShare | None, last: RestReading | None, used: UsedShare | None
) -> list[Notice]:
    notices = []
    if share is not None and share.volts_cannot_tell:
        notices.append(Notice("volts_cannot_tell", chemistry=test.sheet.pack.chemistry))
    elif last is not None and not last.settled and used is not None and not used.measured:
        notices.append(Notice("not_settled"))
    return notices


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
        for name in _INSTRUMENTS_OF.get(item.method, ())
        if accuracy(test, name).assumed
    ]
    notices = []
    if assumed:
        notices.append(Notice("accuracy_assumed", assumed=", ".join(dict.fromkeys(assumed))))
    if reserve_assumed:
        notices.append(Notice("reserve_assumed", reserve=RESERVE.value))
    _, cutoff_v, cutoff_assumed = voltage_limits(test.sheet.pack)
    if cutoff_assumed and not ride.reached_end:
        notices.append(Notice("cutoff_assumed", cutoff_v=cutoff_v))
    return notices
