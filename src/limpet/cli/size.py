"""`./limpet size TRIP.json --cell CELL.json [--json] [--units km]`: how large a pack a trip needs."""

from __future__ import annotations

import argparse
from pathlib import Path

from limpet.cli.shared import add_units, guarded, mention, print_json, reader_of
from limpet.files.tripfile import read_file, read_trip
from limpet.planning.size import Cell, cell_faults, size_pack


def run(arguments: list[str]) -> int:
    """Size a pack for a trip file and a cell file; returns the exit code."""
    parser = argparse.ArgumentParser(
        prog="limpet size", description="How large a pack a trip needs."
    )
    parser.add_argument("trip", type=Path, metavar="TRIP.json")
    parser.add_argument("--cell", type=Path, required=True, metavar="CELL.json")
    parser.add_argument("--json", action="store_true", help="print the answer as JSON")
    add_units(parser)
    options = parser.parse_args(arguments)
    units = reader_of(options)

    def work() -> None:
        read = read_trip(options.trip)
        cell, notices = read_file(options.cell, Cell, cell_faults)
        answer = size_pack(read.trip, read.route, cell)
        if options.json:
            print_json(answer.to_json())
        else:
            print(answer.notice.said(units))
        mention([*read.notices, *notices], units)

    return guarded(work)
