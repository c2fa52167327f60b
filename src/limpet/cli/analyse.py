"""`./limpet analyse BUNDLE [--json] [--units km]`: what a test bundle means, or a stranger's log.

`./limpet analyse LOG.csv --pack '13s 14Ah NMC' [--mapping MAP.json] [--track RIDE.gpx]` reads any logger's table.
"""

from __future__ import annotations

import argparse
from pathlib import Path
from textwrap import wrap

from limpet.cli.log import add_log_options, read_any
from limpet.cli.shared import add_teachers, add_units, guarded, print_json, reader_of, taught_by
from limpet.figures.gauge_habits import MOST_STEPS as PERCENT
from limpet.figures.plan_on import PlanOn
from limpet.quantity import Quantity
from limpet.readers import ReaderUnits, in_unit, shown
from limpet.tell import Result, analyse

#: Characters of a line of the verdict.
WIDTH = 96
#: Steps of a gauge that are printed.
MOST_LINES = 21


def run(arguments: list[str]) -> int:
    """Read a bundle and print its result; returns the exit code."""
    parser = argparse.ArgumentParser(
        prog="limpet analyse", description="Read a test bundle and print what it means."
    )
    parser.add_argument("bundle", type=Path, help="a bundle's folder or zip, or any logger's table")
    add_log_options(parser)
    parser.add_argument("--json", action="store_true", help="print the result as JSON")
    add_teachers(parser)
    add_units(parser)
    options = parser.parse_args(arguments)
    units = reader_of(options)

    def work() -> None:
        test = read_any(options)
        result = analyse(test, taught_by(options, test))
        if options.json:
            print_json(result.to_json())
        else:
            print(report(test.sheet.title, result, units))

    return guarded(work)


def report(title: str, result: Result, units: ReaderUnits) -> str:
    """The result as lines of text."""
    verdict = " ".join(notice.said(units) for notice in result.verdict).replace("*", "")
    lines = [title, "", *wrap(verdict, WIDTH), ""]
    mile_or_km = units.distance
    per_metre = in_unit("distance", 1.0, mile_or_km)
    if result.consumption is not None:
        per_mi = ("Wh/mi", result.consumption.wh_per_mi)
        per_km = ("Wh/km", result.consumption.wh_per_km)
        first, second = (per_mi, per_km) if mile_or_km == "mi" else (per_km, per_mi)
        lines.append(_line("Consumption", first[1], 1, first[0]))
        lines.append(_line("", second[1], 1, second[0]))

    def way(quantity: Quantity | None) -> Quantity | None:
        return None if quantity is None else quantity.scaled(per_metre, mile_or_km)

    lines += [
        _line("Energy", result.energy, 1, "Wh"),
        _line("Distance", way(result.distance), 2, mile_or_km),
        _line("Range to cut-off", way(result.range_to_cutoff), 1, mile_or_km),
        _line("Range to reserve", way(result.range_to_reserve), 1, mile_or_km)
        + (f"  ({100 * result.reserve:.0f}% kept)" if result.range_to_reserve else ""),
    ]
    if result.plan_on is not None:
        kept = result.plan_on.distance_m * per_metre
        lines.append(
            f"{'Plan on':<20}{kept:.1f} {mile_or_km}  (19 rides in 20 go at least this far)"
        )
        lines += _clauses(result.plan_on, units)
    for heading, methods, unit, factor in (
        ("Energy by", result.energy_methods, "Wh", 1.0),
        ("Distance by", result.distance_methods, mile_or_km, per_metre),
    ):
        lines += ["", heading]
        for method in methods:
            mark = "used" if method.used else "agrees" if method.agrees else "DISAGREES"
            quantity = method.quantity.scaled(factor, unit)
            lines.append(_line(f"  {method.method}", quantity, 2, unit) + f"  {mark}")
    lines += _gauge(result, units)
    if result.advice:
        lines += ["", "How to get a better answer"]
        lines += [f"  - {item.notice.said(units)}" for item in result.advice]
    if result.warnings:
        lines += ["", "Notes"]
        lines += [f"  - {warning.said(units)}" for warning in result.warnings]
    return "\n".join(lines)


def _clauses(plan: PlanOn, units: ReaderUnits) -> list[str]:
    """What the promise is for, and what to plan on in other weather."""
    if plan.temp_c is None:
        return []

    def warmth(temp_c: float) -> str:
        return f"{in_unit('temperature', temp_c, units.temperature):.0f} {units.temperature}"

    span = f"{warmth(plan.temp_c - plan.within_c)} to {warmth(plan.temp_c + plan.within_c)}"
    assumed = ", air assumed" if plan.temp_assumed else ""
    charges = (
        "" if plan.cycles is None else f" or {plan.cycles:.0f} full charges, whichever comes first"
    )
    until = f"{plan.months:.0f} months{charges}"
    rows = [
        f"{in_unit('distance', row.distance_m, units.distance):.1f} at {warmth(row.temp_c)}"
        for row in plan.in_weather
    ]
    return [f"{'':<20}from {span}{assumed}, for {until}", f"{'':<20}{', '.join(rows)}"]


def _gauge(result: Result, units: ReaderUnits) -> list[str]:
    """What the gauge meant, over all tests where others teach it, and how it behaves."""
    full = result.gauge_full
    over = len({title for step in result.gauge_pooled or () for title in step.tests})
    told = [(step.shown, step.energy_left_fraction) for step in result.gauge_pooled or ()] or [
        (step.shown / full, step.energy_left_fraction) for step in result.gauge_truth or ()
    ]
    lines = []
    if told:
        head = f"What the gauge meant{f', over {over} tests' if over > 1 else ''}"
        lines += ["", head]
        for share, left in told[:MOST_LINES]:
            label = f"{100 * share:.0f}%" if full > PERCENT else f"{share * full:.0f} of {full:.0f}"
            lines.append(
                f"  {label:<18}{100 * left.value:.0f}% left  "
                f"(95%: {100 * left.low:.0f} to {100 * left.high:.0f})"
            )
    habits = result.gauge_habits
    if habits is not None:
        for words, metres in (
            ("First step", habits.first_step_m),
            ("Last step", habits.last_step_m),
            ("A percent, above half", habits.upper_m_per_percent),
            ("A percent, below half", habits.lower_m_per_percent),
        ):
            if metres is not None:
                lines.append(f"  {words + ' lasted':<32}{shown('distance', metres, units, 1)}")
        if habits.rebound is not None:
            lines.append(f"  Rose by {100 * habits.rebound:.0f}% of full while standing")
    return lines


def _line(label: str, quantity: Quantity | None, digits: int, unit: str) -> str:
    if quantity is None:
        return f"{label:<20}not known"
    spread = f"{quantity.low:.{digits}f} to {quantity.high:.{digits}f}"
    return f"{label:<20}{quantity.value:.{digits}f} {unit}  (95%: {spread})"
