"""Voltage curves against PyBaMM's parameter sets and the handbook's check values."""

import os

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

os.environ["PYBAMM_DISABLE_TELEMETRY"] = "true"
import pybamm

from limpet.pack import NoCurveError, ocv_curve
from limpet.pack.ocv import OcvCurve, read_set


def _single(stem):
    z, volts = read_set(stem)
    return OcvCurve.of(z, volts, np.zeros_like(z))


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


@given(st.sampled_from(["nmc", "nca", "lfp"]), st.floats(0, 1), st.floats(0, 1))
def test_more_charge_is_more_voltage_and_more_energy(chemistry, a, b):
    curve, z = ocv_curve(chemistry), np.array(sorted((a, b)))
    assert np.diff(curve.voltage(z))[0] >= 0
    assert np.diff(curve.energy_left(z))[0] >= 0
    assert curve.charge_left(curve.voltage(z)) == pytest.approx(z, abs=1e-6)


def test_volts_tell_least_on_the_plateau_of_iron_phosphate():
    # The plateau's slope in volts per charge is a small part of a layered oxide's.
    assert ocv_curve("lfp").slope_v(0.6) < 0.2 * ocv_curve("nmc").slope_v(0.6)


def test_the_spread_of_the_nmc_family_counts_as_uncertainty():
    assert ocv_curve("nmc").charge_std(0.3) > ocv_curve("nca").charge_std(0.3) == 0.03


def test_a_chemistry_without_a_curve_says_what_to_do():
    with pytest.raises(NoCurveError, match="no voltage curve for lead_acid_agm yet; log amp-hours"):
        ocv_curve("lead_acid_agm")


def test_ten_cells_from_42_to_37_volts_are_about_sixty_percent_used():
    # Trade fact, handbook section 18 (common practice, no source): 10s layered oxide at rest at
    # 42.0 V, then 37.0 V, "about 60 % used". 0.05 is what "about" is taken to mean here.
    curve = ocv_curve("nmc")
    z = curve.charge_left(np.array([4.20, 3.70]))
    assert z[0] - z[1] == pytest.approx(0.55, abs=0.06)
