"""Everything has a bound that is checked before the work."""

from __future__ import annotations

import importlib
import json
import subprocess
import sys

import numpy as np
import pint
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.ndimage import gaussian_filter1d
from scipy.special import ndtri
from scipy.stats import qmc
from scipy.stats import t as student

from limpet import units
from limpet.drive.journey import MOST_CELLS, MOST_STEPS, trip_steps
from limpet.drive.steps import steps_of
from limpet.errors import BundleError, UnitError
from limpet.evidence.columns import ENTRY_COLUMNS, SAMPLE_COLUMNS
from limpet.files import read_files
from limpet.files.archive import MOST_BYTES, MOST_MEMBERS, refuse_large
from limpet.files.csvfile import read_table
from limpet.files.dialect import MOST_COLUMNS, MOST_ODD_CELLS
from limpet.files.gpx import MOST_POINTS, read_gpx
from limpet.files.jsonfile import MOST_BYTES as MOST_JSON
from limpet.files.jsonfile import MOST_DEPTH, parse_json
from limpet.files.mapping import ColumnMapping
from limpet.files.tables import MOST_ENTRIES, MOST_SAMPLES
from limpet.road import Leg, Route, gaussian_smoothed
from limpet.trip import MOST_LEGS, RouteSpec, Trip, TripPack, TripVehicle
from limpet.uncertain.hypercube import latin_hypercube
from limpet.uncertain.normal import normal_quantile
from limpet.uncertain.student import student_quantile
from limpet.version import core_digest
from tests.strategies import minimal

ENTRIES = b"time_s,trip_m\n0,0\n60,300\n"


def refused(call, *arguments, **named):
    with pytest.raises(BundleError) as caught:
        call(*arguments, **named)
    return str(caught.value)


def test_a_typed_unit_is_one_look_in_a_closed_table():
    with pytest.raises(UnitError, match="61 characters long"):
        units.parse_quantity("1 " + "k" * 59, "mass")
    # By its form: there is no regular expression here, and nothing that evaluates.
    assert not {"re", "pint", "eval"} & set(vars(units))


@pytest.mark.parametrize("kind", sorted(set(units.UNITS) - {"temperature", "share", "angle", "consumption"}))  # fmt: skip
def test_every_unit_is_what_a_unit_library_says(kind):
    registry = pint.UnitRegistry()
    spelled = {"kmh": "km/h", "kph": "km/h", "mph": "mile/hour", "mi/h": "mile/hour", "mps": "m/s",
               "kn": "knot", "knots": "knot", "kms": "km", "kilo": "kg", "kilos": "kg", "lbs": "lb",
               "st": "stone", "t": "tonne", "v": "V", "volts": "V", "volt": "V", "mv": "mV",
               "a": "A", "amp": "A", "amps": "A", "ma": "mA", "ah": "A*h", "mah": "mA*h",
               "as": "A*s", "c": "A*s", "wh": "W*h", "kwh": "kW*h", "j": "J", "kj": "kJ",
               "mj": "MJ", "w": "W", "watt": "W", "watts": "W", "kw": "kW", "pa": "Pa",
               "hpa": "hPa", "kpa": "kPa", "mpa": "MPa", "inhg": "inHg", "ω": "ohm", "ohms": "ohm",
               "mω": "mohm", "mohms": "mohm", "m2": "m**2", "m²": "m**2", "m^2": "m**2",
               "ft2": "ft**2", "ft²": "ft**2", "sec": "s", "in": "inch"}  # fmt: skip
    core = {"mass": "kg", "distance": "m", "length": "m", "speed": "m/s", "voltage": "V",
            "current": "A", "charge": "A*h", "energy": "W*h", "power": "W", "pressure": "kPa",
            "air_pressure": "hPa", "resistance": "ohm", "area": "m**2", "time": "s"}  # fmt: skip
    for unit, factor in units.UNITS[kind].items():
        expected = registry.Quantity(1.0, spelled.get(unit, unit)).to(core[kind]).magnitude
        assert factor == pytest.approx(expected, rel=1e-6 if unit == "inhg" else 1e-12), unit


@pytest.mark.parametrize(
    ("typed", "celsius"), [("0 K", -273.15), ("-40 °F", -40.0), ("-40", -40.0), ("98.6 f", 37.0)]
)
def test_temperatures_have_their_zero(typed, celsius):
    assert units.parse_quantity(typed, "temperature") == pytest.approx(celsius)


TIME = ColumnMapping.plain({"time_s": SAMPLE_COLUMNS["time_s"]})


