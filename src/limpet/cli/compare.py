"""`./limpet compare BUNDLE BUNDLE… [--first N] [--question …] [--json]`: which uses less, and whether it is shown."""

from __future__ import annotations

import argparse
from pathlib import Path
from textwrap import wrap
from typing import get_args

from limpet.cli.shared import add_units, guarded, print_json, reader_of
from limpet.errors import LimpetError
from limpet.files import read_bundle
from limpet.judge import Comparison, Question, Seen, compare, seen_of
from limpet.quantity import Quantity
from limpet.readers import ReaderUnits, in_unit
from limpet.result import analyse
from limpet.words import FACTOR_WORDS

#: Characters of a line.
WIDTH = 96
#: Bundles of one comparison.
MOST_BUNDLES = 60


def run(arguments: list[str]) -> int:
    """Compare the first bundle, or the first few, with the others; returns the exit code."""
    parser = argparse.ArgumentParser(
        prog="limpet compare", description="Which uses less, by how much, and is it real?"
    )
    parser.add_argument("bundles", type=Path, nargs="+", metavar="BUNDLE", help="folders or zips")
    parser.add_argument(
        "--first",
        type=int,
        default=None,
        metavar="N",
        help="so many of the bundles are the first side (half of them unless said; one of two)",
    )
    parser.add_argument(
        "--question",
        choices=get_args(Question),
        help="what differs on purpose (else it is read off)",
    )
    parser.add_argument("--json", action="store_true", help="print the answer as JSON")
    add_units(parser)
    options = parser.parse_args(arguments)
    units = reader_of(options)

    def work() -> None:
        paths: list[Path] = options.bundles
        if not 2 <= len(paths) <= MOST_BUNDLES:
            raise LimpetError(f"give 2 to {MOST_BUNDLES} bundles; here are {len(paths)}")
        count = len(paths) // 2 if options.first is None else options.first
        if not 1 <= count < len(paths):
            raise LimpetError(f"--first {count}: leave at least one bundle for each side")
        seen = [_seen(path) for path in paths]
        answer = compare(seen[:count], seen[count:], options.question)
        if options.json:
            print_json(answer.to_json())
        else:
            print(report(answer, units))

    return guarded(work)


def _seen(path: Path) -> Seen:
    test = read_bundle(path)
    return seen_of(test, analyse(test), str(path.resolve()))


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
                f"   set right {_figure(run.carried, answer, units)}"
            )
        for change in answer.corrections:
            side = "A" if change.applied_to == "first" else "B"
            lines.append(
                f"{side}  {FACTOR_WORDS[change.name]:<42}{_signed(change.change, answer, units)}"
            )
    for notice in answer.warnings:
        lines += wrap(notice.said(units), WIDTH, initial_indent="- ", subsequent_indent="  ")
    return "\n".join(lines)


def _scale(answer: Comparison, units: ReaderUnits) -> tuple[float, str, int]:
    """What a figure is multiplied by to be read, its unit and decimals."""
    if answer.quantity == "wh_per_km":
        return (1 / in_unit("distance", 1000.0, units.distance), f"Wh/{units.distance}", 1)
    if answer.quantity == "range_to_cutoff":
        return (in_unit("distance", 1.0, units.distance), units.distance, 1)
    return 100.0, "%", 0


def _figure(found: Quantity, answer: Comparison, units: ReaderUnits) -> str:
    factor, unit, decimals = _scale(answer, units)
    half = (found.high - found.low) / 2 * factor
    return f"{found.value * factor:.{decimals}f} ± {half:.{decimals}f} {unit}"


def _signed(found: Quantity, answer: Comparison, units: ReaderUnits) -> str:
    factor, unit, decimals = _scale(answer, units)
    half = (found.high - found.low) / 2 * factor
    return f"{found.value * factor:+.{decimals}f} ± {half:.{decimals}f} {unit}"
