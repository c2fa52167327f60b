"""`./limpet compare BUNDLE BUNDLE… [--first NAME|N] [--question …] [--with FOLDER] [--json]`: which uses less, and whether it is shown."""

from __future__ import annotations

import argparse
from collections.abc import Sequence
from dataclasses import asdict
from pathlib import Path
from textwrap import wrap
from typing import get_args

from limpet.cli.shared import (
    add_teachers,
    add_units,
    bundles_in,
    guarded,
    print_json,
    reader_of,
)
from limpet.errors import LimpetError
from limpet.evidence.model import RangeTest
from limpet.files import read_bundle
from limpet.judge import Comparand, Comparison, Question, comparand_of, compare
from limpet.judge.sides import Sides, given, named, told_apart
from limpet.judge.terms import Terms, terms_of
from limpet.quantity import Quantity
from limpet.readers import ReaderUnits, in_unit
from limpet.tell import analyse
from limpet.words import FACTOR_WORDS

#: Characters of a line.
WIDTH = 96
#: Bundles of one comparison.
MOST_BUNDLES = 60


def run(arguments: list[str]) -> int:
    """Compare two bundles, or two groups of them; returns the exit code."""
    parser = argparse.ArgumentParser(
        prog="limpet compare",
        description="Which uses less energy, by how much, and is the difference real?",
    )
    parser.add_argument("bundles", type=Path, nargs="+", metavar="BUNDLE", help="folders or zips")
    parser.add_argument(
        "--first",
        default=None,
        metavar="NAME|N",
        help="the first side: a vehicle's, a pack's or a test's name, or so many of the bundles (else what differs)",
    )
    parser.add_argument(
        "--question",
        choices=get_args(Question),
        help="what differs on purpose (else it is read off)",
    )
    parser.add_argument("--json", action="store_true", help="print the answer as JSON")
    add_teachers(parser)
    add_units(parser)
    options = parser.parse_args(arguments)
    units = reader_of(options)

    def work() -> None:
        paths: list[Path] = options.bundles
        if not 2 <= len(paths) <= MOST_BUNDLES:
            raise LimpetError(f"give 2 to {MOST_BUNDLES} bundles; here are {len(paths)}")
        # A test goes by its place among the bundles, not by its path: what is drawn of it is the same in any folder.
        places: dict[Path, str] = {}
        for path in paths:
            places.setdefault(path.resolve(), f"bundle {len(places)}")
        tests = [(read_bundle(path), places[path.resolve()]) for path in paths]
        taught = [] if options.others is None else bundles_in(options.others, *paths)
        more = [(test, f"other {k}") for k, test in enumerate(taught)]
        others = _seen(more)
        sides = _dealt(_seen(tests), options.first, options.question, units)
        first, second = sides.first, sides.second
        answer = compare(first, second, options.question, others=others)
        terms = (
            None
            if answer.quantity is None
            else terms_of(first, second, question=answer.question, others=others)
        )
        if options.json:
            found = {"terms": None if terms is None else asdict(terms), "dealt_by": sides.by}
            print_json({**answer.to_json(), **found})
        else:
            said = sides.said(units)
            print("\n".join([*wrap(said, WIDTH), report(answer, units), *meaning(terms, units)]))

    return guarded(work)


def _dealt(
    tests: Sequence[Comparand], first: str | None, question: Question | None, units: ReaderUnits
) -> Sides:
    """Which side each of the bundles is on: as told, or where nobody tells, by what differs."""
    if first is not None:
        count = first.strip()
        return given(tests, int(count)) if count.lstrip("-").isdigit() else named(tests, first)
    return given(tests, 1) if len(tests) == 2 else told_apart(tests, question, units)


def _seen(tests: Sequence[tuple[RangeTest, str]]) -> list[Comparand]:
    """Tests with the keys that they go by, as comparisons see them."""
    return [comparand_of(test, analyse(test), key) for test, key in tests]


def report(answer: Comparison, units: ReaderUnits) -> str:
    """The answer as lines of text."""
    words = " ".join(notice.said(units) for notice in answer.reasons).replace("*", "")
    lines = [*wrap(words, WIDTH)]
    if answer.quantity is not None and answer.difference is not None:
        lines.append("")
        for run in answer.runs:
            side = "A" if run.side == "first" else "B"
            lines.append(
                f"{side}  {run.title[:40]:<42}{_figure(run.as_found, answer, units)}"
                f"   adjusted {_figure(run.carried, answer, units)}"
            )
        for change in answer.corrections:
            side = "A" if change.applied_to == "first" else "B"
            lines.append(
                f"{side}  {FACTOR_WORDS[change.name]:<42}{_signed(change.change, answer, units)}"
            )
    for notice in answer.warnings:
        lines += wrap(notice.said(units), WIDTH, initial_indent="- ", subsequent_indent="  ")
    return "\n".join(lines)


def meaning(terms: Terms | None, units: ReaderUnits) -> list[str]:
    """Both sides in a rider's terms, as lines of text."""
    if terms is None:
        return []

    def line(name: str, one: str, two: str) -> str:
        return f"{name:<40}{one:>12}{two:>12}"

    def far(metres: float | None) -> str:
        if metres is None:
            return "-"
        return f"{in_unit('distance', metres, units.distance):.1f} {units.distance}"

    sides = terms.first, terms.second
    told = [
        ("range to cut-off, a typical ride", [far(side.range_m) for side in sides]),
        ("bad day: 19 rides in 20 go further", [far(side.floor_m) for side in sides]),
        ("good day: 1 ride in 20 goes further", [far(side.best_m) for side in sides]),
        (
            f"plan on: the bad day, {100 * terms.reserve:.0f}% kept",
            [far(side.plan_on_m) for side in sides],
        ),
    ]
    if terms.lap_m is not None:
        told.append((f"laps of {far(terms.lap_m)}", [f"{side.laps or 0:.1f}" for side in sides]))
    lines = ["", line("At the conditions of the first:", "A", "B")]
    return lines + [line(name, *figures) for name, figures in told]


def _scale(answer: Comparison, units: ReaderUnits) -> tuple[float, str, int]:
    """What a figure is multiplied by to be read, its unit and decimals."""
    if answer.quantity == "wh_per_km":
        return (1 / in_unit("distance", 1000.0, units.distance), f"Wh/{units.distance}", 1)
    if answer.quantity == "range_to_cutoff":
        return (in_unit("distance", 1.0, units.distance), units.distance, 1)
    return 100.0, "%", 0


def _apart(unit: str) -> str:
    """A unit as it stands behind its number: percent close, every other a space away."""
    return unit if unit == "%" else f" {unit}"


def _figure(found: Quantity, answer: Comparison, units: ReaderUnits) -> str:
    factor, unit, decimals = _scale(answer, units)
    half = (found.high - found.low) / 2 * factor
    return f"{found.value * factor:.{decimals}f} ±{half:.{decimals}f}{_apart(unit)}"


def _signed(found: Quantity, answer: Comparison, units: ReaderUnits) -> str:
    factor, unit, decimals = _scale(answer, units)
    half = (found.high - found.low) / 2 * factor
    return f"{found.value * factor:+.{decimals}f} ±{half:.{decimals}f}{_apart(unit)}"
