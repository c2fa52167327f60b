"""What the commands share: refusals, notices, JSON."""

from __future__ import annotations

import argparse
import json
import sys
from collections.abc import Callable, Iterable, Mapping
from typing import Any

from limpet.errors import LimpetError
from limpet.notices import Notice
from limpet.readers import ReaderUnits

#: Exit code of a refused input.
REFUSED = 2


def guarded(work: Callable[[], None]) -> int:
    """Do a command's work; a refusal becomes one line per fault and the exit code 2."""
    try:
        work()
    except LimpetError as error:
        print(error, file=sys.stderr)
        return REFUSED
    return 0


def add_units(parser: argparse.ArgumentParser) -> None:
    """The option for the units of what is printed; files bring their own."""
    parser.add_argument(
        "--units", choices=("mi", "km"), default="mi", help="miles (default) or kilometres in words"
    )


def reader_of(options: argparse.Namespace) -> ReaderUnits:
    """The units that were asked for."""
    return ReaderUnits(distance=options.units)


def mention(notices: Iterable[Notice], units: ReaderUnits) -> None:
    """Say on standard error what reading a file had to say."""
    for notice in notices:
        print(notice.said(units), file=sys.stderr)


def print_json(answer: Mapping[str, Any]) -> None:
    """An answer as JSON."""
    print(json.dumps(answer, indent=2, ensure_ascii=False, allow_nan=False))