def test_too_many_rows_columns_and_cells_are_refused_before_they_are_read():
    rows = b"time_s\n" + b"1\n" * 700
    assert "at most 300 rows" in refused(read_table, "samples.csv", rows, TIME, most_rows=300)  # fmt: skip
    wide = b"time_s," + b",".join(b"c%d" % k for k in range(MOST_COLUMNS + 1)) + b"\n"
    assert "more than 200 columns" in refused(read_table, "samples.csv", wide, TIME, most_rows=9)  # fmt: skip
    ends = b"time_s,voltage_v\n" + b"\n" * (2 * MOST_SAMPLES + 200)
    files = {"test.json": minimal(), "samples.csv": ends}
    assert "thin it out" in refused(read_files, files)
    odd = b'time_s,kind,note\n0,start,"a"\n' + b"," * (MOST_ODD_CELLS + 1)
    assert "something odd among them" in refused(read_table, "entries.csv", odd, ColumnMapping.plain(ENTRY_COLUMNS), most_rows=MOST_SAMPLES)  # fmt: skip
    many = b"time_s,trip_m\n" + b"".join(b"%d,%d\n" % (k, k) for k in range(MOST_ENTRIES + 1))
    assert f"at most {MOST_ENTRIES:,} are read" in refused(read_files, {"test.json": minimal(), "entries.csv": many})  # fmt: skip


def test_long_words_and_numbers_are_refused_with_their_place():
    long_note = b"time_s,kind,note\n0,start," + b"x" * 5001 + b"\n"
    files = {"test.json": minimal(), "entries.csv": long_note}
    assert "entries.csv:2:3: note has 5,001 characters" in refused(read_files, files)
    digits = b"time_s,trip_m\n0," + b"9" * 100_000
    assert "100,000 characters long" in refused(read_files, {"test.json": minimal(), "entries.csv": digits})  # fmt: skip
    assert "title" in refused(read_files, {"test.json": minimal(title="x" * 301), "entries.csv": ENTRIES})  # fmt: skip
    name = {"kind": "bicycle", "name": "x" * 301}
    assert "vehicle.name" in refused(read_files, {"test.json": minimal(vehicle=name), "entries.csv": ENTRIES})  # fmt: skip


def test_json_has_a_size_a_depth_and_numbers_that_can_be_read():
    assert "at most" in refused(parse_json, "a.json", b" " * (MOST_JSON + 1))
    deep = b"[" * (MOST_DEPTH + 2) + b"]" * (MOST_DEPTH + 2)
    assert "nested too deeply" in refused(parse_json, "a.json", deep)
    assert "nested too deeply" in refused(parse_json, "a.json", b"[" * 100_000)
    assert "thousands of digits" in refused(parse_json, "a.json", b'{"a": ' + b"9" * 5000 + b"}")
    flat = json.dumps({f"k{k}": k for k in range(20_000)}).encode()
    assert len(parse_json("a.json", flat)[1]) == 20_001


def test_a_bundle_has_no_larger_files_and_no_more_of_them_than_a_ride():
    for name, most in MOST_BYTES.items():
        assert name in refused(refuse_large, {name: most + 1})
        refuse_large({name: most})
    assert "holds 2,001 files" in refused(refuse_large, {f"p{k}.jpg": 1 for k in range(MOST_MEMBERS + 1)})  # fmt: skip


def test_a_track_has_no_more_points_than_a_day():
    text = b"<gpx>" + b"<trkpt/>" * (MOST_POINTS + 1) + b"</gpx>"
    assert f"at most {MOST_POINTS:,}" in refused(read_gpx, text)
    foreign = b'<?xml version="1.0" encoding="klingon-7"?><gpx version="1.1"/>'
    assert "declares the encoding klingon-7" in refused(read_gpx, foreign)


def trip(draws: int = 1000) -> Trip:
    return Trip(
        vehicle=TripVehicle(kind="bicycle"),
        pack=TripPack(chemistry="nmc", series=13, rated_ah=14.0),
        route=RouteSpec(legs=(Leg(length_m=1000),)),
        draws=draws,
    )


