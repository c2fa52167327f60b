"""test.json: into the core's TestSheet and back, with every fault and every unknown key named."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import fields
from functools import lru_cache
from typing import Any

from pydantic import TypeAdapter

from limpet.evidence.model import TestSheet
from limpet.files.document import leaves, read_document
from limpet.files.jsonfile import Path
from limpet.notices import Notice
from limpet.pack import pack_faults
from limpet.pack.labelled import as_given

FILE = "test.json"


@lru_cache(maxsize=1)
def sheet_adapter() -> TypeAdapter[TestSheet]:
    """Pydantic's reader of the sheet; one, because building it takes some milliseconds."""
    return TypeAdapter(TestSheet)


def read_sheet(data: bytes) -> tuple[TestSheet, dict[str, Any], list[Notice]]:
    """The sheet, what it holds beyond the format (nested as there), and warnings.

    Raises
    ------
    BundleError
        With every fault of the file.
    """
    sheet, extra = read_document(FILE, data, sheet_adapter(), TestSheet, sheet_faults)
    notices = []
    if extra:
        names = ", ".join(sorted(leaves(extra, _SHEET_PARTS)))
        notices.append(Notice("unknown_fields", file=FILE, names=names))
    return sheet, extra, notices


def sheet_faults(sheet: TestSheet) -> list[tuple[Path, str]]:
    """What no single field can show: voltages at odds with the number of cells.

    Returns
    -------
    (path of the field, what is wrong and what would be right), empty when all is well
    """
    return [(("pack", name), message) for name, message in pack_faults(sheet.pack)]


def document_of(sheet: TestSheet) -> dict[str, Any]:
    """The sheet as it is stored: test.json, absent fields left out, what was taken of a pack named."""
    document: dict[str, Any] = sheet_adapter().dump_python(sheet, mode="json", exclude_none=True)
    if sheet.started_at is not None:
        # With the offset that it was noted with.
        document["started_at"] = sheet.started_at.isoformat()
    if not sheet.tags:
        del document["tags"]
    return document


def write_sheet(sheet: TestSheet, extra: Mapping[str, Any]) -> bytes:
    """The sheet as test.json, absent fields left out, unknown ones put back where they were."""
    document = document_of(sheet)
    document["pack"] = as_given(document["pack"])
    _put_back(document, extra)
    return (json.dumps(document, indent=2, ensure_ascii=False) + "\n").encode("utf-8")


def _put_back(document: dict[str, Any], extra: Mapping[str, Any]) -> None:
    for key, value in extra.items():
        if isinstance(value, dict) and isinstance(document.get(key), dict):
            _put_back(document[key], value)
        else:
            document[key] = value


_SHEET_PARTS = frozenset(entry.name for entry in fields(TestSheet))
