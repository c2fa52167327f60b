"""Air density and pressure against published values and reference libraries."""

from __future__ import annotations

import metpy.calc
import pytest
from hypothesis import given
from hypothesis.strategies import floats
from metpy.units import units

from limpet.errors import OutOfRangeError
from limpet.road import air_density, density_ratio, standard_pressure_pa


@pytest.mark.parametrize(
    ("temp_c", "pressure_pa", "humidity", "expected_kgpm3", "rel", "source"),
    [
        (15, 101325, 0.0, 1.2250, 5e-4, "ISO 2533, sea level; ideal gas"),
        (15, 101325, 0.0, 1.2255, 5e-5, "handbook section 10, CIPM-2007"),
        (20, 101325, 0.5, 1.1993, 5e-5, "handbook section 10, CIPM-2007"),
        (0, 101325, 0.5, 1.2916, 5e-5, "handbook section 10, CIPM-2007"),
        (20, 101325, 0.5, 1.19929, 2e-4, "OIML R 111-1:2004, E.3; from memory, good to 2e-4"),
    ],
)
def test_air_density_agrees_with(temp_c, pressure_pa, humidity, expected_kgpm3, rel, source):
    assert air_density(temp_c, pressure_pa, humidity) == pytest.approx(expected_kgpm3, rel), source


@pytest.mark.parametrize("temp_c", [-30, -10, 0, 20, 40])
@pytest.mark.parametrize("humidity", [0.1, 0.5, 0.95])
@pytest.mark.parametrize("pressure_hpa", [700, 900, 1013])
def test_moist_air_agrees_with_metpy(temp_c, humidity, pressure_hpa):
    # MetPy 1.7 treats moist air as an ideal gas; real air differs by up to 0.2% here.
    pressure, temp = pressure_hpa * units.hPa, temp_c * units.degC
    mixing = metpy.calc.mixing_ratio_from_relative_humidity(pressure, temp, humidity)
    expected = metpy.calc.density(pressure, temp, mixing).to("kg/m^3").magnitude
    found = air_density(temp_c, 100 * pressure_hpa, humidity)
    assert found == pytest.approx(float(expected), rel=2e-3)


@given(floats(-30, 50), floats(60e3, 110e3), floats(0.01, 1))
def test_moist_air_is_lighter_than_dry(temp_c, pressure_pa, humidity):
    assert air_density(temp_c, pressure_pa, humidity) < air_density(temp_c, pressure_pa, 0)


@pytest.mark.parametrize(
    ("height_m", "expected_pa"), [(0, 101325.0), (1000, 89874.6), (2000, 79495.2), (5000, 54019.9)]
)
def test_standard_pressure_agrees_with_iso_2533(height_m, expected_pa):
    # ISO 2533:1975, table 5 (from memory; pressures to 0.1 Pa).
    assert standard_pressure_pa(height_m) == pytest.approx(expected_pa, rel=2e-5)


@pytest.mark.parametrize(
    ("values", "message"),
    [
        ((288.0, 101325.0, 0.5), "temp_c is 288, expected -40 to 50; kelvin or °F?"),
        ((15.0, 1013.0, 0.5), "pressure_pa is 1013, expected 50000 to 110000; multiply hPa by 100"),
        ((15.0, 101325.0, 70.0), "relative_humidity is 70, expected 0 to 1; divide % by 100"),
        ((float("nan"), 101325.0, 0.5), "temp_c is nan"),
    ],
)
def test_values_outside_the_formula_are_refused(values, message):
    with pytest.raises(OutOfRangeError, match=message.replace("?", r"\?")):
        air_density(*values)


def test_a_height_in_feet_is_refused():
    with pytest.raises(OutOfRangeError, match="feet for metres"):
        standard_pressure_pa(29_000)


@pytest.mark.parametrize("temp_c", [-20.0, 0.0, 35.0])
def test_the_ratio_of_densities_is_that_of_dry_air(temp_c):
    """Against CIPM-2007 itself, whose dry air is an ideal gas to a few parts in ten thousand."""
    told = float(density_ratio(temp_c, 15.0))
    exact = air_density(temp_c, 101_325.0, 0.0) / air_density(15.0, 101_325.0, 0.0)
    assert told == pytest.approx(exact, rel=5e-4)
    assert float(density_ratio(-200.0, 15.0)) == float(density_ratio(-60.0, 15.0))
