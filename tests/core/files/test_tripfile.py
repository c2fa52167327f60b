"""Trip, claim and cell files on the command line: answered, or refused in one clear sentence."""

from __future__ import annotations

import json
import subprocess
import sys
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from limpet.cli import main
from limpet.errors import BundleError
from limpet.files.tripfile import read_trip

#: The example of trip.md, one choice taken of each.
TRIP: dict[str, Any] = {
    "trip": 1,
    "vehicle": {"kind": "bicycle", "mass_kg": 31, "cda_m2": None, "crr": None, "drivetrain_efficiency": None, "aux_w": None, "regeneration": 0.0, "max_power_w": 750, "max_speed_mps": 9.0, "controller_current_limit_a": 25, "step_down": [{"below_v": 44.0, "max_speed_mps": 5.6}]},
    "pack": {"chemistry": "nmc", "series": 13, "parallel": 4, "rated_ah": 14.0, "rated_wh": None, "cutoff_v": 39.0, "resistance_ohm": None, "retained_fraction": 0.95},
    "packs": {"count": 1, "use": "single"},
    "rider": {"mass_kg": 82, "gear_kg": 6, "pedal_power_w": 0},
    "conditions": {"temp_c": 8, "wind_mps": 4, "wind_from_deg": 270, "pressure_hpa": 1013, "humidity_pct": 70},
    "tyres": {"pressure_kpa": 240},
    "route": {"legs": [{"length_m": 4200, "climb_m": 35, "descent_m": 10, "bearing_deg": 90, "surface": "smooth_paved", "stops": 6, "speed_mps": None}], "and_back": True},
    "speed": {"policy": "fixed", "target_mps": 6.0},
    "known_consumption_wh_per_km": None,
    "start_energy_fraction": 1.0, "reserve": 0.15, "minimum_speed_mps": 1.4,
    "probability": 0.95, "draws": 300, "seed": 1,
}  # fmt: skip
CLAIM = {"rated_wh": 473, "distance_m": 120000, "speed_mps": 6.9, "load_kg": 75, "vehicle_kind": "kick_scooter", "vehicle_mass_kg": 16.5}  # fmt: skip
CELL = {"capacity_ah": 3.4, "nominal_v": 3.6, "max_current_a": 8, "resistance_ohm": 0.03, "mass_kg": 0.048, "chemistry": "nmc"}  # fmt: skip


def changed(path: str, value: Any, base: dict[str, Any] = TRIP) -> dict[str, Any]:
    copy = json.loads(json.dumps(base))
    *way, last = path.split(".")
    place = copy
    for part in way:
        place = place[int(part)] if part.isdigit() else place[part]
    place[last] = value
    return copy


def written(folder: Path, name: str, what: Any) -> str:
    (folder / name).write_text(json.dumps(what, indent=1))
    return str(folder / name)


def test_the_answer_has_every_field_of_the_format(tmp_path, capsys):
    assert main(["forecast", written(tmp_path, "trip.json", TRIP), "--json"]) == 0
    answer = json.loads(capsys.readouterr().out)
    assert answer["limpet_forecast"] == 1
    assert set(answer["consumption"]) == {"wh_per_km", "wh_per_mi"}
    quantity = {"value", "unit", "standard_uncertainty", "low", "high", "coverage"}
    assert set(answer["range_to_cutoff"]) == quantity
    for name in ("energy", "duration_s", "energy_left_fraction"):
        assert set(answer["route"][name]) == quantity
    assert answer["route"]["distance_m"] == pytest.approx(8400)
    assert answer["route"]["ascent_m"] == 45
    assert set(answer["turn_point"]) == {"distance_m", "probability"}
    assert set(answer["ends_by"]) == {"route_end", "cutoff", "speed_floor", "reserve"}
    assert set(answer["peak"]) == {"power_w", "current_a", "loaded_v", "per_cell_a"}
    assert answer["peak"]["per_cell_a"] == pytest.approx(answer["peak"]["current_a"] / 4)
    point = answer["profile"][3]
    assert set(point) == {"distance_m", "energy_left_fraction", "loaded_v", "speed_mps"}
    assert set(answer["sensitivity"][0]) == {"input", "from", "to", "range_low_m", "range_high_m"}
    assert set(answer["inputs"][0]) == {"name", "value", "standard_uncertainty", "source"}
    sources = {item["name"]: item["source"] for item in answer["inputs"]}
    assert sources["vehicle_mass_kg"] == "trip"
    assert sources["crr"] == "start value for bicycle"


