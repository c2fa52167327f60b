"""What a command loads before it answers: a guard against slowness that needs no clock."""

import json
import subprocess
import sys
from pathlib import Path

import pytest

ROOT = Path(__file__).resolve().parents[2]
PROGRAM = """
import io, json, sys
from contextlib import redirect_stdout
from limpet.cli import main
with redirect_stdout(io.StringIO()):
    assert main(sys.argv[1:]) == 0
print(json.dumps(sorted(sys.modules)))
"""


def loaded(*arguments):
    command = [sys.executable, "-c", PROGRAM, *arguments]
    told = subprocess.run(command, cwd=ROOT, check=True, capture_output=True, text=True)
    return json.loads(told.stdout)


def of(room, modules):
    return [name for name in modules if name == room or name.startswith(f"{room}.")]


@pytest.mark.parametrize(
    ("arguments", "idle"),
    [
        # Notes alone need no table, and one test no other.
        (["analyse", "docs/examples/ride", "--json"],
         ["polars", "scipy", "PIL", "gpxpy", "pyproj", "limpet.trip", "limpet.drive", "limpet.history",
          "limpet.fitting", "limpet.outlook", "limpet.under_way", "limpet.judge", "limpet.practice"]),
        (["forecast", "docs/examples/trip.json", "--json"],
         ["polars", "scipy", "PIL", "limpet.tell", "limpet.figures", "limpet.history", "limpet.judge"]),
        (["claim", "docs/examples/claim.json", "--json"], ["polars", "scipy", "pyproj", "gpxpy", "limpet.judge"]),
        (["follow", "docs/examples/ride", "--json"], ["polars", "PIL", "limpet.judge", "limpet.practice"]),
    ],
)  # fmt: skip
def test_a_command_loads_what_its_question_needs(arguments, idle):
    modules = loaded(*arguments)
    assert {room: of(room, modules) for room in idle} == {room: [] for room in idle}


def test_importing_the_library_loads_nothing_yet():
    told = subprocess.run(
        [sys.executable, "-c", "import sys, limpet; print(len([n for n in sys.modules if n.startswith('limpet')]))"],
        cwd=ROOT, env={"PYTHONPATH": str(ROOT / "src")}, check=True, capture_output=True, text=True,
    )  # fmt: skip
    assert told.stdout.strip() == "1"
