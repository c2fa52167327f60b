"""Resistance and capacity of a metered ride against PyBaMM's own cell: four sets, two loads, two temperatures.

The truth is a discharge by PyBaMM (SPM with electrolyte, published sets); its 10-s resistance is that of a step
between the two loads of the ride in the middle of its charge, which the core never sees. From rest the first ampere meets
more (the charge transfer is not linear): up to twice as much for nickel-rich cells at these loads.
"""

from __future__ import annotations

import numpy as np
import polars as pl
import pybamm
import pytest

from limpet.evidence.model import (
    Conditions,
    Ending,
    Instrument,
    Instruments,
    RangeTest,
    TestSheet,
    VehicleSpec,
)
from limpet.pack import PackSpec
from limpet.tell import analyse

SETS = {"Chen2020": "nmc", "Mohtat2020": "nmc", "NCA_Kim2011": "nca", "Prada2013": "lfp"}
CUT = {"nmc": 3.0, "nca": 3.0, "lfp": 2.5}
STEP_S = 5.0


def discharge(name, rate, temp_c):
    """A ride of pulses about a rate [1/h] to its cut-off: time, volts and amps of one cell; its 10-s ohms."""
    values = pybamm.ParameterValues(name)
    values.update(
        {"Ambient temperature [K]": 273.15 + temp_c, "Initial temperature [K]": 273.15 + temp_c}
    )
    model = pybamm.lithium_ion.SPMe({"thermal": "isothermal"})
    nominal = values["Nominal cell capacity [A.h]"]
    cut = max(CUT[SETS[name]], values["Lower voltage cut-off [V]"] + 0.02)
    amps = rate * nominal
    # Twenty seconds of pull, ten of less: steps that a resistance can be read off.
    cycle = [(20, 1.3 * amps), (10, 0.4 * amps)]
    seconds = int(3600 / rate * 1.2)
    times, currents = [0.0], [cycle[0][1]]
    while times[-1] < seconds:
        for length, current in cycle:
            times += [times[-1] + 1e-3, times[-1] + length]
            currents += [current, current]
    values["Current function [A]"] = pybamm.Interpolant(
        np.array(times), np.array(currents), pybamm.t
    )
    values["Lower voltage cut-off [V]"] = cut
    sim = pybamm.Simulation(model, parameter_values=values)
    found = sim.solve(np.arange(0, seconds, STEP_S), initial_soc=1.0)
    t, volts, current = (
        found[key].entries for key in ("Time [s]", "Terminal voltage [V]", "Current [A]")
    )
    # The truth's own 10-s resistance, at half of its charge: from one load of the ride to the other.
    still = pybamm.ParameterValues(name)
    still.update(
        {"Ambient temperature [K]": 273.15 + temp_c, "Initial temperature [K]": 273.15 + temp_c}
    )
    low, high = 0.4 * amps, 1.3 * amps
    pull = pybamm.Experiment(
        [f"Discharge at {low} A for 60 seconds", f"Discharge at {high} A for 10 seconds"],
        period="1 seconds",
    )
    step = pybamm.Simulation(model, parameter_values=still, experiment=pull).solve(initial_soc=0.5)
    shown, at_s = step["Terminal voltage [V]"].entries, step["Time [s]"].entries
    ohm = float((np.interp(59.9, at_s, shown) - shown[-1]) / (high - low))
    return t, volts, current, nominal, cut, ohm


@pytest.mark.parametrize(("rate", "temp_c"), [(0.5, 25.0), (1.0, 10.0)])
@pytest.mark.parametrize("name", SETS)
def test_capacity_energy_and_resistance_are_the_cells(name, rate, temp_c):
    t, volts, amps, nominal, cut, ohm = discharge(name, rate, temp_c)
    series, parallel = 13, max(1, round(12 / nominal))
    pack = PackSpec(
        chemistry=SETS[name], series=series, rated_ah=round(nominal * parallel, 2),
        full_v=round(series * float(volts[0]), 1), cutoff_v=series * cut,
    )  # fmt: skip
    frame = pl.DataFrame(
        {
            "time_s": t,
            "voltage_v": np.round(series * volts, 2),
            "current_a": np.round(parallel * amps, 2),
            "distance_m": 5.0 * t,
        }
    )
    sheet = TestSheet(
        title=name,
        vehicle=VehicleSpec(kind="bicycle"),
        pack=pack,
        conditions=Conditions(temp_start_c=temp_c),
        instruments=Instruments(
            voltage=Instrument(accuracy_pct=0.2), current=Instrument(accuracy_pct=0.5)
        ),
        ending=Ending(reason="cutoff"),
    )
    result = analyse(RangeTest(sheet=sheet, samples=frame))
    energy = float(np.trapezoid(series * volts * parallel * amps, t)) / 3600
    charge = float(np.trapezoid(parallel * amps, t)) / 3600
    assert result.energy.value == pytest.approx(energy, rel=0.01)
    capacity = result.pack.capacity_ah
    assert capacity.low * 0.995 <= charge <= capacity.high * 1.005
    assert capacity.value == pytest.approx(charge, rel=0.03)
    found = result.pack.resistance_ohm
    truth = ohm * series / parallel
    # A quarter is what steps of five seconds and one place in the charge leave open.
    assert found.value == pytest.approx(truth, rel=0.25)
