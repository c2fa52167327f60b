"""Energy by the meters: logged, or counted in watt-hours or amp-hours."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import hypot
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from limpet.evidence.columns import label_of
from limpet.evidence.model import RangeTest
from limpet.notices import Notice
from limpet.notices.remarks import Remark, remark
from limpet.pack import full_energy_wh
from limpet.quantity import Quantity
from limpet.read.accuracy import accuracy
from limpet.read.line import Estimate, Line, Metered, completed, counted_on, estimate
from limpet.read.logged import LoggedEnergy, logged_energy
from limpet.read.readings import Reading
from limpet.read.wall import wall_energy
from limpet.read.window import RideWindow
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
class MeteredEnergy:
    """All that meters tell of the energy of a ride.

    `methods` in the order of bundle.md; `charge` and `counted` as running totals [Ah, Wh].
    """

    methods: list[Estimate]
    charge: Metered | None
    counted: Metered | None
    logged: LoggedEnergy | None
    notices: list[Notice]


def metered_energy(
    test: RangeTest,
    ride: RideWindow,
    finest: Line | None,
    ohm: float,
    hours: float,
    rests: Sequence[Reading],
) -> MeteredEnergy:
    """Every energy that a meter gives over the ride proper, net of regeneration.

    Parameters
    ----------
    finest : the line of distance with the most readings, for what no meter covers [m]
    ohm : resistance [Ω], and `hours` of driving, for the sag of resting volts
    rests : resting voltages, for the mean voltage of counted amp-hours
    """
    notices: list[Notice] = []
    logged = logged_energy(test, ride, finest)
    if logged is not None:
        notices += logged.notices
    counted = _counter(test, ride, "charge", test.sheet.pack.rated_ah, finest, notices)
    energy = _counter(test, ride, "energy", full_energy_wh(test.sheet.pack), finest, notices)
    found = [
        logged.energy if logged is not None else None,
        _energy_counter(energy) if energy is not None else None,
        _charge_counter(test, ride, counted, ohm, hours, rests) if counted is not None else None,
    ]
    charge = logged.charge if logged is not None else None
    if counted is not None and (
        charge is None or counted.metered.quantity.relative < charge.quantity.relative
    ):
        charge = counted.metered
    methods = [item for item in found if item is not None and item.line.span > LEAST_ENERGY_WH]
    wall = wall_energy(test, ride, finest)
    if wall is not None:
        methods.append(wall)
    return MeteredEnergy(
        methods=methods,
        charge=charge,
        counted=energy.metered if energy is not None else _by_wall(methods),
        logged=logged,
        notices=notices,
    )


def _by_wall(methods: Sequence[Estimate]) -> Metered | None:
    """What the meter at the wall tells, where no other meter saw the ride."""
    if len(methods) != 1 or methods[0].method != "wall":
        return None
    found = methods[0]
    relative = found.quantity.standard_uncertainty / found.line.span
    return Metered(
        line=found.line, quantity=found.quantity, gain="wall", gain_std=relative, filled_std=None
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class _Counted:
    """A meter's counter over the ride: as progress, as an estimate's parts, and where it is from."""

    metered: Metered
    filled: float
    filled_std: float
    remarks: tuple[Remark, ...]


def _counter(
    test: RangeTest,
    ride: RideWindow,
    kind: Literal["charge", "energy"],
    rated: float,
    finest: Line | None,
    notices: list[Notice],
) -> _Counted | None:
    name, unit, words = _COUNTERS[kind]
    found = _counter_line(test, name, rated, ride, notices)
    if found is None:
        return None
    line, filled, filled_std, remarks = _completed(found[0], ride, finest)
    gain_std = accuracy(test, kind).relative_std
    u = hypot(gain_std * (line.span - filled), filled_std)
    return _Counted(
        metered=Metered(
            line=line,
            quantity=Quantity.of(line.span, unit, u),
            gain=kind,
            gain_std=gain_std,
            filled_std=_where_filled(found[0], line, filled_std),
        ),
        filled=filled,
        filled_std=filled_std,
        remarks=(remark("meter", what=words, source=found[1]), *remarks),
    )


_COUNTERS: dict[str, tuple[str, str, str]] = {
    "charge": ("charge_ah", "Ah", "amp-hours"),
    "energy": ("energy_wh", "Wh", "watt-hours"),
}


def _where_filled(read: Line, whole: Line, std: float) -> Line | None:
    """How far what nobody read may be off, as a running total along the whole line."""
    if std <= 0:
        return None
    before = float(whole.at(read.time_s[:1])[0])
    after = whole.span - float(whole.at(read.time_s[-1:])[0])
    part = before / (before + after) if before + after > 0 else 0.0
    times = np.array([whole.time_s[0], read.time_s[0], read.time_s[-1], whole.time_s[-1]])
    return Line(time_s=times, total=std * np.array([0.0, part, part, 1.0]))


def _counter_line(
    test: RangeTest, name: str, rated: float, ride: RideWindow, notices: list[Notice]
) -> tuple[Line, str] | None:
    """A meter's running counter from the samples or, without them, from the entries."""
    logged = test.log.known(name)
    if logged is not None and len(logged[0]) > 1:
        time, values = logged
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
    line: Line, ride: RideWindow, distance: Line | None
) -> tuple[Line, float, float, tuple[Remark, ...]]:
    whole, filled, filled_std = completed(line, ride.start_s, ride.end_s, distance)
    if filled <= 0.005 * whole.span:
        return line, 0.0, 0.0, ()
    covered = 100 * line.span / whole.span
    return (
        whole,
        filled,
        filled_std,
        (remark("covers", percent=covered),),
    )


