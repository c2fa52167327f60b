"""A JSON file into one of the core's values, with every fault and every unknown key named."""

from __future__ import annotations

import difflib
import json
from collections.abc import Callable, Mapping
from dataclasses import fields, is_dataclass
from typing import Any, TypeVar, get_args, get_type_hints

from pydantic import TypeAdapter, ValidationError
from pydantic_core import ErrorDetails

from limpet.errors import BundleError, Fault
from limpet.files.jsonfile import Path, Position, parse_json

T = TypeVar("T")
#: What no single field can show: (path of the field, what is wrong and what would be right).
Check = Callable[[T], list[tuple[Path, str]]]


def read_document(
    file: str, data: bytes, adapter: TypeAdapter[T], kind: type[T], check: Check[T]
) -> tuple[T, dict[str, Any]]:
    """A file's value, and what it holds beyond the format, nested as there.

    Parameters
    ----------
    file : its name, for the faults
    adapter : pydantic's reader of the dataclass `kind`
    check : finds what no single field can show

    Raises
    ------
    BundleError
        With every fault of the file, each with line and column.
    """
    document, positions = parse_json(file, data)
    if not isinstance(document, dict):
        raise BundleError([Fault(file, 1, 1, "must be a JSON object: { … }")])
    try:
        value = adapter.validate_json(json.dumps(document), strict=True)
    except ValidationError as cause:
        faults = [_fault(file, error, positions) for error in cause.errors(include_url=False)]
        raise BundleError(faults) from cause
    faults = [
        Fault(file, *_position(path, positions), f"{_name(path)} {message}".strip())
        for path, message in check(value)
    ]
    if faults:
        raise BundleError(faults)
    return value, unknown_keys(document, kind)


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
    if kind == "string_too_short" or (kind == "too_short" and isinstance(value, str)):
        return "is empty; give it a name"
    if kind == "too_long" and isinstance(value, str):
        return f"{given}expected at most {context['max_length']} characters"
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


def _fault(file: str, error: ErrorDetails, positions: Mapping[Path, Position]) -> Fault:
    path = tuple(error["loc"])
    return Fault(file, *_position(path, positions), f"{_name(path)} {explain(error)}")


def unknown_keys(document: Mapping[str, Any], kind: type) -> dict[str, Any]:
    """What a document holds that a dataclass does not know, nested as it stood."""
    hints = get_type_hints(kind)
    known = {entry.name for entry in fields(kind)}
    found: dict[str, Any] = {}
    for key, value in document.items():
        if key not in known:
            found[key] = value
            continue
        inner = _dataclass_in(hints[key])
        if inner is None:
            continue
        parts = [value] if isinstance(value, dict) else value if isinstance(value, list) else []
        for part in parts:
            below = unknown_keys(part, inner) if isinstance(part, dict) else {}
            if below:
                found[key] = {**found.get(key, {}), **below}
    return found


def _dataclass_in(hint: Any) -> type | None:
    """The dataclass that a type such as `tuple[Leg, ...] | None` holds, if it holds one."""
    if isinstance(hint, type) and is_dataclass(hint):
        return hint
    return next((found for part in get_args(hint) if (found := _dataclass_in(part))), None)


def leaves(extra: Mapping[str, Any], parts: frozenset[str], prefix: str = "") -> list[str]:
    """Dotted names of unknown keys; `parts` are the format's own objects."""
    names: list[str] = []
    for key, value in extra.items():
        if isinstance(value, dict) and value and not prefix and key in parts:
            names.extend(leaves(value, parts, f"{key}."))
        else:
            names.append(prefix + key)
    return names
