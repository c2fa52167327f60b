"""The open formats as JSON Schema and Table Schema, made from what reads them."""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache
from typing import Any, Final

from pydantic import TypeAdapter

from limpet.evidence.columns import ENTRY_COLUMNS, SAMPLE_COLUMNS, Column
from limpet.evidence.model import ENTRY_KINDS, TestSheet
from limpet.foreign.recipe import LogMapping
from limpet.pack.labelled import TAKEN
from limpet.planning.claim import ClaimQuestion
from limpet.planning.size import Cell
from limpet.trip import Trip

_JSON: Final[Mapping[str, tuple[type, str]]] = {
    "test": (TestSheet, "test.json of a Limpet test bundle, version 1"),
    "trip": (Trip, "A Limpet trip file, version 1"),
    "claim": (ClaimQuestion, "A maker's figure, for ./limpet claim"),
    "mapping": (LogMapping, "How a logger's table is read, version 1"),
    "cell": (Cell, "A cell's data sheet, for ./limpet size"),
}
_TABLES: Final[Mapping[str, tuple[Mapping[str, Column], str]]] = {
    "samples": (SAMPLE_COLUMNS, "samples.csv of a Limpet test bundle, version 1"),
    "entries": (ENTRY_COLUMNS, "entries.csv of a Limpet test bundle, version 1"),
}
#: Every schema, by the name it is asked for.
NAMES: Final = (*_JSON, *_TABLES)


@lru_cache(maxsize=len(NAMES))
def schema_of(name: str) -> dict[str, Any]:
    """A format's schema: JSON Schema 2020-12 for a JSON file, Table Schema (Frictionless v1) for a CSV.

    Unknown keys and columns are allowed: they are kept, and named in a warning. What no single field
    can show, such as volts that do not fit the number of cells, is checked when a file is read.

    Raises
    ------
    KeyError
        When there is no such format.
    """
    if name in _TABLES:
        columns, title = _TABLES[name]
        return {
            "title": title,
            "fields": [_field(c) for c in columns.values()],
            "missingValues": [""],
        }
    kind, title = _JSON[name]
    found = TypeAdapter(kind).json_schema(mode="validation")
    _packs_as_given(found)
    return {"$id": f"limpet:{name}", **found, "title": title}


def _packs_as_given(schema: dict[str, Any]) -> None:
    """A pack may be known by its label or not at all: what is taken where nobody says it is not needed.

    The reader's own dataclasses hold it filled in.
    """
    for name in ("PackSpec", "TripPack"):
        pack = schema.get("$defs", {}).get(name)
        if pack is None:
            continue
        pack["properties"].pop("taken", None)
        pack["required"] = [item for item in pack.get("required", ()) if item not in TAKEN]
        for item in TAKEN:
            pack["properties"][item] = {"anyOf": [pack["properties"][item], {"type": "null"}]}
        if not pack["required"]:
            del pack["required"]


def _field(column: Column) -> dict[str, Any]:
    """A column as Table Schema describes it."""
    constraints: dict[str, Any] = {}
    if column.name == "time_s":
        constraints["required"] = True
    if column.name == "kind":
        constraints["enum"] = list(ENTRY_KINDS)
    elif column.choices:
        constraints["enum"] = list(column.choices)
    elif column.is_text:
        constraints["maxLength"] = column.longest
    else:
        constraints |= {"minimum": column.low, "maximum": column.high}
    return {
        "name": column.name,
        "type": "string" if column.is_text else "number",
        "description": column.words,
        "constraints": constraints,
    }