def _energy_counter(counted: _Counted) -> Estimate:
    """Difference of the meter's own watt-hours."""
    return estimate(
        "energy_counter",
        counted.metered.line,
        "Wh",
        gains={"energy": counted.metered.gain_std},
        filled=counted.filled,
        filled_std=counted.filled_std,
        remarks=counted.remarks,
    )


def _charge_counter(
    test: RangeTest,
    ride: RideWindow,
    counted: _Counted,
    ohm: float,
    hours: float,
    rests: Sequence[Reading],
) -> Estimate | None:
    """E = ΔQ·V̄ with the charge-weighted mean loaded voltage."""
    volts = _loaded_voltage(test, ride, counted.metered, ohm, hours, rests)
    if volts is None:
        return None
    at_s, loaded_v, relative_std, how = volts
    line = counted.metered.line
    time = np.union1d(line.time_s, at_s[(at_s > line.time_s[0]) & (at_s < line.time_s[-1])])
    charge = line.at(time)
    # Between readings the loaded voltage falls with charge, not with time.
    at_charge = line.at(at_s)
    order = np.argsort(at_charge, kind="stable")
    voltage = np.interp(charge, at_charge[order], loaded_v[order])
    steps = np.diff(charge) * (voltage[1:] + voltage[:-1]) / 2
    energy = Line(time_s=time, total=np.concatenate([[0.0], np.cumsum(steps)]))
    share = counted.filled / line.span if line.span > 0 else 0.0
    if how.code == "resting_volts":
        # The pack's own state tells the energy of these amp-hours better: no gain is named.
        u = hypot(counted.metered.quantity.relative, relative_std) * energy.span
        return estimate(
            "charge_counter", energy, "Wh", gains={}, extra_std=u, remarks=(*counted.remarks, how)
        )
    return estimate(
        "charge_counter",
        energy,
        "Wh",
        gains={
            "charge": counted.metered.gain_std,
            "voltage": accuracy(test, "voltage").relative_std,
        },
        dividing=frozenset({"voltage"}),
        extra_std=relative_std * energy.span,
        filled=share * energy.span,
        filled_std=counted.filled_std / line.span * energy.span if line.span > 0 else 0.0,
        remarks=(*counted.remarks, how),
    )


def _loaded_voltage(
    test: RangeTest,
    ride: RideWindow,
    counted: Metered,
    ohm: float,
    hours: float,
    rests: Sequence[Reading],
) -> tuple[FloatArray, FloatArray, float, Remark] | None:
    """Times [s] and loaded voltages [V], the relative u of their mean, and where they are from."""
    logged = test.log.known("voltage_v", until_s=ride.end_s)
    if logged is not None and len(logged[0]) > 2:
        return logged[0], logged[1], 0.0, remark("volts_of_samples")
    if hours <= 0:
        return None
    sag_v = counted.quantity.value / hours * ohm
    loaded = [
        (entry.time_s, entry.voltage_load_v)
        for entry in test.entries
        if entry.voltage_load_v is not None and entry.time_s <= ride.end_s
    ]
    seen = {at for at, _ in loaded}
    # What settled after the end tells the end.
    resting = [(item.time_s, item.value - sag_v) for item in rests if item.time_s not in seen]
    both = sorted([*loaded, *resting])
    if loaded and both:
        spread = MEAN_VOLTAGE_STD * max(1.0, 3.0 / len(both))
        times, volts = np.array(both).T
        return times, volts, spread, remark("loaded_volts", count=len(loaded))
    if len(both) > 1:
        times, volts = np.array(both).T
        relative = hypot(MEAN_OCV_STD, 0.5 * sag_v / float(volts.mean()))
        return times, volts, relative, remark("resting_volts")
    return None
