"""The formats' schemas: what the reader takes they take, and what it refuses field by field they refuse.

JSON Schema by the `jsonschema` library, Table Schema by `frictionless`.
"""

from __future__ import annotations

import json
from pathlib import Path

import frictionless
import pytest
from jsonschema import Draft202012Validator as Validator

from demo.skerrow import ROUNDS, ridden
from limpet.errors import BundleError
from limpet.evidence.columns import ENTRY_COLUMNS, SAMPLE_COLUMNS
from limpet.files import bundle_files, read_files
from limpet.files.sheet import read_sheet
from limpet.files.tripfile import read_trip
from limpet.formats import NAMES, schema_of
from tests.strategies import minimal
from tools import write_formats

EXAMPLES = Path(__file__).resolve().parents[2] / "docs/examples"
JSON = ("test", "trip", "claim", "cell")


@pytest.mark.parametrize("name", JSON)
def test_the_schemas_are_schemas(name):
    Validator.check_schema(schema_of(name))


def test_the_files_beside_the_pages_are_the_cores():
    for path, text in write_formats.contents().items():
        assert path.read_text() == text, f"{path.name}: run ./limpet types"
    names = {path.name for path in write_formats.FOLDER.glob("*.schema.json")}
    # What two commands answer is described by hand, and held to it by their own tests.
    by_hand = ("ageing", "seasons")
    assert names == {f"{name}.schema.json" for name in (*NAMES, *by_hand)}


@pytest.mark.parametrize("name", ["trip", "claim", "cell"])
def test_the_examples_hold(name):
    Validator(schema_of(name)).validate(json.loads((EXAMPLES / f"{name}.json").read_text()))


def test_every_bundle_of_the_demo_holds():
    tables = {
        name: frictionless.Schema.from_descriptor(schema_of(name))
        for name in ("samples", "entries")
    }
    for item in ROUNDS:
        files = bundle_files(ridden(item.slug))
        Validator(schema_of("test")).validate(json.loads(files["test.json"]))
        for name, schema in tables.items():
            if f"{name}.csv" not in files:
                continue
            # Columns may be left out: the header tells which there are.
            header = files[f"{name}.csv"].split(b"\n", 1)[0].decode().strip().split(",")
            here = frictionless.Schema(fields=[schema.get_field(column) for column in header])
            rows = frictionless.Resource(
                files[f"{name}.csv"][:100_000].rsplit(b"\n", 1)[0], format="csv", schema=here
            )
            report = frictionless.validate(rows)
            assert report.valid, report.flatten(["message"])[:3]


def test_the_smallest_sheet_holds_and_unknown_keys_are_allowed():
    sheet = json.loads(minimal())
    Validator(schema_of("test")).validate(sheet)
    Validator(schema_of("test")).validate({**sheet, "mood": "fine"})
    for pack in ({}, {"nominal_v": 52, "rated_ah": 24}, {"chemistry": None, "rated_wh": 900}):
        Validator(schema_of("test")).validate({**sheet, "pack": pack})


@pytest.mark.parametrize(
    ("place", "value"),
    [
        (("title",), ""),
        (("bundle",), 2),
        (("vehicle", "kind"), "hovercraft"),
        (("vehicle", "mass_kg"), -1),
        (("pack", "series"), 0),
        (("pack", "chemistry"), "peanut"),
        (("pack", "rated_ah"), "twenty"),
        (("purpose",), "fun"),
        (("packs_used",), 21),
    ],
)
def test_what_the_reader_refuses_in_a_field_the_schema_refuses(place, value):
    sheet = json.loads(minimal())
    part = sheet
    for key in place[:-1]:
        part = part[key]
    part[place[-1]] = value
    assert not Validator(schema_of("test")).is_valid(sheet)
    with pytest.raises(BundleError):
        read_sheet(json.dumps(sheet).encode())


@pytest.mark.parametrize(
    ("value", "holds"),
    [
        (31, True),
        ({"value": 31, "standard_uncertainty": 1, "unit": "kg"}, True),
        (None, True),
        (-4, False),
        ("31 kg", False),
    ],
)
def test_a_number_of_a_trip_may_bring_its_uncertainty(tmp_path, value, holds):
    trip = json.loads((EXAMPLES / "trip.json").read_text())
    trip["vehicle"]["mass_kg"] = value
    assert Validator(schema_of("trip")).is_valid(trip) is holds
    path = tmp_path / "trip.json"
    path.write_text(json.dumps(trip))
    if holds:
        read_trip(path)
    else:
        with pytest.raises(BundleError):
            read_trip(path)


@pytest.mark.parametrize(
    ("name", "columns"), [("samples", SAMPLE_COLUMNS), ("entries", ENTRY_COLUMNS)]
)
def test_a_tables_schema_has_the_readers_bounds(name, columns):
    fields = {field["name"]: field for field in schema_of(name)["fields"]}
    assert list(fields) == list(columns)
    assert fields["time_s"]["constraints"]["maximum"] == columns["time_s"].high
    over = {"samples": "voltage_v", "entries": "voltage_rest_v"}[name]
    assert fields[over]["constraints"]["maximum"] == 2000
    rows = f"time_s,{over}\n0,2001\n".encode()
    with pytest.raises(BundleError):
        read_files({"test.json": minimal(), f"{name}.csv": rows})
