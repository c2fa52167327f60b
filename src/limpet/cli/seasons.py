"""`./limpet seasons FOLDER [--vehicle NAME] [--json] [--units km]`: what the cold does to a vehicle."""

from __future__ import annotations

import argparse
from collections.abc import Sequence
from pathlib import Path
from textwrap import wrap
from typing import Any

from limpet.cli.kit_folder import tests_of
from limpet.cli.shared import add_units, guarded, print_json, reader_of
from limpet.judge import comparand_of
from limpet.judge.seasons import SeasonBand, Seasons, seasons
from limpet.quantity import Quantity
from limpet.readers import ReaderUnits
from limpet.tell import analyse

WIDTH = 96
#: The parts as the format names them.
_PARTS = {"left": "left_over"}


def run(arguments: list[str]) -> int:
    """Print what the cold does to one vehicle, by the tests in a folder; returns the exit code."""
    parser = argparse.ArgumentParser(
        prog="limpet seasons", description="Range and consumption against temperature, by speed."
    )
    parser.add_argument("folder", type=Path, metavar="FOLDER")
    parser.add_argument("--vehicle", metavar="NAME", help="which, where the folder holds several")
    parser.add_argument("--json", action="store_true", help="print it as JSON")
    add_units(parser)
    options = parser.parse_args(arguments)

    def work() -> None:
        name, tests = tests_of(
            options.folder, options.vehicle, "vehicle", lambda test: test.sheet.vehicle.name
        )
        seen = [comparand_of(test, analyse(test), f"test {k}") for k, test in enumerate(tests)]
        found = seasons(seen)
        if options.json:
            print_json(answer(name, found))
        else:
            print(report(name, found, reader_of(options)))

    return guarded(work)


def answer(name: str, found: Seasons) -> dict[str, Any]:
    """The object of docs/formats/seasons.md."""
    return {
        "limpet_seasons": 1,
        "vehicle": name,
        "bands": [_band(far, used) for far, used in _paired(found.bands)],
        "left_out": found.left_out,
        "unlike": list(found.unlike),
        "warnings": [notice.to_json() for notice in found.warnings],
    }


def _paired(
    bands: Sequence[SeasonBand],
) -> list[tuple[SeasonBand | None, SeasonBand | None]]:
    """Bands of range and of consumption of one speed, side by side, slowest first."""
    far = [band for band in bands if band.quantity == "range_to_cutoff"]
    used = [band for band in bands if band.quantity == "wh_per_km"]
    pairs: list[tuple[SeasonBand | None, SeasonBand | None]] = []
    for band in far:
        beside = next((item for item in used if _overlap(band, item)), None)
        if beside is not None:
            used.remove(beside)
        pairs.append((band, beside))
    pairs += [(None, band) for band in used]
    return sorted(pairs, key=lambda pair: min(band.from_mps for band in pair if band is not None))


def _overlap(one: SeasonBand, other: SeasonBand) -> bool:
    return one.from_mps <= other.to_mps and other.from_mps <= one.to_mps


def _band(far: SeasonBand | None, used: SeasonBand | None) -> dict[str, Any]:
    first = far if far is not None else used
    assert first is not None
    return {
        "from_mps": first.from_mps,
        "to_mps": first.to_mps,
        "tests": len(first.points),
        "verdict": _verdict(far, used),
        "range_per_10_c": _change(far),
        "wh_per_km_per_10_c": _change(used),
        "parts": [
            {"name": _PARTS.get(part.name, part.name), "relative": part.change.to_json()}
            for part in first.parts
        ],
        "smallest_seen": first.smallest_seen,
    }


def _verdict(far: SeasonBand | None, used: SeasonBand | None) -> str:
    """By range where it is told, else by consumption: more of that is less of range."""
    band = far if far is not None else used
    assert band is not None
    if band.verdict != "shown" or band.change is None:
        return "no_difference_shown" if band.verdict == "no_difference_shown" else "too_few"
    less = (band.change.value < 0) is (far is not None)
    return "colder_less" if less else "colder_more"


def _change(band: SeasonBand | None) -> Any:
    found: Quantity | None = None if band is None else band.change
    return None if found is None else found.to_json()


def report(name: str, found: Seasons, units: ReaderUnits) -> str:
    """The same as lines of text."""
    lines = [name, ""]
    for band in found.bands:
        lines += wrap(band.said.said(units).replace("*", ""), WIDTH)
    if not found.bands:
        lines.append("None of its tests gives both a speed and an air temperature.")
    for notice in found.warnings:
        lines += wrap(notice.said(units), WIDTH, initial_indent="- ", subsequent_indent="  ")
    return "\n".join(lines)