def test_what_is_left_out_widens_the_answer(tmp_path, capsys):
    bare = {"vehicle": {"kind": "bicycle"}, "pack": {"chemistry": "nmc", "series": 13, "rated_ah": 14}, "route": {"legs": [{"length_m": 5000}]}}  # fmt: skip
    spans = []
    for what in (TRIP, bare):
        assert main(["forecast", written(tmp_path, "trip.json", what), "--json"]) == 0
        band = json.loads(capsys.readouterr().out)["range_to_cutoff"]
        spans.append((band["high"] - band["low"]) / band["value"])
    assert spans[1] > spans[0]


def test_the_report_begins_with_a_sentence(tmp_path, capsys):
    assert main(["forecast", written(tmp_path, "trip.json", TRIP)]) == 0
    lines = capsys.readouterr().out.splitlines()
    assert lines[0].startswith("over 99% sure to ride 5.2 mi and keep 15%")
    assert any(line.startswith("Turn by") for line in lines)


def test_claim_and_size_answer_in_a_sentence_or_json(tmp_path, capsys):
    claim = written(tmp_path, "claim.json", CLAIM)
    assert main(["claim", claim, "--units", "km"]) == 0
    assert capsys.readouterr().out.startswith("Not physically possible at 25 km/h")
    assert main(["claim", claim]) == 0
    assert capsys.readouterr().out.startswith("Not physically possible at 15 mph")
    assert main(["claim", claim, "--json"]) == 0
    answer = json.loads(capsys.readouterr().out)
    wanted = {"implied_wh_per_km", "least_wh_per_km", "possible", "speed_it_would_need_mps", "verdict", "reason"}  # fmt: skip
    assert wanted <= set(answer)
    trip, cell = written(tmp_path, "trip.json", TRIP), written(tmp_path, "cell.json", CELL)
    assert main(["size", trip, "--cell", cell, "--json"]) == 0
    size = json.loads(capsys.readouterr().out)
    wanted = {"series", "parallel", "rated_wh", "mass_kg", "needed_wh", "peak_cell_current_a", "sag_fraction", "fits", "reason"}  # fmt: skip
    assert wanted <= set(size)
    assert size["fits"] is True


GPX = """<?xml version="1.0"?><gpx version="1.1" creator="x" xmlns="http://www.topografix.com/GPX/1/1">
<trk><trkseg>{points}</trkseg></trk></gpx>"""


def gpx(heights: bool = True, jump: bool = False) -> str:
    points = []
    for k in range(60):
        lat = 47.5 + 0.0009 * k + (0.5 if jump and k > 30 else 0)
        height = f"<ele>{5 + k * 0.8:.1f}</ele>" if heights else ""
        points.append(f'<trkpt lat="{lat:.5f}" lon="-24.5">{height}</trkpt>')
    return GPX.format(points="".join(points))


def test_a_gpx_file_beside_the_trip_is_its_route(tmp_path, capsys):
    (tmp_path / "road.gpx").write_text(gpx())
    what = changed("route", {"gpx": "road.gpx", "and_back": True})
    assert main(["forecast", written(tmp_path, "trip.json", what), "--json"]) == 0
    route = json.loads(capsys.readouterr().out)["route"]
    assert route["distance_m"] == pytest.approx(2 * 59 * 100.1, rel=0.01)
    assert route["ascent_m"] == pytest.approx(47, abs=3)


def test_a_gpx_file_without_heights_says_so(tmp_path, capsys):
    (tmp_path / "road.gpx").write_text(gpx(heights=False))
    what = changed("route", {"gpx": "road.gpx"})
    assert main(["forecast", written(tmp_path, "trip.json", what), "--json"]) == 0
    codes = {w["code"] for w in json.loads(capsys.readouterr().out)["warnings"]}
    assert "no_heights" in codes


