"""Mutated bundles and trips end in a result or a refusal with its place, whatever was done to them."""

from __future__ import annotations

import json
import os
import random
from pathlib import Path

import pytest

from limpet.errors import BundleError, LimpetError
from limpet.figures.strip import strip_of
from limpet.figures.traces import traces_of
from limpet.files import bundle_files, read_files
from limpet.files.archive import files_of_zip
from limpet.files.tripfile import read_trip
from limpet.files.write import write_zip
from limpet.outlook.forecast import forecast
from limpet.tell import analyse
from tests.mutated import PLACES, mutated_bundle, mutated_bytes, mutated_json, small_bundle

#: Mutants of each kind in the suite; a long run sets more.
MUTANTS = int(os.environ.get("LIMPET_MUTANTS", "90"))

TRIP = json.loads((Path(__file__).parents[2] / "docs/examples/trip.json").read_text())


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


@pytest.mark.parametrize("name", PLACES)
def test_a_mutated_bundle_is_taken_or_refused(name):
    rng = random.Random(f"bundle {name}")
    whole = small_bundle()
    taken = sum(survives(mutated_bundle(whole, name, rng)) for _ in range(MUTANTS))
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
