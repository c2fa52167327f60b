"""Energy by the methods that need no samples of current, and all methods together."""

from __future__ import annotations

from dataclasses import dataclass
from math import hypot

import numpy as np
from numpy.typing import NDArray

from limpet.assumptions import LABEL, RETAINED, InstrumentName
from limpet.evidence.columns import label_of
from limpet.evidence.model import RangeTest
from limpet.notices import Notice
from limpet.pack import (
    full_energy_wh,
    voltage_limits,
)
from limpet.quantity import Quantity
from limpet.result.accuracy import accuracy
from limpet.result.line import Estimate, Line, completed, counted_on, estimate
from limpet.result.logged import LoggedEnergy, logged_energy
from limpet.result.promise import cold_factor
from limpet.result.rest import Resistance
from limpet.result.share import EnergyShare
from limpet.result.window import RideWindow
from limpet.units import SECONDS_PER_HOUR

FloatArray = NDArray[np.float64]

#: Voltages noted by hand catch the moment, not the mean: relative u of their charge-weighted mean
#: (assumption).
MEAN_VOLTAGE_STD = 0.015
#: The same when only resting voltages are there and the sag has to be worked out (assumption).
MEAN_OCV_STD = 0.010
#: Less than this is a meter's last digit, not a ride [Wh].
LEAST_ENERGY_WH = 0.01
#: A net counter may fall by this share of the rated charge between two entries on a long descent
#: with regeneration; a larger fall is a reset (assumption).
REGEN_FALL = 0.05
#: Between two samples it may fall by what five times the 1-hour current returns (assumption).
REGEN_RATE = 5.0


@dataclass(frozen=True, slots=True, kw_only=True)
class EnergyFindings:
    """All that is known of the energy of a ride."""

    methods: list[Estimate]
    charge: Quantity | None
    logged: LoggedEnergy | None
    notices: list[Notice]


def energy_methods(
    test: RangeTest,
    ride: RideWindow,
    distance: Line | None,
    resistance: Resistance,
    share: EnergyShare | None,
    promised: Quantity,
) -> EnergyFindings:
    """Every energy that the evidence gives over the ride proper, net of regeneration."""
    notices: list[Notice] = []
    logged = logged_energy(test, ride, distance)
    if logged is not None:
        notices += logged.notices
    counted = _charge_line(test, ride, distance, notices)
    found = [
        logged.energy if logged is not None else None,
        _energy_counter(test, ride, distance, notices),
        _charge_counter(test, ride, counted, resistance, share) if counted is not None else None,
        _rest_voltage(test, ride, share, resistance) if share is not None else None,
        _rated(test, ride, distance, promised),
    ]
    charge = None
    if logged is not None:
        charge = logged.charge
    if counted is not None and (charge is None or counted.quantity.relative < charge.relative):
        charge = counted.quantity
    methods = [item for item in found if item is not None and item.line.span > LEAST_ENERGY_WH]
    return EnergyFindings(methods=methods, charge=charge, logged=logged, notices=notices)


def _counter_line(
    test: RangeTest, name: str, rated: float, ride: RideWindow, notices: list[Notice]
) -> tuple[Line, str] | None:
    """A meter's running counter from the samples or, without them, from the entries."""
    column, sample_time = test.column(name), test.column("time_s")
    if column is not None and sample_time is not None and (~np.isnan(column)).sum() > 1:
        known = ~np.isnan(column)
        time, values = sample_time[known], column[known]
        step_s = float(np.median(np.diff(time)))
        may_fall = REGEN_RATE * rated * step_s / SECONDS_PER_HOUR
        total, resets = counted_on(values, may_fall_by=may_fall)
        source = "samples"
    else:
        time, values = test.readings(name)
        if len(time) == 0:
            return None
        if time[0] > ride.start_s and 0 < values[0] <= 0.5 * rated:
            # A meter that is reset at the start shows 0 there, whether it was written or not.
            time = np.concatenate([[ride.start_s], time])
            values = np.concatenate([[0.0], values])
        kinds = {entry.time_s: entry.kind for entry in test.entries}
        swapped = np.array([kinds.get(float(t)) == "swap" for t in time])
        total, resets = counted_on(values, may_fall_by=REGEN_FALL * rated, reset_at=swapped)
        source = "entries"
    if resets:
        notices.append(Notice("counter_reset", reading=label_of(name), resets=resets))
    if len(time) < 2:
        return None
    line = Line(time_s=time, total=total).clipped(ride.start_s, ride.end_s)
    return (line, source) if line.span > 0 else None


