"""What two resting voltages say of the energy used: shares of the pack, by Monte Carlo."""

from __future__ import annotations

from dataclasses import dataclass
from math import hypot

import numpy as np
from numpy.typing import NDArray

from limpet.assumptions import FULL_WITHIN_V, UNSETTLED_V
from limpet.evidence.model import RangeTest
from limpet.pack import NoCurveError, OcvCurve, PackSpec, ocv_curve, voltage_limits
from limpet.quantity import Quantity
from limpet.result.accuracy import accuracy
from limpet.result.rest import Resistance, RestReading

FloatArray = NDArray[np.float64]

#: Draws and seed of every Monte Carlo here; the seed is fixed so that a result repeats.
DRAWS = 4000
SEED = 20260514
#: A cut-off so close under the full voltage leaves no curve to read a share from [-].
LEAST_WINDOW = 0.05


@dataclass(frozen=True, slots=True, kw_only=True)
class EnergyShare:
    """Two resting voltages as shares.

    `stored_fraction`, `stored_std`: ε(V₁) − ε(V₂) of all that the cells store [-];
    `used`: share of the usable energy, full to cut-off at this load [-];
    `charge_used`: the same by charge [-]; `mean_ocv_v`: over the window [V].
    """

    first_v: float
    last_v: float
    stored_fraction: float
    stored_std: float
    mean_ocv_v: float
    used: Quantity
    charge_used: Quantity
    volts_cannot_tell: bool


def usable_floor(
    curve: OcvCurve, pack: PackSpec, mean_current_a: float, resistance: Resistance
) -> tuple[float, float]:
    """State of charge at which OCV(z) − I·R = V_cut, and its standard uncertainty from R.

    Parameters
    ----------
    mean_current_a : I of the ride [A]

    Returns
    -------
    z [-], u_z [-]
    """
    _, cutoff_v, _ = voltage_limits(pack)
    volts = np.array([-1.0, 0.0, 1.0]) * mean_current_a * resistance.std_ohm
    ocv = (cutoff_v + mean_current_a * resistance.ohm + volts) / pack.series
    z = curve.charge_left(ocv)
    return float(z[1]), float(z[2] - z[0]) / 2


def energy_share(
    test: RangeTest,
    first: RestReading | None,
    last: RestReading | None,
    mean_current_a: float,
    resistance: Resistance,
) -> EnergyShare | None:
    """Shares of stored and of usable energy between two resting voltages.

    Notes
    -----
    Four inputs are drawn: the meter's gain (common to both readings), what each reading is off
    for lack of settling, the curve itself, and where cut-off lies (JCGM 101:2008). None when a
    voltage or the curve is missing, a pack was swapped, or the voltage did not fall.
    """
    pack = test.sheet.pack
    if first is None or last is None or first.voltage_v <= last.voltage_v:
        return None
    if any(entry.kind == "swap" for entry in test.entries):
        return None
    try:
        curve = ocv_curve(pack.chemistry)
    except NoCurveError:
        return None
    cells = np.array([first.voltage_v, last.voltage_v]) / pack.series
    z = curve.charge_left(cells)
    stored = curve.energy_left(z)
    full_v, _, _ = voltage_limits(pack)
    full_cell_v = full_v / pack.series
    began_full = cells[0] >= full_cell_v - FULL_WITHIN_V.value
    z_full = z[0] if began_full else curve.charge_left(np.array([full_cell_v]))[0]
    z_cut, z_cut_std = usable_floor(curve, pack, mean_current_a, resistance)
    if z_full - z_cut < LEAST_WINDOW:
        return None

    rng = np.random.default_rng(SEED)
    gain = 1 + accuracy(test, "voltage").relative_std * rng.standard_normal(DRAWS)
    drawn: list[FloatArray] = []
    by_volts_std = 0.0
    for reading, cell_v, at in zip((first, last), cells, z, strict=True):
        unrelaxed = 0.0 if reading.settled else UNSETTLED_V.std
        volts = cell_v * gain + unrelaxed * rng.standard_normal(DRAWS)
        shift = curve.charge_std(float(at)) * rng.standard_normal(DRAWS)
        by_volts = curve.charge_left(volts)
        by_volts_std = float(np.std(by_volts))
        drawn.append(np.clip(by_volts + shift, 0.0, 1.0))
    cut = np.clip(z_cut + hypot(z_cut_std, 0.01) * rng.standard_normal(DRAWS), 0.0, 0.9)
    full = drawn[0] if began_full else np.full(DRAWS, z_full)
    eps = [curve.energy_left(part) for part in (*drawn, full, cut)]
    share = (eps[0] - eps[1]) / np.maximum(eps[2] - eps[3], 0.05)
    charge = (drawn[0] - drawn[1]) / np.maximum(full - cut, 0.05)

    eps_cut = curve.energy_left(np.array([z_cut]))[0]
    eps_full = curve.energy_left(np.array([z_full]))[0]
    window = np.linspace(z[1], z[0], 101)
    stored_std = float(np.std(eps[0] - eps[1]))
    return EnergyShare(
        first_v=first.voltage_v,
        last_v=last.voltage_v,
        stored_fraction=float(stored[0] - stored[1]),
        stored_std=stored_std,
        mean_ocv_v=float(curve.voltage(window).mean()) * pack.series,
        used=Quantity.from_draws(share, "1", (stored[0] - stored[1]) / (eps_full - eps_cut)),
        charge_used=Quantity.from_draws(charge, "1", (z[0] - z[1]) / (z_full - z_cut)),
        # On a flat stretch the meter's own error moves the last reading along a twentieth of the
        # curve or more, either way: volts say little there.
        volts_cannot_tell=by_volts_std > 0.05,
    )
