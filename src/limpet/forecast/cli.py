"""`./limpet forecast`, `claim` and `size`: the same core functions that serve the screens."""

from __future__ import annotations

import argparse
import json
import sys
from pathlib import Path
from typing import Any

from limpet.errors import BundleError, LimpetError
from limpet.forecast.answer import Forecast
from limpet.forecast.claim import ClaimQuestion, check_claim, claim_faults
from limpet.forecast.forecast import forecast
from limpet.forecast.size import Cell, cell_faults, size_pack
from limpet.forecast.tripfile import read_file, read_trip

REFUSED = 2


def forecast_command(arguments: list[str]) -> int:
    """`limpet forecast TRIP.json [--json]`."""
    options = _options("forecast", "How far, how long, how sure.", arguments, "trip")

    def run() -> None:
        read = read_trip(options.trip)
        answer = forecast(read.trip, read.route, read.notices)
        if options.json:
            _print(answer.to_json())
        else:
            print(forecast_report(answer))

    return _guarded(run)


def claim_command(arguments: list[str]) -> int:
    """`limpet claim CLAIM.json [--json]`."""
    options = _options("claim", "Can a maker's figure be true?", arguments, "claim")

    def run() -> None:
        claim, notices = read_file(options.claim, ClaimQuestion, claim_faults)
        answer = check_claim(claim)
        if options.json:
            _print(answer.to_json())
        else:
            print(answer.reason)
        _mention(notices)

    return _guarded(run)


def size_command(arguments: list[str]) -> int:
    """`limpet size TRIP.json --cell CELL.json [--json]`."""
    options = _options("size", "How large a pack a trip needs.", arguments, "trip", cell=True)

    def run() -> None:
        read = read_trip(options.trip)
        cell, notices = read_file(options.cell, Cell, cell_faults)
        answer = size_pack(read.trip, read.route, cell)
        if options.json:
            _print(answer.to_json())
        else:
            print(answer.reason)
        _mention([*read.notices, *notices])

    return _guarded(run)


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


def _options(
    name: str, about: str, arguments: list[str], file: str, *, cell: bool = False
) -> argparse.Namespace:
    parser = argparse.ArgumentParser(prog=f"limpet {name}", description=about)
    parser.add_argument(file, type=Path, metavar=f"{file.upper()}.json")
    if cell:
        parser.add_argument("--cell", type=Path, required=True, metavar="CELL.json")
    parser.add_argument("--json", action="store_true", help="print the answer as JSON")
    return parser.parse_args(arguments)


def _guarded(run: Any) -> int:
    try:
        run()
    except (BundleError, LimpetError) as error:
        print(error, file=sys.stderr)
        return REFUSED
    return 0


def _mention(notices: Any) -> None:
    for notice in notices:
        print(notice.message, file=sys.stderr)


def _print(answer: dict[str, Any]) -> None:
    print(json.dumps(answer, indent=2, ensure_ascii=False, allow_nan=False))