def _completed(
    method: InstrumentName, test: RangeTest, line: Line, ride: RideWindow, distance: Line | None
) -> tuple[Line, float, float, str]:
    whole, filled, filled_std = completed(line, ride.start_s, ride.end_s, distance)
    if filled <= 0.005 * whole.span:
        return line, 0.0, 0.0, ""
    covered = 100 * line.span / whole.span
    return (
        whole,
        filled,
        filled_std,
        f"The readings cover {covered:.0f} % of the ride; the rest is filled in.",
    )


def _energy_counter(
    test: RangeTest, ride: RideWindow, distance: Line | None, notices: list[Notice]
) -> Estimate | None:
    """Difference of the meter's own watt-hours."""
    found = _counter_line(test, "energy_wh", full_energy_wh(test.sheet.pack), ride, notices)
    if found is None:
        return None
    line, filled, filled_std, note = _completed("energy", test, found[0], ride, distance)
    note = f"The meter's watt-hours, from the {found[1]}. {note}".strip()
    gain = accuracy(test, "energy").relative_std
    return estimate(
        "energy_counter", line, "Wh", gain_std=gain, filled=filled, filled_std=filled_std, note=note
    )


def _charge_line(
    test: RangeTest, ride: RideWindow, distance: Line | None, notices: list[Notice]
) -> Estimate | None:
    found = _counter_line(test, "charge_ah", test.sheet.pack.rated_ah, ride, notices)
    if found is None:
        return None
    line, filled, filled_std, note = _completed("charge", test, found[0], ride, distance)
    gain = accuracy(test, "charge").relative_std
    note = f"The meter's amp-hours, from the {found[1]}. {note}".strip()
    return estimate(
        "charge_counter", line, "Ah", gain_std=gain, filled=filled, filled_std=filled_std, note=note
    )


def _charge_counter(
    test: RangeTest,
    ride: RideWindow,
    counted: Estimate,
    resistance: Resistance,
    share: EnergyShare | None,
) -> Estimate | None:
    """E = ΔQ·V̄ with the charge-weighted mean loaded voltage."""
    volts = _loaded_voltage(test, ride, counted, resistance, share)
    if volts is None:
        return None
    at_s, loaded_v, relative_std, how = volts
    line = counted.line
    time = np.union1d(line.time_s, at_s[(at_s > line.time_s[0]) & (at_s < line.time_s[-1])])
    charge = line.at(time)
    # Between readings the loaded voltage falls with charge, not with time.
    at_charge = line.at(at_s)
    order = np.argsort(at_charge, kind="stable")
    voltage = np.interp(charge, at_charge[order], loaded_v[order])
    steps = np.diff(charge) * (voltage[1:] + voltage[:-1]) / 2
    energy = Line(time_s=time, total=np.concatenate([[0.0], np.cumsum(steps)]))
    gain = hypot(counted.quantity.relative, accuracy(test, "voltage").relative_std, relative_std)
    return estimate("charge_counter", energy, "Wh", gain_std=gain, note=f"{counted.note} {how}")


