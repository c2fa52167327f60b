"""`./limpet ageing` and `./limpet seasons`: the verdicts of the pages, of a folder of bundles."""

from __future__ import annotations

import json
from pathlib import Path
from types import SimpleNamespace

import jsonschema
import pytest

from demo.skerrow import ridden
from limpet.cli import main
from limpet.cli.seasons import _verdict
from limpet.files import write_zip

KNOT = ("knot-2024-9", "knot-2025-3", "knot-2025-9", "knot-2026-3", "knot-2026-9")


@pytest.fixture(scope="module")
def of_knot(tmp_path_factory):
    folder = tmp_path_factory.mktemp("knot")
    for slug in KNOT:
        (folder / f"{slug}.zip").write_bytes(write_zip(ridden(slug)))
    return folder


@pytest.fixture(scope="module")
def of_two(tmp_path_factory):
    folder = tmp_path_factory.mktemp("two")
    for slug in ("turnstone-frost", "turnstone-quay-cutoff", "whimbrel-frost"):
        (folder / f"{slug}.zip").write_bytes(write_zip(ridden(slug)))
    return folder


FORMATS = Path(__file__).resolve().parents[2] / "docs/formats"


def faults(name, answer):
    """Where an answer is not what its schema says."""
    schema = json.loads((FORMATS / f"{name}.schema.json").read_text())
    jsonschema.Draft202012Validator.check_schema(schema)
    return [
        fault.json_path for fault in jsonschema.Draft202012Validator(schema).iter_errors(answer)
    ]


def printed(capsys, *arguments):
    assert main(list(arguments)) == 0
    return json.loads(capsys.readouterr().out)


def test_a_packs_life_is_that_of_its_tests(of_knot, capsys):
    found = printed(capsys, "ageing", str(of_knot), "--json")
    assert found["limpet_ageing"] == 1
    assert faults("ageing", found) == []
    assert faults("ageing", {**found, "trend": {"shape": "circle"}}) == ["$.trend"] * 2 + [
        "$.trend.shape"
    ]
    assert found["pack"] == "Plover-1"
    kept = [test["retained_fraction"]["value"] for test in found["tests"]]
    assert kept == sorted(kept, reverse=True)
    assert [round(test["months"]) for test in found["tests"]] == [0, 6, 12, 18, 24]
    for test in found["tests"]:
        # As ridden ÷ rated, and beside it what the cold took put back.
        assert test["retained_at_25c"]["value"] > test["retained_fraction"]["value"]
        assert test["range_to_cutoff"]["unit"] == "m"
    assert found["trend"]["shape"] == "line"
    lost = found["trend"]["per_100_efc"]
    assert lost["low"] < lost["value"] < 0
    first, last = found["tests"][0], found["tests"][-1]
    mean = (
        100
        * (last["retained_at_25c"]["value"] - first["retained_at_25c"]["value"])
        / (last["efc"] - first["efc"])
    )
    assert lost["low"] < mean < lost["high"]
    worn, later = found["crosses_80"], found["crosses_70"]
    assert worn["efc"]["value"] < later["efc"]["value"]
    assert worn["range_to_cutoff"]["value"] > later["range_to_cutoff"]["value"]
    assert found["test_again_in_months"] >= 0
    assert all({"code", "message"} <= notice.keys() for notice in found["warnings"])
    assert main(["ageing", str(of_knot)]) == 0
    words = capsys.readouterr().out
    assert words.startswith("Plover-1")
    assert "as ridden" in words


def test_a_vehicles_seasons_are_those_of_its_page(of_knot, capsys):
    found = printed(capsys, "seasons", str(of_knot), "--json")
    assert (found["limpet_seasons"], found["vehicle"]) == (1, "Knot")
    assert faults("seasons", found) == []
    assert faults("seasons", {**found, "left_out": -1}) == ["$.left_out"]
    verdicts = {"colder_less", "colder_more", "no_difference_shown", "too_few"}
    for band in found["bands"]:
        assert band["verdict"] in verdicts
        assert band["from_mps"] <= band["to_mps"]
        assert {part["name"] for part in band["parts"]} <= {"air", "tyres", "pack", "left_over"}
        if band["verdict"] == "too_few":
            assert band["range_per_10_c"] is None
    assert main(["seasons", str(of_knot), "--units", "km"]) == 0
    assert capsys.readouterr().out.startswith("Knot")


def test_of_several_one_is_to_be_named(of_two, capsys):
    for command, option, name in (
        ("ageing", "pack", "Gannet-1"),
        ("seasons", "vehicle", "Whimbrel"),
    ):
        assert main([command, str(of_two)]) == 2
        assert f"say which with --{option} NAME" in capsys.readouterr().err
        assert main([command, str(of_two), f"--{option}", "Nobody"]) == 2
        assert "Nobody" in capsys.readouterr().err
        assert printed(capsys, command, str(of_two), f"--{option}", name, "--json")[option] == name


def test_a_folder_without_tests_is_refused(tmp_path, capsys):
    for command in ("ageing", "seasons"):
        assert main([command, str(tmp_path)]) == 2
        assert "names its" in capsys.readouterr().err
        assert main([command, str(tmp_path / "none")]) == 2
        assert "not a folder" in capsys.readouterr().err


@pytest.mark.parametrize(
    ("far", "used", "verdict"),
    [(-0.1, 0.08, "colder_less"), (0.1, None, "colder_more"), (None, 0.1, "colder_less"), (None, -0.1, "colder_more")],
)  # fmt: skip
def test_less_range_and_more_consumption_are_one_verdict(far, used, verdict):
    def band(change):
        if change is None:
            return None
        return SimpleNamespace(verdict="shown", change=SimpleNamespace(value=change))

    assert _verdict(band(far), band(used)) == verdict