@pytest.mark.parametrize("draws", [50, 1000, 20_000])
@pytest.mark.parametrize("legs", [1, 40, MOST_LEGS])
def test_a_forecasts_steps_are_capped_whatever_its_length(legs, draws):
    # 400 legs of 50 km: 20,000 km by a pack of 50 km.
    route = Route(legs=tuple(Leg(length_m=50_000, climb_m=100) for _ in range(legs)))
    steps = trip_steps(trip(draws), route, likely_m=50_000.0)
    most = min(MOST_STEPS, MOST_CELLS // draws) + 3 * legs
    assert len(steps) <= most
    assert steps.total_m == pytest.approx(route.length_m)


@given(st.floats(0, 1000), st.floats(100, 50_000), st.floats(10, 5000))
def test_cutting_a_leg_loses_no_stop(stops, length_m, longest_m):
    steps = steps_of(Route(legs=(Leg(length_m=length_m, stops=stops, climb_m=1.0),)), longest_m)
    assert steps.stops.sum() == pytest.approx(stops)
    assert (steps.stops >= -1e-9).all()


def test_more_legs_than_a_day_has_are_refused(tmp_path):
    from limpet.cli import main

    trip_file = {"vehicle": {"kind": "bicycle"}, "pack": {"chemistry": "nmc", "series": 13, "rated_ah": 14},
                 "route": {"legs": [{"length_m": 1000}] * (MOST_LEGS + 1)}}  # fmt: skip
    (tmp_path / "trip.json").write_text(json.dumps(trip_file))
    assert main(["forecast", str(tmp_path / "trip.json")]) == 2


@pytest.mark.parametrize(
    ("given_", "kilograms", "std"),
    [
        (80, 80, None),
        ({"value": 176, "unit": "lb"}, 176 * 0.45359237, None),
        ({"value": 12.5, "unit": "st", "standard_uncertainty": 0.5}, 12.5 * 6.35029318, 0.5 * 6.35029318),
        # 95% of a normal distribution lies within 1.95996 standard deviations.
        ({"value": 80, "low": 76, "high": 84, "coverage": 0.95}, 80, 4 / 1.959964),
    ],
)  # fmt: skip
def test_a_quantitys_unit_is_read(given_, kilograms, std):
    from pydantic import TypeAdapter

    from limpet.trip import TripRider

    found = TypeAdapter(TripRider).validate_python({"mass_kg": given_}).mass_kg
    assert found.value == pytest.approx(kilograms)
    if std is None:
        assert found.standard_uncertainty is None
    else:
        assert found.standard_uncertainty == pytest.approx(std, rel=1e-6)


@pytest.mark.parametrize(
    "given_",
    [
        {"value": 176, "unit": "psi"},
        {"value": 176, "unit": "furlong"},
        {"value": 80, "low": 81},
        {"value": 80, "high": 79},
        {"value": 80, "coverage": 1.5},
        {"value": 80, "coverage": 0},
        {"value": 80, "standard_uncertainty": -1},
        {"value": 5000, "unit": "lb"},
        10**400,
        True,
    ],
)
def test_a_quantity_at_odds_with_itself_is_refused(given_):
    from pydantic import TypeAdapter, ValidationError

    from limpet.trip import TripRider

    with pytest.raises(ValidationError):
        TypeAdapter(TripRider).validate_python({"mass_kg": given_})


# What was written out to spare the loading of large packages, against those packages.


@given(st.floats(0.2, 30), st.integers(1, 200))
def test_smoothing_is_scipys(sigma, count):
    values = np.random.default_rng(count).normal(size=count)
    expected = gaussian_filter1d(values, sigma, mode="nearest")
    assert gaussian_smoothed(values, sigma) == pytest.approx(expected, abs=1e-12)


def test_latin_hypercube_is_scipys():
    expected = qmc.LatinHypercube(d=7, rng=np.random.default_rng(5)).random(123)
    assert np.array_equal(latin_hypercube(7, 123, np.random.default_rng(5)), expected)


def test_normal_quantiles_are_scipys():
    p = np.concatenate([np.geomspace(1e-300, 0.5, 4000), 1 - np.geomspace(1e-16, 0.5, 4000)])
    assert normal_quantile(p) == pytest.approx(ndtri(p), rel=2e-15, abs=1e-15)


@pytest.mark.parametrize(("p", "freedom"), [(0.975, 1), (0.95, 2), (0.8, 17), (0.5, 3)])
def test_students_quantile_is_scipys(p, freedom):
    assert student_quantile(p, freedom) == pytest.approx(student.ppf(p, freedom), rel=1e-12)


def test_the_digest_is_of_the_sources(tmp_path, monkeypatch):
    import shutil
    from pathlib import Path

    here = Path(importlib.import_module("limpet").__file__).parent
    copy = tmp_path / "limpet"
    shutil.copytree(here, copy)
    code = "from limpet.version import core_digest; print(core_digest())"

    def digest():
        return subprocess.run(
            [sys.executable, "-c", code], env={"PYTHONPATH": str(tmp_path)},
            capture_output=True, text=True, check=True,
        ).stdout.strip()  # fmt: skip

    before = digest()
    assert before == core_digest()
    (copy / "quantity.py").write_text((copy / "quantity.py").read_text() + "\n# changed\n")
    assert digest() != before
