"""`./limpet follow BUNDLE [--trip TRIP.json] [--until SECONDS] [--json]`: a ride under way."""

from __future__ import annotations

import argparse
from pathlib import Path

from limpet.cli.shared import add_teachers, add_units, guarded, print_json, reader_of, taught_by
from limpet.evidence.columns import LONGEST_TEST_S
from limpet.files import read_bundle
from limpet.files.tripfile import read_trip
from limpet.quantity import Quantity
from limpet.readers import ReaderUnits, chance, shown
from limpet.under_way import Following, Way, follow


def run(arguments: list[str]) -> int:
    """Follow a bundle; returns the exit code."""
    parser = argparse.ArgumentParser(
        prog="limpet follow", description="What is left on a ride under way, and how far that goes."
    )
    parser.add_argument("bundle", type=Path, help="a bundle’s folder or zip, as far as it is")
    parser.add_argument(
        "--trip",
        type=Path,
        metavar="TRIP.json",
        help="the route ahead; without it, back along the same route",
    )
    parser.add_argument(
        "--until", type=_seconds, metavar="SECONDS", help="ignore everything recorded later"
    )
    parser.add_argument("--json", action="store_true", help="print the answer as JSON")
    add_teachers(parser)
    add_units(parser)
    options = parser.parse_args(arguments)
    units = reader_of(options)

    def work() -> None:
        test = read_bundle(options.bundle)
        priors = taught_by(options, test, road=True)
        trip = route = None
        if options.trip is not None:
            read = read_trip(options.trip)
            trip, route = read.trip, read.route
        answer = follow(test, trip, route, until_s=options.until, priors=priors)
        if options.json:
            print_json(answer.to_json())
        else:
            print(follow_report(test.sheet.title, answer, units))

    return guarded(work)


def _seconds(text: str) -> float:
    try:
        value = float(text)
    except ValueError:
        value = -1.0
    if not 0 <= value <= LONGEST_TEST_S:
        raise argparse.ArgumentTypeError(
            f"{text!r} is no time; give seconds since the start, 0 to {LONGEST_TEST_S:.0f}"
        )
    return value


def follow_report(title: str, answer: Following, units: ReaderUnits) -> str:
    """The answer as lines of text, the first of them a sentence."""

    def far(quantity: Quantity) -> str:
        low, high = (shown("distance", metres, units) for metres in (quantity.low, quantity.high))
        return f"{shown('distance', quantity.value, units)}  (95%: {low} to {high})"

    left = answer.energy_left_fraction
    kept = f"{100 * answer.reserve:.0f}%"
    lines = [
        _sentence(answer, kept, units),
        "",
        f"{title}, {answer.at_s / 60:.0f} min after the start",
        f"{'Ridden':<20}{'not known' if answer.distance is None else far(answer.distance)}",
    ]
    if not answer.contradicts:
        lines += [
            f"{'Energy left':<20}{100 * left.value:.0f}%  (95%: {100 * left.low:.0f} to {100 * left.high:.0f})",
            f"{'Before cut-off':<20}{far(answer.range_left_to_cutoff)}",
            f"{'Before the reserve':<20}{far(answer.range_left_to_reserve)}; {kept} in reserve",
        ]
    if answer.way is not None:
        lines += _way_lines(answer.way, units)
    if answer.enough is not None:
        now, at_m = answer.enough.relative_half_width, answer.enough.at_distance_m
        when = "not before its end" if at_m is None else f"at {shown('distance', at_m, units)}"
        lines.append(
            f"{'Range known to':<20}±{100 * now:.0f}%; ±{100 * answer.enough.wanted:.0f}% {when}"
        )
    if answer.warnings:
        lines += ["", "Notes", *(f"  - {notice.said(units)}" for notice in answer.warnings)]
    return "\n".join(lines)


def _sentence(answer: Following, kept: str, units: ReaderUnits) -> str:
    if answer.contradicts:
        return "These readings can’t all be true, so there is no range."
    if answer.way is None:
        on = shown("distance", answer.range_left_to_reserve.low, units)
        return f"At least {on} more with {kept} kept, most likely."
    way = answer.way
    return (
        f"{chance(100 * way.arrives_probability)}% sure to ride the last "
        f"{shown('distance', way.left_m, units)} and keep {kept}; "
        f"{chance(100 * way.reaches_probability)}% sure to get there at all."
    )


def _way_lines(way: Way, units: ReaderUnits) -> list[str]:
    there = way.energy_left_fraction
    lines = [
        f"{'Left on arrival':<20}{100 * there.value:.0f}%  (95%: {100 * there.low:.0f} to "
        f"{100 * there.high:.0f})"
    ]
    if way.turn_by_m is not None:
        lines.append(f"{'Turn by':<20}{shown('distance', way.turn_by_m, units)} from the start")
    if way.slow_to is not None:
        speed = shown("speed", way.slow_to.speed_mps, units)
        lines.append(f"{'Slow to':<20}{speed}  ({chance(100 * way.slow_to.probability)}% sure)")
    return lines
