"""`./limpet ageing FOLDER [--pack NAME] [--json] [--units km]`: what a pack lost over its tests."""

from __future__ import annotations

import argparse
from collections.abc import Sequence
from dataclasses import replace
from datetime import UTC, datetime
from pathlib import Path
from textwrap import wrap
from typing import Any

from limpet.cli.kit_folder import tests_of
from limpet.cli.shared import add_units, guarded, print_json, reader_of
from limpet.evidence.model import RangeTest
from limpet.history import facts_of
from limpet.history.dated import Dated
from limpet.history.packlife import PackLife, WornAt, pack_life
from limpet.judge import comparand_of
from limpet.judge.ranges import ranges_at_first
from limpet.quantity import Quantity
from limpet.readers import ReaderUnits, shown
from limpet.tell import analyse

WIDTH = 96


def run(arguments: list[str]) -> int:
    """Print what the tests in a folder say of one pack's life; returns the exit code."""
    parser = argparse.ArgumentParser(
        prog="limpet ageing",
        description="What a pack has lost over its tests, and when it will be worn.",
    )
    parser.add_argument("folder", type=Path, metavar="FOLDER")
    parser.add_argument("--pack", metavar="NAME", help="which, where the folder holds several")
    parser.add_argument("--json", action="store_true", help="print it as JSON")
    add_units(parser)
    options = parser.parse_args(arguments)

    def work() -> None:
        name, tests = tests_of(
            options.folder, options.pack, "pack", lambda test: test.sheet.pack.name
        )
        life = _life(tests)
        if options.json:
            print_json(answer(name, life))
        else:
            print(report(name, life, reader_of(options)))

    return guarded(work)


def _life(tests: Sequence[RangeTest]) -> PackLife:
    results = [(test, analyse(test), f"test {number}") for number, test in enumerate(tests)]
    ranges = ranges_at_first([comparand_of(*item) for item in results])
    dated = []
    for test, result, key in results:
        assert test.sheet.started_at is not None
        one = Dated(key=key, at=test.sheet.started_at, facts=facts_of(test, result))
        dated.append(replace(one, range_m=ranges.get(key)))
    return pack_life(dated, tests[0].sheet.pack.rated_ah, datetime.now(UTC))


def answer(name: str, life: PackLife) -> dict[str, Any]:
    """The object of docs/formats/ageing.md."""
    at_efc = {point.title: point.cycles for point in life.points}
    shape = "step" if life.step is not None else "line" if life.falls else "none_shown"
    again = next((item for item in life.again if item.code in ("again_in", "again_now")), None)
    months = None if again is None else again.values["months"] if again.code == "again_in" else 0
    notices = [*([life.left] if life.left is not None else []), *life.again]
    return {
        "limpet_ageing": 1,
        "pack": name,
        "tests": [
            {
                "title": point.title,
                "months": point.months,
                "efc": point.cycles,
                "retained_fraction": _json(point.retained_fraction),
                "retained_at_25c": _json(point.retained_at_25c),
                "range_to_cutoff": _json(point.range_m),
            }
            for point in life.points
        ],
        "trend": {
            "shape": shape,
            "per_100_efc": _json(life.per_100_cycles),
            "step_at_efc": None if life.step is None else at_efc.get(life.step.after),
        },
        "crosses_80": _crossing(life.ends, 0.8),
        "crosses_70": _crossing(life.ends, 0.7),
        "test_again_in_months": months,
        "warnings": [notice.to_json() for notice in notices],
    }


def _crossing(ends: Sequence[WornAt], share: float) -> dict[str, Any] | None:
    found = next((end for end in ends if end.share == share), None)
    if found is None:
        return None
    return {
        "efc": _json(found.cycles),
        "months": _json(found.months),
        "range_to_cutoff": _json(found.range_m),
    }


def _json(found: Quantity | None) -> Any:
    return None if found is None else found.to_json()


def report(name: str, life: PackLife, units: ReaderUnits) -> str:
    """The same as lines of text."""
    words = [*([life.left] if life.left is not None else []), *life.again]
    lines = wrap(" ".join(item.said(units) for item in words).replace("*", ""), WIDTH)
    head = f"{'test':<38}{'months':>8}{'cycles':>8}{'as ridden':>14}{'at 25 °C':>14}{'range':>14}"
    lines = [name, "", *lines, "", head]
    for point in life.points:
        cycles = "-" if point.cycles is None else f"{point.cycles:.0f}"
        far = "-" if point.range_m is None else shown("distance", point.range_m.value, units)
        lines.append(
            f"{point.title[:36]:<38}{point.months:>8.1f}{cycles:>8}"
            f"{_share(point.retained_fraction):>14}{_share(point.retained_at_25c):>14}{far:>14}"
        )
    return "\n".join(lines)


def _share(found: Quantity | None) -> str:
    if found is None:
        return "-"
    return f"{100 * found.value:.0f}% ±{50 * (found.high - found.low):.0f}"
