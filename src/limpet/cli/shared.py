"""What the commands share: refusals, notices, JSON."""

from __future__ import annotations

import argparse
import json
import os
import sys
from collections.abc import Callable, Iterable, Mapping
from pathlib import Path
from typing import TYPE_CHECKING, Any

from limpet.errors import LimpetError
from limpet.evidence.model import RangeTest
from limpet.files import read_bundle
from limpet.notices import Notice
from limpet.readers import ReaderUnits
from limpet.state.priors import NOTHING, Priors

if TYPE_CHECKING:
    from limpet.trip import Trip

#: Exit code of a refused input, and of an answer that nobody reads to its end: 128 and the number of SIGPIPE.
REFUSED, UNREAD = 2, 141


def guarded(work: Callable[[], None]) -> int:
    """Do a command's work; a refusal becomes one line per fault and the exit code 2."""
    try:
        work()
        sys.stdout.flush()
    except LimpetError as error:
        print(error, file=sys.stderr)
        return REFUSED
    except BrokenPipeError:
        # Whoever read has had enough. What is left goes nowhere, or Python would complain at its own end.
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return UNREAD
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


#: Bundles that a folder may teach with: more than a rider logs in a year.
MOST_BUNDLES = 200


def bundles_in(folder: Path, *but: Path) -> list[RangeTest]:
    """The bundles in a folder but for some, by name; one that cannot be read is said and left out.

    Raises
    ------
    LimpetError
        When it is no folder, or holds more than `MOST_BUNDLES`.
    """
    if not folder.is_dir():
        raise LimpetError(f"{folder}: not a folder; give the one that holds the other bundles")
    left_out = {path.resolve() for path in but}
    here = sorted(
        item
        for item in folder.iterdir()
        if item.resolve() not in left_out
        and (item.suffix == ".zip" or (item / "test.json").is_file())
    )
    if len(here) > MOST_BUNDLES:
        raise LimpetError(
            f"{folder}: holds {len(here)} bundles; at most {MOST_BUNDLES} teach a test"
        )
    found = []
    for item in here:
        try:
            found.append(read_bundle(item))
        except LimpetError as error:
            print(f"{item.name}: left out: {str(error).splitlines()[0]}", file=sys.stderr)
    return found


def add_teachers(parser: argparse.ArgumentParser) -> None:
    """The option that names a folder of earlier tests."""
    parser.add_argument(
        "--with",
        dest="others",
        type=Path,
        metavar="FOLDER",
        help="learn from the other bundles in a folder: same vehicle, same pack",
    )


def taught_by(options: argparse.Namespace, test: RangeTest, *, road: bool = False) -> Priors:
    """What the folder of earlier tests teaches about a test's vehicle and pack.

    Parameters
    ----------
    options : with the folder of earlier tests, or None
    test : that is to be taught
    road : whether its road load is learned too
    """
    if options.others is None:
        return NOTHING
    # A third of the time to start, and not wanted by who asks of one test.
    from limpet.history import learn

    return learn(bundles_in(options.others, options.bundle), test, road=road)


def taught_trip(options: argparse.Namespace, trip: Trip) -> Trip:
    """A trip with what a folder of tests of its vehicle and its pack, by their names, teaches."""
    if options.others is None:
        return trip
    from limpet.history import informed, learn_trip

    return informed(trip, learn_trip(bundles_in(options.others), trip))


def print_json(answer: Mapping[str, Any]) -> None:
    """An answer as JSON."""
    print(json.dumps(answer, indent=2, ensure_ascii=False, allow_nan=False))
