"""`./limpet forecast TRIP.json [--json] [--units km]`: how far, how long, how sure."""

from __future__ import annotations

import argparse
from pathlib import Path
from typing import cast

from limpet.cli.shared import add_teachers, add_units, guarded, print_json, reader_of, taught_trip
from limpet.files.tripfile import read_trip
from limpet.outlook.answer import Forecast, Swing
from limpet.outlook.forecast import forecast
from limpet.readers import ReaderUnits, chance, shown
from limpet.units import Kind
from limpet.words import INPUTS


def run(arguments: list[str]) -> int:
    """Answer a trip file; returns the exit code."""
    parser = argparse.ArgumentParser(
        prog="limpet forecast", description="How far, how long, how sure."
    )
    parser.add_argument("trip", type=Path, metavar="TRIP.json")
    parser.add_argument("--json", action="store_true", help="print the answer as JSON")
    add_teachers(parser)
    add_units(parser)
    options = parser.parse_args(arguments)
    units = reader_of(options)

    def work() -> None:
        read = read_trip(options.trip)
        answer = forecast(taught_trip(options, read.trip), read.route, read.notices)
        if options.json:
            print_json(answer.to_json())
        else:
            print(forecast_report(answer, units))

    return guarded(work)


def forecast_report(answer: Forecast, units: ReaderUnits) -> str:
    """The answer as lines of text, the first of them a sentence."""
    route, cutoff, reserve = answer.route, answer.range_to_cutoff, answer.range_to_reserve
    kept = f"{100 * answer.reserve:.0f}%"
    used, other = answer.wh_per_mi, answer.wh_per_km
    if units.distance == "km":
        used, other = other, used

    def way(metres: float) -> str:
        return shown("distance", metres, units)

    lines = [
        f"{chance(100 * route.arrives_probability)}% sure to ride {way(route.distance_m)} and "
        f"keep {kept}; {chance(100 * route.reaches_probability)}% sure to get there at all.",
        "",
        f"{'Consumption':<20}{used.value:.1f} {used.unit}  (95%: {used.low:.1f} to {used.high:.1f}), "
        f"{other.value:.1f} {other.unit}",
        f"{'Range to cut-off':<20}{way(cutoff.value)}  (95%: {way(cutoff.low)} to {way(cutoff.high)})",
        f"{'Range to reserve':<20}{way(reserve.value)}  (95%: {way(reserve.low)} to {way(reserve.high)}; "
        f"{kept} kept)",
        f"{'On the way':<20}{route.duration_s.value / 60:.0f} min, {route.energy.value:.0f} Wh, "
        f"{100 * route.energy_left_fraction.value:.0f}% left",
    ]
    if answer.turn_point is not None:
        turn = answer.turn_point
        lines.append(
            f"{'Turn by':<20}{way(turn.distance_m)}  ({chance(100 * turn.probability)}% sure to be back)"
        )
    if answer.slow_to is not None:
        slow = answer.slow_to
        speed = shown("speed", slow.speed_mps, units)
        lines.append(f"{'Slow to':<20}{speed}  ({chance(100 * slow.probability)}% sure)")
    if answer.sensitivity:
        lines += ["", "What matters most (range to cut-off)"]
        for swing in answer.sensitivity[:6]:
            label, kind = INPUTS.get(swing.input, (swing.input, None))
            lines.append(
                f"  {label:<20}{_span(swing, kind, units):<22}"
                f"{way(swing.range_low_m)} to {way(swing.range_high_m)}"
            )
    if answer.warnings:
        lines += ["", "Notes", *(f"  - {notice.said(units)}" for notice in answer.warnings)]
    return "\n".join(lines)


def _span(swing: Swing, kind: str | None, units: ReaderUnits) -> str:
    """What an input was swung over, in the reader's units."""
    low, high = swing.from_value, swing.to_value
    if swing.input.endswith("_factor"):
        return f"{low:g} to {high:g} times"
    if kind == "percent":
        return f"{100 * low:.0f} to {100 * high:.0f}%"
    if kind is None:
        return f"{low:.3g} to {high:.3g}"
    return f"{shown(cast(Kind, kind), low, units)} to {shown(cast(Kind, kind), high, units)}"
