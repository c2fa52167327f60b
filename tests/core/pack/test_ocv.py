"""Voltage curves against PyBaMM's parameter sets and the handbook's check values."""

import os

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

os.environ["PYBAMM_DISABLE_TELEMETRY"] = "true"
import pybamm

from limpet.pack import CHEMISTRIES, FACTS, ocv_curve
from limpet.pack.ocv import OcvCurve
from limpet.pack.sets import read_set


def _single(stem):
    return OcvCurve.of(*read_set(stem))


@pytest.mark.parametrize(
    ("stem", "volts", "charge", "energy"),
    [
        # Handbook section 5, from PyBaMM's sets at 25 °C, three decimals.
        ("nmc811_chen2020", 4.0, 0.756, 0.732),
        ("nmc811_chen2020", 3.7, 0.443, 0.409),
        ("nmc811_chen2020", 3.5, 0.218, 0.191),
        ("nmc532_mohtat2020", 3.7, 0.469, 0.445),
        ("nca_kim2011", 3.7, 0.519, 0.484),
        ("lfp_prada2013", 3.30, 0.766, 0.756),
        ("lfp_prada2013", 3.25, 0.392, 0.374),
    ],
)
def test_charge_and_energy_left_are_the_published_ones(stem, volts, charge, energy):
    curve = _single(stem)
    z = curve.charge_left(np.array([volts]))
    assert z[0] == pytest.approx(charge, abs=6e-4)
    assert curve.energy_left(z)[0] == pytest.approx(energy, abs=6e-4)


@pytest.mark.parametrize(
    ("stem", "name"),
    [
        ("nmc811_chen2020", "Chen2020"),
        ("nmc532_mohtat2020", "Mohtat2020"),
        ("nca_kim2011", "NCA_Kim2011"),
        ("nmc811_oregan2022", "ORegan2022"),
        ("lfp_prada2013", "Prada2013"),
    ],
)
def test_the_data_files_are_what_pybamm_computes_today(stem, name):
    # PyBaMM 26.10, between the table's own points, so that its grid is checked as well.
    values = pybamm.ParameterValues(name)
    x0, x100, y100, y0 = pybamm.lithium_ion.get_min_max_stoichiometries(values)
    param = pybamm.LithiumIonParameters()
    temp_k = values["Reference temperature [K]"]
    z = np.array([0.031, 0.117, 0.333, 0.5005, 0.719, 0.901, 0.993])
    symbol = param.p.prim.U(pybamm.Vector(y0 + z * (y100 - y0)), temp_k)
    symbol = symbol - param.n.prim.U(pybamm.Vector(x0 + z * (x100 - x0)), temp_k)
    expected = values.evaluate(symbol).flatten()
    assert _single(stem).voltage(z) == pytest.approx(expected, abs=2e-3)


def test_mean_voltages_are_the_handbooks():
    # Handbook section 5: Chen 3.72 V, Prada 3.20 V.
    assert _single("nmc811_chen2020").mean_v == pytest.approx(3.72, abs=5e-3)
    assert _single("lfp_prada2013").mean_v == pytest.approx(3.20, abs=6e-3)


@given(st.sampled_from(CHEMISTRIES), st.floats(0, 1), st.floats(0, 1))
def test_more_charge_is_more_voltage_and_more_energy(chemistry, a, b):
    curve, z = ocv_curve(chemistry), np.array(sorted((a, b)))
    assert np.diff(curve.voltage(z))[0] >= 0
    assert np.diff(curve.energy_left(z))[0] >= 0
    assert curve.charge_left(curve.voltage(z)) == pytest.approx(z, abs=1e-6)


def test_volts_tell_least_on_the_plateau_of_iron_phosphate():
    # The plateau's slope in volts per charge is a small part of a layered oxide's.
    lfp, nmc = (
        np.diff(ocv_curve(name).voltage(np.array([0.5, 0.7])))[0] for name in ("lfp", "nmc")
    )
    assert lfp < 0.2 * nmc


@pytest.mark.parametrize("chemistry", CHEMISTRIES)
def test_every_chemistry_has_a_curve_within_its_own_volts(chemistry):
    curve, facts = ocv_curve(chemistry), FACTS[chemistry]
    assert (np.diff(curve.ocv_v) > 0).all()
    assert facts.lowest_v <= curve.ocv_v[0] < curve.ocv_v[-1] <= facts.highest_v + 0.01


def test_spinel_is_doyles_formula_over_a_published_graphite():
    # M. Doyle et al., J. Electrochem. Soc. 143 (1996) 1890 (from memory): two plateaus near 4.12 and 3.98 V
    # against lithium, half way between them y = 0.592; graphite of Mohtat 2020 at the same charge.
    values = pybamm.ParameterValues("Mohtat2020")
    x0, x100, _, _ = pybamm.lithium_ion.get_min_max_stoichiometries(values)
    param, temp_k = pybamm.LithiumIonParameters(), values["Reference temperature [K]"]
    z = np.array([0.2, 0.5, 0.8])
    graphite = values.evaluate(
        param.n.prim.U(pybamm.Vector(x0 + z * (x100 - x0)), temp_k)
    ).flatten()
    above = _single("lmo_doyle1996").voltage(z) + graphite
    assert above[2] == pytest.approx(4.12, abs=0.03)
    assert above[0] == pytest.approx(3.96, abs=0.03)
    assert above[2] > above[1] > above[0]


def test_lead_acid_is_bodes_potential_over_the_acid():
    # H. Bode, Lead-Acid Batteries (1977), as PyBaMM has it: 1.628 + 0.294 + … of the molality, by hand at 1
    # and at 6 mol/kg: log10 0 and 0.7782.
    by_hand = [
        1.922,
        1.922 + 0.148 * 0.77815 + 0.063 * 0.77815**2 + 0.074 * 0.77815**3 + 0.034 * 0.77815**4,
    ]
    m = pybamm.Vector(np.array([1.0, 6.0]))
    from pybamm.input.parameters.lead_acid.Sulzer2019 import (
        lead_dioxide_ocp_Bode1977,
        lead_ocp_Bode1977,
    )

    cell = (lead_dioxide_ocp_Bode1977(m) - lead_ocp_Bode1977(m)).evaluate().flatten()
    assert cell == pytest.approx(by_hand, abs=1e-4)
    # Between: the acid falls in a straight line with the charge, and the volts nearly so.
    curve = _single("lead_agm_bode1977")
    assert curve.voltage(np.array([0.0, 1.0])) == pytest.approx([1.93, 2.14], abs=1e-4)
    assert 0 < curve.voltage(np.array([0.5]))[0] - (1.93 + 2.14) / 2 < 0.006
    # A 12-V battery resting at 12.2 V is about half full (common practice, no source).
    assert ocv_curve("lead_acid_agm").charge_left(np.array([12.2 / 6]))[0] == pytest.approx(
        0.5, abs=0.06
    )


def test_ten_cells_from_42_to_37_volts_are_about_sixty_percent_used():
    # Trade fact, handbook section 18 (common practice, no source): 10s layered oxide at rest at
    # 42.0 V, then 37.0 V, "about 60% used". 0.05 is what "about" is taken to mean here.
    curve = ocv_curve("nmc")
    z = curve.charge_left(np.array([4.20, 3.70]))
    assert z[0] - z[1] == pytest.approx(0.55, abs=0.06)
