"""The command line: the same numbers, and refusals that end with 2."""

import json
import re
import subprocess
import sys
from pathlib import Path

import pytest

from demo.skerrow import ridden
from limpet.cli import main
from limpet.files import write_folder, write_zip
from limpet.files.tripfile import read_trip
from limpet.outlook.forecast import forecast
from limpet.tell import analyse
from limpet.words import INPUTS

EXAMPLE_TRIP = Path(__file__).resolve().parents[2] / "docs/examples/trip.json"


@pytest.fixture
def bundle(tmp_path):
    write_folder(ridden("sandpiper-quay-gentle"), tmp_path / "ride")
    return tmp_path / "ride"


def test_json_is_the_cores_result(bundle, capsys):
    assert main(["analyse", str(bundle), "--json"]) == 0
    assert json.loads(capsys.readouterr().out) == analyse(ridden("sandpiper-quay-gentle")).to_json()


def test_a_zip_gives_the_same(bundle, tmp_path, capsys):
    (tmp_path / "ride.zip").write_bytes(write_zip(ridden("sandpiper-quay-gentle")))
    main(["analyse", str(bundle), "--json"])
    folder = capsys.readouterr().out
    main(["analyse", str(tmp_path / "ride.zip"), "--json"])
    assert capsys.readouterr().out == folder


def test_the_report_names_the_figures_and_the_method_used(bundle, capsys):
    assert main(["analyse", str(bundle)]) == 0
    text = capsys.readouterr().out
    assert text.startswith("Quay loop, ridden gently")
    for words in ("Wh/mi", "Range to cut-off", "(20% kept)", "Plan on", "used", "Notes"):
        assert words in text


def test_a_refusal_goes_to_standard_error_and_ends_with_two(bundle):
    (bundle / "entries.csv").write_text("time_s,kind\n0,begin\n5,gone\n")
    done = subprocess.run(
        [sys.executable, "-m", "limpet.cli", "analyse", str(bundle)],
        capture_output=True,
        text=True,
        check=False,
    )
    assert done.returncode == 2
    assert done.stdout == ""
    assert [line.split(": ")[0] for line in done.stderr.splitlines()] == [
        "entries.csv:2:2",
        "entries.csv:3:2",
    ]


def test_json_has_every_key_of_the_format(bundle, capsys):
    main(["analyse", str(bundle), "--json"])
    found = json.loads(capsys.readouterr().out)
    assert list(found) == [
        "limpet_result", "verdict", "distance", "energy", "charge", "consumption", "energy_methods",
        "distance_methods", "energy_used_fraction", "range_to_cutoff", "range_to_reserve", "pack",
        "regeneration", "plan_on", "budget", "advice", "climb", "fade", "gauge_truth", "gauge_pooled",
        "gauge_habits", "shown_range", "claim",
        "packs", "legs", "inputs", "workings", "warnings",
    ]  # fmt: skip
    assert found["verdict"][0]["code"].startswith("verdict_")
    assert set(found["workings"][0]) == {"figure", "formula", "numbers"}
    assert set(found["energy"]) == {
        "value",
        "unit",
        "standard_uncertainty",
        "low",
        "high",
        "coverage",
    }
    assert set(found["energy_methods"][0]) == {"method", "quantity", "used", "agrees", "note"}


def test_the_report_says_what_is_not_known_and_what_disagrees(tmp_path, capsys):
    sheet = {
        "bundle": 1,
        "title": "Two meters",
        "vehicle": {"kind": "trike"},
        "pack": {"chemistry": "nmc", "series": 13, "rated_ah": 14},
    }
    (tmp_path / "test.json").write_text(json.dumps(sheet))
    (tmp_path / "entries.csv").write_text(
        "time_s,kind,trip_m,odometer_m\n0,start,0,0\n3600,end,20000,30000\n"
    )
    assert main(["analyse", str(tmp_path)]) == 0
    text = capsys.readouterr().out
    assert "Energy              not known" in text
    assert "Range to cut-off    not known" in text
    assert "DISAGREES" in text
    assert "Note the resting volts before and after" in text


def test_nothing_but_the_json_is_printed_as_json(bundle):
    command = [sys.executable, "-m", "limpet.cli", "analyse", str(bundle), "--json"]
    done = subprocess.run(command, capture_output=True, text=True, check=True)
    assert json.loads(done.stdout)["limpet_result"] == 1
    assert done.stderr == ""


def test_an_answer_that_nobody_reads_to_its_end_ends_quietly():
    """As `… | head -1` does: the reader goes after its line."""
    command = [sys.executable, "-m", "limpet", "forecast", "docs/examples/trip.json", "--json"]
    running = subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True)
    assert running.stdout is not None
    assert running.stderr is not None
    running.stdout.close()
    assert running.stderr.read() == ""
    assert running.wait() == 141


def test_an_accuracy_of_nought_is_believed(tmp_path, capsys):
    sheet = {
        "bundle": 1, "title": "Exact", "vehicle": {"kind": "trike"},
        "pack": {"chemistry": "nmc", "series": 13, "rated_ah": 14},
        "instruments": {"energy": {"accuracy_pct": 0}, "trip": {"accuracy_pct": 0}},
    }  # fmt: skip
    (tmp_path / "test.json").write_text(json.dumps(sheet))
    (tmp_path / "entries.csv").write_text(
        "time_s,kind,trip_m,energy_wh\n0,start,0,0\n3600,end,20000,300\n"
    )
    main(["analyse", str(tmp_path), "--json"])
    found = json.loads(capsys.readouterr().out)["consumption"]["wh_per_km"]
    assert (found["value"], found["standard_uncertainty"]) == (15.0, 0.0)


def test_what_matters_most_is_named_and_in_the_readers_units(capsys):
    assert main(["forecast", str(EXAMPLE_TRIP)]) == 0
    miles = capsys.readouterr().out
    assert main(["forecast", str(EXAMPLE_TRIP), "--units", "km"]) == 0
    kilometres = capsys.readouterr().out
    assert re.search(r"^  speed +\d+ mph to \d+ mph +[\d.]+ mi to [\d.]+ mi$", miles, re.M)
    assert re.search(r"^  speed +\d+ km/h to \d+ km/h +[\d.]+ km to [\d.]+ km$", kilometres, re.M)
    assert re.search(r"^  drive efficiency +\d\d to \d\d%", miles, re.M)
    assert "_mps" not in miles


def test_every_input_of_a_forecast_has_its_words():
    read = read_trip(EXAMPLE_TRIP)
    answer = forecast(read.trip, read.route, read.notices)
    names = {item.name for item in answer.inputs} | {swing.input for swing in answer.sensitivity}
    assert names <= set(INPUTS)