def _loaded_voltage(
    test: RangeTest,
    ride: RideWindow,
    counted: Estimate,
    resistance: Resistance,
    share: EnergyShare | None,
) -> tuple[FloatArray, FloatArray, float, str] | None:
    """Times [s] and loaded voltages [V], the relative u of their mean, and where they are from."""
    column, sample_time = test.column("voltage_v"), test.column("time_s")
    if column is not None and sample_time is not None:
        known = ~np.isnan(column) & (sample_time <= ride.end_s)
        if known.sum() > 2:
            return sample_time[known], column[known], 0.0, "Volts from the samples."
    hours = (ride.end_s - ride.start_s) / SECONDS_PER_HOUR
    if hours <= 0:
        return None
    sag_v = counted.quantity.value / hours * resistance.ohm
    times: list[float] = []
    volts: list[float] = []
    loaded = 0
    for entry in test.entries:
        if entry.time_s > ride.end_s and times:
            break
        if entry.voltage_load_v is not None:
            times.append(entry.time_s)
            volts.append(entry.voltage_load_v)
            loaded += 1
        elif entry.voltage_rest_v is not None:
            times.append(entry.time_s)
            volts.append(entry.voltage_rest_v - sag_v)
    if loaded:
        spread = MEAN_VOLTAGE_STD * max(1.0, 3.0 / max(len(times), 1))
        return np.array(times), np.array(volts), spread, f"{loaded} loaded voltages."
    if share is not None:
        # Only resting voltages: the mean open-circuit voltage of the window less the mean sag.
        mean_v = share.mean_ocv_v - sag_v
        relative = hypot(MEAN_OCV_STD, sag_v * 0.5 / mean_v)
        ends = np.array([ride.start_s, ride.end_s])
        return ends, np.full(2, mean_v), relative, "Mean resting voltage less the sag."
    if len(times) > 1:
        return np.array(times), np.array(volts), 2 * MEAN_VOLTAGE_STD, "Resting voltages less sag."
    return None


def _straight(test: RangeTest, ride: RideWindow, distance: Line | None, total_wh: float) -> Line:
    """An energy known only as a whole, spread evenly over the distance, or over time."""
    if distance is not None and distance.span > 0:
        return Line(time_s=distance.time_s, total=distance.total * (total_wh / distance.span))
    times = np.array([ride.start_s, max(ride.end_s, ride.start_s + 1.0)])
    return Line(time_s=times, total=np.array([0.0, total_wh]))


def _rest_voltage(
    test: RangeTest, ride: RideWindow, share: EnergyShare, resistance: Resistance
) -> Estimate | None:
    """E = E_full·(ε(V₁) − ε(V₂)) less the I²R loss."""
    pack = test.sheet.pack
    full_wh = full_energy_wh(pack) * (test.sheet.packs_used or 1)
    left_v = share.mean_ocv_v
    hours = (ride.end_s - ride.start_s) / SECONDS_PER_HOUR
    gross_wh = full_wh * share.stored_fraction
    mean_a = gross_wh / left_v / hours if hours > 0 else 0.0
    loss = min(mean_a * resistance.ohm / left_v, 0.5)
    value = gross_wh * (1 - loss)
    u = hypot(
        full_wh * (1 - loss) * share.stored_std,
        value * hypot(RETAINED.std, LABEL.std),
        gross_wh * loss * resistance.std_ohm / resistance.ohm,
    )
    line = Line(
        time_s=np.array([ride.start_s, max(ride.end_s, ride.start_s + 1.0)]),
        total=np.array([0.0, value]),
    )
    note = (
        f"{share.first_v:.1f} V to {share.last_v:.1f} V at rest through the {pack.chemistry} curve, "
        f"{100 * loss:.0f} % lost as heat in the pack."
    )
    return Estimate(
        method="rest_voltage", quantity=Quantity.of(value, "Wh", u), line=line, note=note
    )


def _rated(
    test: RangeTest, ride: RideWindow, distance: Line | None, promised: Quantity
) -> Estimate | None:
    """Full to cut-off: what the label promises."""
    if not ride.reached_end or not _began_full(test):
        return None
    note = "The label, full to cut-off; packs often give 0 to 13 % more (common practice)."
    cold = cold_factor(test)
    if cold < 1:
        note += f" Taken at {100 * cold:.0f} % for the cold."
    line = _straight(test, ride, distance, promised.value)
    return Estimate(method="rated", quantity=promised, line=line, note=note)


def _began_full(test: RangeTest) -> bool:
    """Whether nothing says that the pack was not full at the start."""
    _, volts = test.readings("voltage_rest_v")
    if len(volts) == 0:
        return True
    full_v, _, _ = voltage_limits(test.sheet.pack)
    return bool(volts[0] >= full_v - 0.05 * test.sheet.pack.series)
