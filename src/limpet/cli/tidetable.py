"""`./limpet tidetable TRIP.json [--with FOLDER] [--json | --csv] [--units km]`: a range card."""

from __future__ import annotations

import argparse
import csv
import sys
from pathlib import Path

from limpet.cli.shared import (
    add_teachers,
    add_units,
    guarded,
    mention,
    print_json,
    reader_of,
    taught_trip,
)
from limpet.files.tripfile import read_trip
from limpet.judge.tidetable import TideTable, tide_table
from limpet.readers import ReaderUnits, in_unit, shown


def run(arguments: list[str]) -> int:
    """Print the tide table of a trip's vehicle, pack and rider; returns the exit code."""
    parser = argparse.ArgumentParser(
        prog="limpet tidetable", description="How far, by speed, temperature and terrain."
    )
    parser.add_argument("trip", type=Path, metavar="TRIP.json")
    as_data = parser.add_mutually_exclusive_group()
    as_data.add_argument("--json", action="store_true", help="print the table as JSON")
    as_data.add_argument("--csv", action="store_true", help="print a row of each cell, in SI units")
    add_teachers(parser)
    add_units(parser)
    options = parser.parse_args(arguments)
    units = reader_of(options)

    def work() -> None:
        read = read_trip(options.trip)
        table = tide_table(taught_trip(options, read.trip))
        if options.json:
            print_json(table.to_json())
        elif options.csv:
            out = csv.writer(sys.stdout, lineterminator="\n")
            out.writerow(["terrain", "temp_c", "speed_mps", "floor_m", "typical_m", "best_m"])
            for terrain, temp, speed, *metres in table.rows():
                out.writerow([terrain, temp, round(speed, 3), *(round(value) for value in metres)])
        else:
            print(report(table, units))
        mention(read.notices, units)

    return guarded(work)


def report(table: TideTable, units: ReaderUnits) -> str:
    """The table as lines of text: of each cell what to plan on, and what is usual."""
    name = " and ".join(part for part in (table.vehicle, table.pack) if part) or "This trip"
    lines = [
        f"{name}: {units.distance} to {100 * table.reserve:.0f}% left. Bad day (19 rides in 20 go further), "
        "then typical."
    ]
    for t, terrain in enumerate(table.terrains):
        lines += ["", f"{terrain.name}, {terrain.climb_m_per_km:g} m of climb a kilometre"]
        lines.append(" " * 9 + "".join(f"{shown('speed', s, units):>14}" for s in table.speeds_mps))
        for c, temp in enumerate(table.temps_c):
            cells = "".join(
                f"{_far(table.floor_m[t, c, s], units):>7} {_far(table.typical_m[t, c, s], units):>6}"
                for s in range(len(table.speeds_mps))
            )
            lines.append(f"{shown('temperature', temp, units):>9}{cells}")
    return "\n".join(lines)


def _far(metres: float, units: ReaderUnits) -> str:
    return f"{in_unit('distance', float(metres), units.distance):.0f}"
