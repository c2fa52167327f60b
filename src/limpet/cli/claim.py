"""`./limpet claim CLAIM.json [--json] [--units km]`: whether a maker's figure can be true."""

from __future__ import annotations

import argparse
from pathlib import Path

from limpet.cli.shared import add_units, guarded, mention, print_json, reader_of
from limpet.files.tripfile import read_file
from limpet.planning.claim import ClaimQuestion, check_claim, claim_faults


def run(arguments: list[str]) -> int:
    """Judge a claim file; returns the exit code."""
    parser = argparse.ArgumentParser(
        prog="limpet claim", description="Can a maker's figure be true?"
    )
    parser.add_argument("claim", type=Path, metavar="CLAIM.json")
    parser.add_argument("--json", action="store_true", help="print the answer as JSON")
    add_units(parser)
    options = parser.parse_args(arguments)
    units = reader_of(options)

    def work() -> None:
        claim, notices = read_file(options.claim, ClaimQuestion, claim_faults)
        answer = check_claim(claim)
        if options.json:
            print_json(answer.to_json())
        else:
            print(answer.notice.said(units))
        mention(notices, units)

    return guarded(work)
