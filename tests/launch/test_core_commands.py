"""The core's commands through ./limpet itself, as a rider types them."""

from __future__ import annotations

import json
import subprocess
from pathlib import Path

import pytest

ROOT = Path(__file__).resolve().parents[2]
CLAIM = {
    "rated_wh": 473, "distance_m": 40_000, "speed_mps": 4.2, "load_kg": 75,
    "vehicle_kind": "kick_scooter", "vehicle_mass_kg": 16.5,
}  # fmt: skip
TRIP = {
    "vehicle": {"kind": "bicycle", "mass_kg": 31},
    "pack": {"chemistry": "nmc", "series": 13, "rated_ah": 14, "cutoff_v": 39},
    "route": {"loop": {"length_m": 1720, "climb_m": 3}, "laps": 6},
    "draws": 100,
}
CELL = {
    "capacity_ah": 3.4, "nominal_v": 3.6, "max_current_a": 8, "resistance_ohm": 0.03,
    "mass_kg": 0.048, "chemistry": "nmc",
}  # fmt: skip


def limpet(folder: Path, *arguments: str) -> subprocess.CompletedProcess[str]:
    return subprocess.run(
        [str(ROOT / "limpet"), *arguments], cwd=folder, capture_output=True, text=True, check=False
    )


@pytest.fixture
def folder(tmp_path):
    for name, what in (("claim", CLAIM), ("trip", TRIP), ("cell", CELL)):
        (tmp_path / f"{name}.json").write_text(json.dumps(what))
    return tmp_path


def test_each_command_answers_from_any_folder(folder):
    claim = limpet(folder, "claim", "claim.json")
    assert (claim.returncode, claim.stderr) == (0, "")
    assert "Wh/mi" in claim.stdout
    forecast = json.loads(limpet(folder, "forecast", "trip.json", "--json").stdout)
    assert forecast["route"]["laps"] == 6
    size = json.loads(limpet(folder, "size", "trip.json", "--cell", "cell.json", "--json").stdout)
    assert size["fits"] is True


def test_the_examples_of_the_readme_are_answered():
    examples = ROOT / "docs" / "examples"
    forecast = limpet(examples, "forecast", "trip.json")
    assert forecast.returncode == 0, forecast.stderr
    assert "sure to ride 12.3 mi" in forecast.stdout
    assert "not physically possible" in limpet(examples, "claim", "claim.json").stdout.lower()
    sized = limpet(examples, "size", "trip.json", "--cell", "cell.json")
    assert "makes the trip" in sized.stdout


def test_a_refusal_ends_with_2_and_one_line_per_fault(folder):
    (folder / "trip.json").write_text(
        json.dumps({**TRIP, "reserve": 2, "vehicle": {"kind": "boat"}}, indent=1)
    )
    done = limpet(folder, "forecast", "trip.json")
    assert (done.returncode, done.stdout) == (2, "")
    assert [line.split(" ")[0] for line in done.stderr.splitlines()] == [
        "trip.json:3:11:",
        "trip.json:19:13:",
    ]


def test_a_command_without_its_file_says_how_it_is_called(folder):
    done = limpet(folder, "size", "trip.json")
    assert done.returncode == 2
    assert "--cell" in done.stderr
