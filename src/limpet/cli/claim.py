"""`./limpet claim CLAIM.json [--json]`: whether a maker's figure can be true."""

from __future__ import annotations

import argparse
from pathlib import Path

from limpet.cli.shared import guarded, mention, print_json
from limpet.files.tripfile import read_file
from limpet.planning.claim import ClaimQuestion, check_claim, claim_faults


def run(arguments: list[str]) -> int:
    """Judge a claim file; returns the exit code."""
    parser = argparse.ArgumentParser(
        prog="limpet claim", description="Can a maker's figure be true?"
    )
    parser.add_argument("claim", type=Path, metavar="CLAIM.json")
    parser.add_argument("--json", action="store_true", help="print the answer as JSON")
    options = parser.parse_args(arguments)

    def work() -> None:
        claim, notices = read_file(options.claim, ClaimQuestion, claim_faults)
        answer = check_claim(claim)
        if options.json:
            print_json(answer.to_json())
        else:
            print(answer.reason)
        mention(notices)

    return guarded(work)
