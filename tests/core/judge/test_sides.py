"""Tests that nobody dealt stand on the side that what differs puts them on, or the command refuses."""

from __future__ import annotations

import json

import pytest

from demo.skerrow import ridden
from limpet.cli import main
from limpet.errors import LimpetError
from limpet.files import write_zip
from limpet.judge.sides import given, named, told_apart
from limpet.readers import METRIC, ReaderUnits
from tests.core.judge.kit import seen

MILES = ReaderUnits(distance="mi", mass="lb", temperature="°F", pressure="psi")


def keys(side):
    return "".join(test.key for test in side)


def test_rides_in_turns_are_dealt_by_their_vehicle_whatever_their_order():
    """A B B A by its place in the line was {A, B} against {B, A}: a difference of 10% came out as −3."""
    tests = [seen("a"), seen("b", vehicle="Ruff"), seen("c", vehicle="Ruff"), seen("d")]
    sides = told_apart(tests, None)
    assert (keys(sides.first), keys(sides.second), sides.by) == ("ad", "bc", "vehicle")
    assert sides.said(METRIC) == "A is Plover, 2 rides; B is Ruff, 2 rides."


def test_the_kit_comes_before_how_it_was_ridden_and_weather_deals_nothing():
    packs = [seen("a", tyre_kpa=200.0), seen("b", pack_name="Dunlin", tyre_kpa=300.0), seen("c", tyre_kpa=300.0)]  # fmt: skip
    assert told_apart(packs, None).by == "pack"
    tyres = [seen("a", tyre_kpa=200.0), seen("b", tyre_kpa=300.0), seen("c", tyre_kpa=205.0)]
    sides = told_apart(tyres, None)
    assert (keys(sides.first), keys(sides.second), sides.by) == ("ac", "b", "tyres")
    assert "about 30 psi" in sides.said(MILES)
    weather = [seen("a", wind_mps=1.0, temp_c=2.0), seen("b", wind_mps=8.0, temp_c=30.0), seen("c")]
    with pytest.raises(LimpetError, match="nothing tells these 3 bundles apart"):
        told_apart(weather, None)


def test_a_question_deals_by_what_it_asks_and_by_nothing_else():
    tests = [seen("a", wind_mps=8.0), seen("b", vehicle="Ruff", wind_mps=8.2), seen("c", wind_mps=1.0)]  # fmt: skip
    sides = told_apart(tests, "wind")
    assert (keys(sides.first), keys(sides.second)) == ("ab", "c")
    with pytest.raises(LimpetError, match="nothing tells"):
        told_apart([seen("a"), seen("b"), seen("c")], "repeat")
    unsaid = [seen("a", wind_mps=8.0), seen("b", wind_mps=None), seen("c", wind_mps=1.0)]
    with pytest.raises(LimpetError, match="nothing tells"):
        told_apart(unsaid, "wind")


def test_three_vehicles_are_not_two_sides():
    tests = [seen("a"), seen("b", vehicle="Ruff"), seen("c", vehicle="Dotterel")]
    with pytest.raises(
        LimpetError, match=r"more than two kinds \(vehicle: Plover, Ruff, Dotterel\)"
    ):
        told_apart(tests, None)
    sides = named(tests, " ruff")
    assert (keys(sides.first), keys(sides.second), sides.by) == ("b", "ac", "name")
    assert sides.said(METRIC) == "A is ruff, 1 ride; B is the others, 2 rides."


def test_a_name_is_a_vehicles_a_packs_or_a_tests_and_none_of_all():
    tests = [seen("a"), seen("b", pack_name="Dunlin"), seen("c")]
    assert keys(named(tests, "Dunlin").first) == "b"
    assert keys(named(tests, "Ride c").first) == "c"
    for name in ("Plover", "nobody"):
        with pytest.raises(
            LimpetError, match="no side is called so; there is Dunlin, Eider, Plover"
        ):
            named(tests, name)


def test_so_many_are_the_first_as_they_were_given():
    tests = [seen("a"), seen("b"), seen("c")]
    sides = given(tests, 2)
    assert (keys(sides.first), keys(sides.second), sides.said(METRIC)) == ("ab", "c", "")
    for count in (0, 3, -1):
        with pytest.raises(LimpetError, match="leave at least one bundle for each side"):
            given(tests, count)


def test_the_command_deals_rides_in_turns_and_says_how(tmp_path, capsys):
    """The demo's two motors on ten laps, A B B A: as the two sides that they are."""
    tests = [ridden(f"ruff-{turn}") for turn in ("hub-1", "geared-1", "geared-2", "hub-2")]
    one, two, again, back = tests
    paths = []
    for number, test in enumerate(tests):
        paths.append(str(tmp_path / f"{number}.zip"))
        (tmp_path / f"{number}.zip").write_bytes(write_zip(test))
    assert main(["compare", *paths, "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert told["dealt_by"] == "vehicle"
    sides = {run["title"]: run["side"] for run in told["runs"]}
    assert sides[one.sheet.title] == sides[back.sheet.title] == "first"
    assert sides[two.sheet.title] == sides[again.sheet.title] == "second"
    assert main(["compare", *paths, "--first", two.sheet.vehicle.name]) == 0
    words = capsys.readouterr().out
    assert words.startswith(f"A is {two.sheet.vehicle.name}, 2 rides; B is the others, 2 rides.")
    assert main(["compare", paths[0], paths[3], paths[0]]) == 2
    assert "--first NAME" in capsys.readouterr().err
