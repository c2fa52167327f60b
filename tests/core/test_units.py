"""Typed quantities against the definitions of their units."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from limpet.errors import UnitError
from limpet.units import CORE_UNITS, METRES_PER_MILE, STANDARD_GRAVITY_MPS2, parse_quantity


@pytest.mark.parametrize(
    ("typed", "kind", "expected", "source"),
    [
        ("1 mi", "distance", 1609.344, "yard and pound agreement 1959; NIST SP 811 B.8"),
        ("1 ft", "length", 0.3048, "NIST SP 811 B.8, exact"),
        ("1 lb", "mass", 0.45359237, "NIST SP 811 B.8, exact"),
        ("1 st", "mass", 14 * 0.45359237, "14 pounds, UK Weights and Measures Act 1985"),
        ("1 psi", "pressure", 0.45359237 * 9.80665 / 0.0254**2 / 1000, "from its definition"),
        ("1 bar", "pressure", 100.0, "SI brochure, 9th ed., 4"),
        ("32 °F", "temperature", 0.0, "NIST SP 811 B.8"),
        ("212 F", "temperature", 100.0, "NIST SP 811 B.8"),
        ("36 km/h", "speed", 10.0, "by the hour's 3600 s"),
        ("1 mph", "speed", 1609.344 / 3600, "from its definition"),
        ("3.6 kJ", "energy", 1.0, "1 Wh = 3600 J"),
        ("2.5 kWh", "energy", 2500.0, "SI prefix"),
        ("54300 mV", "voltage", 54.3, "SI prefix"),
        ("9400mAh", "charge", 9.4, "SI prefix"),
        ("1013 mbar", "air_pressure", 1013.0, "1 mbar = 1 hPa"),
    ],
)
def test_a_unit_follows_its_definition(typed, kind, expected, source):
    assert parse_quantity(typed, kind) == pytest.approx(expected, rel=1e-12, abs=1e-9), source


@pytest.mark.parametrize(
    ("typed", "kind", "expected"),
    [
        ("200 lb", "mass", 90.718474),
        ("12.4mi", "distance", 12.4 * 1609.344),
        ("54,3 V", "voltage", 54.3),
        ("36 psi", "pressure", 248.2112654),
        ("54.3", "voltage", 54.3),
        ("  54.3 v ", "voltage", 54.3),
        ("1 720 m", "distance", 1720.0),
        ("-3.5 A", "current", -3.5),
        (".5 Ah", "charge", 0.5),
    ],
)
def test_riders_type_as_they_please(typed, kind, expected):
    assert parse_quantity(typed, kind) == pytest.approx(expected)


@pytest.mark.parametrize(
    ("typed", "kind", "message"),
    [
        ("", "mass", "is not a quantity; write it like 80 kg or 176 lb"),
        ("heavy", "mass", "'heavy' is not a quantity"),
        ("54 V", "mass", "'V' is not a unit of mass; write it like 80 kg"),
        ("12 furlongz", "distance", "'furlongz' is not a unit of distance"),
        ("1.234,5 V", "voltage", "more than one decimal mark"),
        ("5 kg kg", "mass", "is not a unit of mass"),
        ("5 **", "mass", "write it like"),
        ("5 m**99999999999", "mass", "write it like"),
    ],
)
def test_what_cannot_be_read_is_refused_with_an_example(typed, kind, message):
    with pytest.raises(UnitError, match=message.replace("*", r"\*")):
        parse_quantity(typed, kind)


@given(st.floats(-1e6, 1e6), st.sampled_from(sorted(set(CORE_UNITS) - {"share"})))
def test_a_number_in_the_core_unit_comes_back_as_it_is(value, kind):
    text = f"{value:.6f} {CORE_UNITS[kind][0]}"
    assert parse_quantity(text, kind) == pytest.approx(float(f"{value:.6f}"), rel=1e-12)


def test_constants_are_exact():
    # 1 mi = 5280 ft of 0.3048 m; CGPM 1901 for gravity.
    assert METRES_PER_MILE == 5280 * 3048 / 10000
    assert STANDARD_GRAVITY_MPS2 == 9.80665
