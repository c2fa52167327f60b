"""`./limpet analyse BUNDLE [--json]`: what a test bundle means."""

from __future__ import annotations

import argparse
from pathlib import Path

from limpet.cli.shared import guarded, print_json
from limpet.files import read_bundle
from limpet.quantity import Quantity
from limpet.result import Result, analyse
from limpet.units import METRES_PER_MILE


def run(arguments: list[str]) -> int:
    """Read a bundle and print its result; returns the exit code."""
    parser = argparse.ArgumentParser(
        prog="limpet analyse", description="Read a test bundle and print what it means."
    )
    parser.add_argument("bundle", type=Path, help="a bundle's folder or zip")
    parser.add_argument("--json", action="store_true", help="print the result as JSON")
    options = parser.parse_args(arguments)

    def work() -> None:
        test = read_bundle(options.bundle)
        result = analyse(test)
        if options.json:
            print_json(result.to_json())
        else:
            print(report(test.sheet.title, result))

    return guarded(work)


def report(title: str, result: Result) -> str:
    """The result as lines of text."""
    lines = [title, ""]
    if result.consumption is not None:
        lines.append(_line("Consumption", result.consumption.wh_per_mi, 1, "Wh/mi"))
        lines.append(_line("", result.consumption.wh_per_km, 1, "Wh/km"))
    lines += [
        _line("Energy", result.energy, 1, "Wh"),
        _line("Distance", _miles(result.distance), 2, "mi"),
        _line("Range to cut-off", _miles(result.range_to_cutoff), 1, "mi"),
        _line("Range to reserve", _miles(result.range_to_reserve), 1, "mi")
        + (f"  ({100 * result.reserve:.0f} % kept)" if result.range_to_reserve else ""),
    ]
    for heading, methods, unit, factor in (
        ("Energy by", result.energy_methods, "Wh", 1.0),
        ("Distance by", result.distance_methods, "mi", 1 / METRES_PER_MILE),
    ):
        lines += ["", heading]
        for method in methods:
            mark = "used" if method.used else "agrees" if method.agrees else "DISAGREES"
            quantity = method.quantity.scaled(factor, unit)
            lines.append(_line(f"  {method.method}", quantity, 2, unit) + f"  {mark}")
    if result.warnings:
        lines += ["", "Notes"]
        lines += [f"  - {warning.message}" for warning in result.warnings]
    return "\n".join(lines)


def _miles(quantity: Quantity | None) -> Quantity | None:
    return None if quantity is None else quantity.scaled(1 / METRES_PER_MILE, "mi")


def _line(label: str, quantity: Quantity | None, digits: int, unit: str) -> str:
    if quantity is None:
        return f"{label:<20}not known"
    spread = f"{quantity.low:.{digits}f} to {quantity.high:.{digits}f}"
    return f"{label:<20}{quantity.value:.{digits}f} {unit}  (95 %: {spread})"