@pytest.mark.parametrize(
    ("what", "sentence"),
    [
        (changed("pack.cutoff_v", 12.0), "trip.json:27:15: pack.cutoff_v is 12 V, which 13 cells of nmc"),
        (changed("conditions.wind_mps", 80), "conditions.wind_mps is 80, expected 0 to 40; check the unit"),
        (changed("route.legs", []), "route.legs the route has no legs; add one"),
        (changed("route.legs.0.length_m", 0), "length_m is 0, expected at least 0.01"),
        (changed("route.legs.0.climb_m", 4000), "rises and falls 4010 m in 4200 m, 95%"),
        (changed("route", {"loop": {"length_m": 900}, "gpx": "a.gpx"}), "it has loop and gpx"),
        (changed("route", {}), "must hold legs, loop or gpx, one of them; it has none"),
        (changed("route", {"loop": {"length_m": 100, "climb_m": 90}}), "route.loop rises and falls 180 m"),
        (changed("route.laps", 4), "route.laps is for a loop"),
        (changed("vehicle.kind", "bycicle"), "did you mean bicycle?"),
        (changed("vehicle.cda_m2", "0.5"), "vehicle.cda_m2 is \"0.5\", expected a number"),
        (changed("vehicle.cda_m2", {"unit": "m2"}), "its value is wrong"),
        (changed("packs", {"count": 2, "use": "single"}), "say in_sequence or in_parallel"),
        (changed("probability", 95), "probability is 95, expected at most 0.999"),
        (changed("draws", 10), "draws is 10, expected at least 50"),
        (changed("route", {"gpx": "../road.gpx"}), "must name a file beside the trip file"),
        (changed("route", {"gpx": "none.gpx"}), "none.gpx: cannot be read: there is no such file"),
        ([], "must be a JSON object"),
    ],
)  # fmt: skip
def test_a_trip_that_cannot_be_is_refused_in_one_sentence(what, sentence, tmp_path, capsys):
    assert main(["forecast", written(tmp_path, "trip.json", what)]) == 2
    seen = capsys.readouterr()
    assert seen.out == ""
    assert sentence in seen.err
    assert "Traceback" not in seen.err


def test_a_route_that_jumps_is_refused_with_its_points(tmp_path, capsys):
    (tmp_path / "road.gpx").write_text(gpx(jump=True))
    what = changed("route", {"gpx": "road.gpx"})
    assert main(["forecast", written(tmp_path, "trip.json", what)]) == 2
    assert "road.gpx: the route jumps 55.7 km between points 31 and 32" in capsys.readouterr().err


def test_a_file_that_is_not_there_or_not_json_is_one_sentence(tmp_path):
    missing = str(tmp_path / "no.json")
    command = [sys.executable, "-m", "limpet.cli", "forecast", missing]
    done = subprocess.run(command, capture_output=True, text=True, check=False)
    assert (done.returncode, done.stderr.strip()) == (
        2,
        "no.json: cannot be read: there is no such file",
    )
    (tmp_path / "half.json").write_text('{"trip": 1,\n "vehicle": {')
    with pytest.raises(BundleError, match=r"half.json:2:\d+: not JSON"):
        read_trip(tmp_path / "half.json")


def test_unknown_keys_are_named_and_nothing_else_changes(tmp_path, capsys):
    what = changed("vehicle.colour", "red", changed("route.legs.0.view", "sea"))
    assert main(["forecast", written(tmp_path, "trip.json", what), "--json"]) == 0
    warned = json.loads(capsys.readouterr().out)["warnings"]
    words = next(w["message"] for w in warned if w["code"] == "unknown_fields")
    assert "vehicle.colour" in words
    assert "route.legs" in words


@given(
    st.sampled_from(["vehicle.mass_kg", "pack.series", "route.legs.0.length_m", "conditions.temp_c", "rider.mass_kg", "reserve", "seed", "pack.rated_ah", "speed.target_mps"]),
    st.one_of(st.none(), st.booleans(), st.integers(-10**9, 10**9), st.floats(), st.text(max_size=5), st.lists(st.integers(), max_size=2)),
)  # fmt: skip
def test_any_value_anywhere_is_answered_or_refused(path, value):
    import tempfile

    what = changed("draws", 50)
    with tempfile.TemporaryDirectory() as folder:
        file = Path(folder) / "trip.json"
        file.write_text(json.dumps(changed(path, value, what), allow_nan=True))
        assert main(["forecast", str(file)]) in (0, 2)
