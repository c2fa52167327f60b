"""`./limpet forecast TRIP.json [--json]`: how far, how long, how sure."""

from __future__ import annotations

import argparse
from pathlib import Path

from limpet.cli.shared import guarded, print_json
from limpet.files.tripfile import read_trip
from limpet.forecast.answer import Forecast
from limpet.forecast.forecast import forecast


def run(arguments: list[str]) -> int:
    """Answer a trip file; returns the exit code."""
    parser = argparse.ArgumentParser(
        prog="limpet forecast", description="How far, how long, how sure."
    )
    parser.add_argument("trip", type=Path, metavar="TRIP.json")
    parser.add_argument("--json", action="store_true", help="print the answer as JSON")
    options = parser.parse_args(arguments)

    def work() -> None:
        read = read_trip(options.trip)
        answer = forecast(read.trip, read.route, read.notices)
        if options.json:
            print_json(answer.to_json())
        else:
            print(forecast_report(answer))

    return guarded(work)


def forecast_report(answer: Forecast) -> str:
    """The answer as lines of text, the first of them a sentence."""
    route, cutoff, reserve = answer.route, answer.range_to_cutoff, answer.range_to_reserve
    kept = f"{100 * answer.reserve:.0f} %"
    lines = [
        f"{100 * route.arrives_probability:.0f} % sure to ride {route.distance_m / 1000:.1f} km and "
        f"keep {kept}; {100 * route.reaches_probability:.0f} % sure to get there at all.",
        "",
        f"{'Consumption':<20}{answer.wh_per_mi.value:.1f} Wh/mi  (95 %: {answer.wh_per_mi.low:.1f} to "
        f"{answer.wh_per_mi.high:.1f}), {answer.wh_per_km.value:.1f} Wh/km",
        f"{'Range to cut-off':<20}{_km(cutoff.value)}  (95 %: {_km(cutoff.low)} to {_km(cutoff.high)})",
        f"{'Range to reserve':<20}{_km(reserve.value)}  (95 %: {_km(reserve.low)} to {_km(reserve.high)}; "
        f"{kept} kept)",
        f"{'On the way':<20}{route.duration_s.value / 60:.0f} min, {route.energy.value:.0f} Wh, "
        f"{100 * route.energy_left_fraction.value:.0f} % left",
    ]
    if answer.turn_point is not None:
        turn = answer.turn_point
        lines.append(
            f"{'Turn by':<20}{_km(turn.distance_m)}  ({100 * turn.probability:.0f} % sure to be back)"
        )
    if answer.slow_to is not None:
        slow = answer.slow_to
        lines.append(
            f"{'Slow to':<20}{slow.speed_mps * 3.6:.0f} km/h  ({100 * slow.probability:.0f} % sure)"
        )
    if answer.sensitivity:
        lines += ["", "What matters most (range to cut-off)"]
        for swing in answer.sensitivity[:6]:
            lines.append(
                f"  {swing.input:<24}{swing.from_value:.4g} to {swing.to_value:.4g}: "
                f"{_km(swing.range_low_m)} to {_km(swing.range_high_m)}"
            )
    if answer.warnings:
        lines += ["", "Notes", *(f"  - {notice.message}" for notice in answer.warnings)]
    return "\n".join(lines)


def _km(metres: float) -> str:
    return f"{metres / 1000:.1f} km"
