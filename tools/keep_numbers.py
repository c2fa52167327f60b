"""Every figure that the core gives for a fixed lot of rides, kept in a file and held against later.

`python -m tools.keep_numbers write FILE` before the core is rebuilt, `python -m tools.keep_numbers hold FILE` after.
All is asked of the commands, whose JSON is a promise, so that it does not matter where a function has moved to: the
demo's rides alone and taught by each other, under way at three moments, side by side; the examples; and a ride of
every kind of evidence of the calibration's cells. Strips and traces, which no command prints, are asked of
`limpet.figures`.
"""

from __future__ import annotations

import argparse
import json
import math
import sys
import tempfile
from collections.abc import Iterator
from contextlib import redirect_stderr, redirect_stdout
from dataclasses import fields, is_dataclass
from io import StringIO
from itertools import pairwise
from pathlib import Path
from typing import Any

import numpy as np

from demo.skerrow import all_tests
from limpet.cli import main as command
from limpet.evidence.model import RangeTest
from limpet.figures.strip import strip_of
from limpet.figures.traces import traces_of
from limpet.files.write import write_zip
from limpet.tell import analyse
from tests.calibration.cells import cell_rides
from tests.calibration.riders import KINDS, told

EXAMPLES = Path(__file__).parents[1] / "docs/examples"
#: Of the calibration's rides every so manieth; how far apart figures of one thing may lie.
EVERY, WITHIN = 6, 1e-9
#: Moments of a ride at which it is followed, as shares of its time.
MOMENTS = (0.25, 0.6, 0.9)


def _said(*arguments: object) -> Any:
    """A command's JSON, or its refusal."""
    out, err = StringIO(), StringIO()
    with redirect_stdout(out), redirect_stderr(err):
        code = command([str(word) for word in arguments])
    return {"said": err.getvalue(), "json": json.loads(out.getvalue()) if code == 0 else None}


def _plain(value: Any) -> Any:
    """Arrays and tuples as lists, whatever else is no JSON as its words."""
    if isinstance(value, np.ndarray):
        return _plain(value.tolist())
    if is_dataclass(value) and not isinstance(value, type):
        return {item.name: _plain(getattr(value, item.name)) for item in fields(value)}
    if isinstance(value, dict):
        return {str(key): _plain(inner) for key, inner in value.items()}
    if isinstance(value, list | tuple):
        return [_plain(inner) for inner in value]
    if value is None or isinstance(value, bool | int | float | str):
        return value
    return repr(value)


def _rides() -> Iterator[tuple[str, RangeTest]]:
    """The calibration's: one of each kind of evidence from every so manieth cell."""
    for number, ride in list(enumerate(cell_rides()))[::EVERY]:
        for kind in KINDS:
            item = told(ride, kind, np.random.default_rng([7, number, KINDS.index(kind)]))
            if item is not None:
                yield f"cell {number}, {kind}", item.test


def figures(folder: Path) -> Iterator[tuple[str, Any]]:
    """Name → what is told, of everything; bundles are written into a folder."""
    demo = all_tests()
    for slug, test in demo.items():
        (folder / f"{slug}.zip").write_bytes(write_zip(test))
    for slug, test in demo.items():
        one = folder / f"{slug}.zip"
        yield f"analyse {slug}", _said("analyse", one, "--json")
        yield f"analyse {slug} taught", _said("analyse", one, "--with", folder, "--json")
        last = max([entry.time_s for entry in test.entries], default=0.0)
        if test.samples is not None and test.samples.height:
            last = max(last, float(test.samples["time_s"][-1]))
        for share in MOMENTS if last > 0 else ():
            yield (
                f"follow {slug} {share}",
                _said("follow", one, "--until", round(share * last), "--json"),
            )
        result = analyse(test)
        yield f"strip {slug}", _plain(strip_of(test, result))
        yield f"traces {slug}", _plain(traces_of(test.samples, result.distance_line))
    slugs = sorted(demo)
    for one, two in pairwise(slugs):
        pair = [folder / f"{slug}.zip" for slug in (one, two)]
        yield f"compare {one} {two}", _said("compare", *pair, "--json")
    trip = EXAMPLES / "trip.json"
    yield "forecast", _said("forecast", trip, "--json")
    yield "forecast taught", _said("forecast", trip, "--with", folder, "--json")
    yield "size", _said("size", trip, "--cell", EXAMPLES / "cell.json", "--json")
    yield "claim", _said("claim", EXAMPLES / "claim.json", "--json")
    yield "tidetable", _said("tidetable", trip, "--json")
    yield "analyse example", _said("analyse", EXAMPLES / "ride", "--json")
    for name, test in _rides():
        file = folder / "cell.zip"
        file.write_bytes(write_zip(test))
        yield f"analyse {name}", _said("analyse", file, "--json")
        yield f"follow {name}", _said("follow", file, "--json")


def apart(kept: Any, now: Any, within: float, where: str = "") -> Iterator[str]:
    """Where two values differ by more than a share of the larger."""
    if isinstance(kept, dict) and isinstance(now, dict):
        for key in kept.keys() | now.keys():
            if key not in kept or key not in now:
                yield f"{where}.{key} is {'new' if key in now else 'gone'}"
            else:
                yield from apart(kept[key], now[key], within, f"{where}.{key}")
    elif isinstance(kept, list) and isinstance(now, list):
        if len(kept) != len(now):
            yield f"{where} has {len(now)} items, had {len(kept)}"
        for at, (old, new) in enumerate(zip(kept, now, strict=False)):
            yield from apart(old, new, within, f"{where}[{at}]")
    elif isinstance(kept, float | int) and isinstance(now, float | int):
        same = kept == now or (math.isnan(kept) and math.isnan(now))
        if not same and not math.isclose(kept, now, rel_tol=within, abs_tol=1e-300):
            yield f"{where} is {now!r}, was {kept!r}"
    elif kept != now:
        yield f"{where} is {str(now)[:80]!r}, was {str(kept)[:80]!r}"


#: Changes with every change of the core's files, and says nothing about a figure.
_OF_THE_VERSION = ("core", "digest", "made_with")


def _without_version(value: Any) -> Any:
    if isinstance(value, dict):
        return {
            k: _without_version(inner) for k, inner in value.items() if k not in _OF_THE_VERSION
        }
    return [_without_version(inner) for inner in value] if isinstance(value, list) else value


def main() -> int:
    """Write or hold; returns 1 where something moved."""
    parser = argparse.ArgumentParser(prog="python -m tools.keep_numbers")
    parser.add_argument("what", choices=("write", "hold"))
    parser.add_argument("file", type=Path)
    parser.add_argument("--within", type=float, default=WITHIN, metavar="SHARE")
    options = parser.parse_args()
    with tempfile.TemporaryDirectory() as folder:
        found = {name: _without_version(value) for name, value in figures(Path(folder))}
    text = json.dumps(found).replace(folder, "FOLDER")
    if options.what == "write":
        options.file.write_text(text)
        print(f"{len(found)} answers are kept in {options.file}")
        return 0
    moved = list(apart(json.loads(options.file.read_text()), json.loads(text), options.within, ""))
    print("\n".join(moved[:100]))
    print(f"{len(found)} answers, {len(moved)} places differ by more than {options.within:g}")
    return 1 if moved else 0


if __name__ == "__main__":
    sys.exit(main())
