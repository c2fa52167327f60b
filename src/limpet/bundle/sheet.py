"""test.json: into the core's TestSheet and back, with every fault and every unknown key named."""

from __future__ import annotations

import difflib
import json
from collections.abc import Mapping
from dataclasses import fields, is_dataclass
from functools import lru_cache
from typing import Any, get_args, get_type_hints

from pydantic import TypeAdapter, ValidationError
from pydantic_core import ErrorDetails

from limpet.bundle.jsonfile import Path, Position, parse_json
from limpet.errors import BundleError, Fault
from limpet.evidence.model import Notice, TestSheet
from limpet.pack import FACTS

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
    document, positions = parse_json(FILE, data)
    if not isinstance(document, dict):
        raise BundleError([Fault(FILE, 1, 1, "must be a JSON object: { … }")])
    try:
        sheet = sheet_adapter().validate_json(json.dumps(document), strict=True)
    except ValidationError as cause:
        faults = [_fault(error, document, positions) for error in cause.errors(include_url=False)]
        raise BundleError(faults) from cause
    faults = [
        Fault(FILE, *_position(path, positions), f"{_name(path)} {message}")
        for path, message in sheet_faults(sheet)
    ]
    if faults:
        raise BundleError(faults)
    extra = _unknown(document, TestSheet)
    notices = []
    if extra:
        names = ", ".join(sorted(_leaves(extra)))
        notices.append(
            Notice(code="unknown_fields", message=f"test.json: kept but not used: {names}.")
        )
    return sheet, extra, notices


def sheet_faults(sheet: TestSheet) -> list[tuple[Path, str]]:
    """What no single field can show: voltages at odds with the number of cells.

    Returns
    -------
    (path of the field, what is wrong and what would be right), empty when all is well
    """
    pack, facts = sheet.pack, FACTS[sheet.pack.chemistry]
    found: list[tuple[Path, str]] = []
    for name, volts in (("full_v", pack.full_v), ("cutoff_v", pack.cutoff_v)):
        low = facts.lowest_v * pack.series * 0.8
        high = facts.highest_v * pack.series * 1.1
        if volts is not None and not low <= volts <= high:
            found.append(
                (
                    ("pack", name),
                    f"is {volts:g} V, which {pack.series} cells of {pack.chemistry} in series "
                    f"cannot have ({low:.0f} to {high:.0f} V); check the volts and the series count",
                )
            )
    if pack.full_v is not None and pack.cutoff_v is not None and pack.cutoff_v >= pack.full_v:
        found.append(
            (
                ("pack", "cutoff_v"),
                f"is {pack.cutoff_v:g} V, not below full_v {pack.full_v:g} V; swap or correct them",
            )
        )
    return found


def write_sheet(sheet: TestSheet, extra: Mapping[str, Any]) -> bytes:
    """The sheet as test.json, absent fields left out, unknown ones put back where they were."""
    document = sheet_adapter().dump_python(sheet, mode="json", exclude_none=True)
    if sheet.started_at is not None:
        document["started_at"] = sheet.started_at.isoformat()
    _put_back(document, extra)
    return (json.dumps(document, indent=2, ensure_ascii=False) + "\n").encode("utf-8")


def explain(error: ErrorDetails) -> str:
    """One of pydantic's findings as a sentence: what is wrong and what would be right."""
    kind, context = error["type"], error.get("ctx", {})
    value = error.get("input")
    given = f"is {_shown(value)}, " if "input" in error else ""
    if kind == "missing":
        return "is missing and needed; add it"
    if kind in ("literal_error", "enum"):
        choices = str(context["expected"]).replace(" or ", ", ").replace("'", "")
        close = difflib.get_close_matches(str(value), choices.split(", "), n=1)
        hint = f"; did you mean {close[0]}?" if close else ""
        return f"{given}expected one of {choices}{hint}"
    if kind in ("float_type", "int_type", "float_parsing", "int_parsing", "int_from_float"):
        wanted = "a whole number" if kind.startswith("int") else "a number"
        return f"{given}expected {wanted} without quotes or unit"
    if kind == "finite_number":
        return "is not finite; write null for not known"
    if kind in ("greater_than", "greater_than_equal", "less_than", "less_than_equal"):
        words = {
            "greater_than": ("above", "gt"),
            "greater_than_equal": ("at least", "ge"),
            "less_than": ("below", "lt"),
            "less_than_equal": ("at most", "le"),
        }
        word, key = words[kind]
        return f"{given}expected {word} {context[key]:g}; check the unit"
    if kind.startswith("datetime"):
        return f"{given}expected a time like 2026-05-14T09:12:00+02:00"
    if kind in ("dataclass_type", "model_type", "dict_type"):
        return f"{given}expected an object: {{ … }}"
    if kind == "string_type":
        return f"{given}expected text in quotes"
    if kind == "string_too_short":
        return "is empty; give it a name"
    message = error["msg"]
    return f"{given}{message[:1].lower()}{message[1:]}"


def _shown(value: object) -> str:
    text = json.dumps(value, ensure_ascii=False, default=str)
    return text if len(text) <= 40 else text[:37] + "…"


def _name(path: Path) -> str:
    return ".".join(str(part) for part in path)


def _position(path: Path, positions: Mapping[Path, Position]) -> Position:
    while path not in positions and path:
        path = path[:-1]
    return positions.get(path, (1, 1))


def _fault(error: ErrorDetails, document: object, positions: Mapping[Path, Position]) -> Fault:
    path = tuple(error["loc"])
    return Fault(FILE, *_position(path, positions), f"{_name(path)} {explain(error)}")


def _unknown(document: Mapping[str, Any], kind: type) -> dict[str, Any]:
    """What the format does not know, nested as it stood."""
    hints = get_type_hints(kind)
    known = {entry.name for entry in fields(kind)}
    found: dict[str, Any] = {}
    for key, value in document.items():
        if key not in known:
            found[key] = value
            continue
        inner = [part for part in get_args(hints[key]) or (hints[key],) if is_dataclass(part)]
        if inner and isinstance(value, dict) and isinstance(inner[0], type):
            below = _unknown(value, inner[0])
            if below:
                found[key] = below
    return found


def _leaves(extra: Mapping[str, Any], prefix: str = "") -> list[str]:
    names: list[str] = []
    for key, value in extra.items():
        if isinstance(value, dict) and value and not prefix and key in _SHEET_PARTS:
            names.extend(_leaves(value, f"{key}."))
        else:
            names.append(prefix + key)
    return names


def _put_back(document: dict[str, Any], extra: Mapping[str, Any]) -> None:
    for key, value in extra.items():
        if isinstance(value, dict) and isinstance(document.get(key), dict):
            _put_back(document[key], value)
        else:
            document[key] = value


_SHEET_PARTS = frozenset(entry.name for entry in fields(TestSheet))
