"""The command line: the same numbers, and refusals that end with 2."""

import json
import subprocess
import sys

import pytest

from demo.skerrow import ridden
from limpet.bundle import write_folder, write_zip
from limpet.cli import main
from limpet.result import analyse


@pytest.fixture
def bundle(tmp_path):
    write_folder(ridden("sandpiper-quay-gentle"), tmp_path / "ride")
    return tmp_path / "ride"


def test_json_is_the_cores_result(bundle, capsys):
    assert main([str(bundle), "--json"]) == 0
    assert json.loads(capsys.readouterr().out) == analyse(ridden("sandpiper-quay-gentle")).to_json()


def test_a_zip_gives_the_same(bundle, tmp_path, capsys):
    (tmp_path / "ride.zip").write_bytes(write_zip(ridden("sandpiper-quay-gentle")))
    main([str(bundle), "--json"])
    folder = capsys.readouterr().out
    main([str(tmp_path / "ride.zip"), "--json"])
    assert capsys.readouterr().out == folder


def test_the_report_names_the_figures_and_the_method_used(bundle, capsys):
    assert main([str(bundle)]) == 0
    text = capsys.readouterr().out
    assert text.startswith("Quay loop, ridden gently")
    for words in ("Wh/mi", "Range to cut-off", "(20 % kept)", "used", "Notes"):
        assert words in text


def test_a_refusal_goes_to_standard_error_and_ends_with_two(bundle):
    (bundle / "entries.csv").write_text("time_s,kind\n0,begin\n5,gone\n")
    done = subprocess.run(
        [sys.executable, "-m", "limpet.cli", str(bundle)],
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
    main([str(bundle), "--json"])
    found = json.loads(capsys.readouterr().out)
    assert list(found) == [
        "limpet_result", "distance", "energy", "charge", "consumption", "energy_methods",
        "distance_methods", "energy_used_fraction", "range_to_cutoff", "range_to_reserve", "pack",
        "regeneration", "climb", "fade", "gauge_truth", "legs", "warnings",
    ]  # fmt: skip
    assert set(found["energy"]) == {
        "value",
        "unit",
        "standard_uncertainty",
        "low",
        "high",
        "coverage",
    }
    assert set(found["energy_methods"][0]) == {"method", "quantity", "used", "agrees", "note"}
