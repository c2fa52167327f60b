"""Mutated bundles and trips end in a result or a refusal with its place, whatever was done to them."""

from __future__ import annotations

import json
import os
import random
from pathlib import Path

import pytest

from demo.skerrow import ridden
from limpet.errors import BundleError, LimpetError
from limpet.files import bundle_files, read_files
from limpet.files.archive import files_of_zip
from limpet.files.tripfile import read_trip
from limpet.files.write import write_zip
from limpet.forecast.forecast import forecast
from limpet.result import analyse, strip_of, traces_of

#: Mutants of each kind in the suite; a long run sets more.
MUTANTS = int(os.environ.get("LIMPET_MUTANTS", "90"))

TRIP = json.loads((Path(__file__).parents[2] / "docs/examples/trip.json").read_text())
ODD = [None, True, -1, 0, 1e-300, 1e300, 10**30, "", "x", "12 mi", [], {}, [[]], {"value": 1},
       {"value": 80, "unit": "lb"}, "\u0000", "ä" * 400, 0.5, 54000, -273.16, 99999]  # fmt: skip
BYTES = [b"", b"\n", b",", b";", b'"', b"\x00", b"\xff", b"nan", b"inf", b"-", b"1e999", b"9" * 40,
         b"\r", b"{", b"]", b"<!", b"=1+1", b" ", b"0", b"\xef\xbb\xbf"]  # fmt: skip


def mutated_bytes(data: bytes, rng: random.Random) -> bytes:
    """A few places cut out, doubled or overwritten."""
    for _ in range(rng.randint(1, 4)):
        at = rng.randrange(len(data) + 1)
        span = rng.choice([0, 1, 2, 8, 60, len(data) // 3])
        piece = rng.choice([*BYTES, data[at : at + span], data[:span]])
        data = data[:at] + piece + data[at + rng.choice([0, span]) :]
    return data


def mutated_json(value, rng: random.Random):
    """One value anywhere in a document replaced, removed or renamed."""
    copy = json.loads(json.dumps(value))
    places = []

    def walk(node):
        items = node.items() if isinstance(node, dict) else enumerate(node)
        for key, inner in list(items):
            places.append((node, key))
            if isinstance(inner, dict | list):
                walk(inner)

    walk(copy)
    for _ in range(rng.randint(1, 3)):
        node, key = rng.choice(places)
        what = rng.random()
        if what < 0.7:
            if isinstance(node, dict) or key < len(node):
                node[key] = rng.choice(ODD)
        elif isinstance(node, dict):
            taken = node.pop(key, None)
            if what < 0.85:
                node[f"{key}x"] = taken
    return copy


def small_bundle() -> dict[str, bytes]:
    """The demo's ride with a logger, cut to its first two hundred samples."""
    files = bundle_files(ridden("turnstone-frost"))
    lines = files["samples.csv"].splitlines(keepends=True)
    return {**files, "samples.csv": b"".join(lines[:1] + lines[1::40][:200])}


def placed(error: BundleError) -> bool:
    """Whether a refusal names its file and says something; it must."""
    if not error.faults or not all(fault.file and fault.message for fault in error.faults):
        raise AssertionError(f"a refusal without its place: {error!r}")
    return True


def survives(files: dict[str, bytes]) -> bool:
    """Whether a bundle was taken; a refusal must name its file."""
    try:
        test = read_files(files)
    except BundleError as error:
        return not placed(error)
    result = analyse(test)
    json.dumps(result.to_json(), allow_nan=False)
    strip_of(test, result)
    traces_of(test.samples, result.distance_line)
    read_files(bundle_files(test))
    return True


@pytest.mark.parametrize("name", ["test.json", "samples.csv", "entries.csv", "document"])
def test_a_mutated_bundle_is_taken_or_refused(name):
    rng = random.Random(f"bundle {name}")
    whole = small_bundle()
    whole.setdefault("entries.csv", b"time_s,kind,trip_m,voltage_rest_v\n0,start,0,41.8\n3600,end,9000,38\n")  # fmt: skip
    taken = 0
    for _ in range(MUTANTS):
        files = dict(whole)
        if name == "document":
            sheet = json.loads(files["test.json"])
            files["test.json"] = json.dumps(mutated_json(sheet, rng)).encode()
        else:
            files[name] = mutated_bytes(files[name], rng)
        taken += survives(files)
    assert 0 < taken < MUTANTS, "some are taken, some are not"


def test_a_mutated_zip_is_taken_or_refused():
    rng = random.Random("zip")
    data = write_zip(read_files(small_bundle()))
    for _ in range(MUTANTS):
        try:
            files = files_of_zip(mutated_bytes(data, rng))
        except BundleError as error:
            placed(error)
            continue
        survives(files)


def test_a_mutated_trip_is_answered_or_refused(tmp_path):
    rng = random.Random("trip")
    answered = 0
    file = tmp_path / "trip.json"
    for _ in range(MUTANTS):
        changed = {**mutated_json(TRIP, rng), "draws": 50}
        data = json.dumps(changed).encode()
        if rng.random() < 0.2:
            data = mutated_bytes(data, rng)
        file.write_bytes(data)
        try:
            read = read_trip(file)
            answer = forecast(read.trip, read.route, read.notices)
        except LimpetError:
            continue
        json.dumps(answer.to_json(), allow_nan=False)
        answered += 1
    assert answered > 0
