"""JSON with the line and column of every value, so that a fault can say where it stands."""

from __future__ import annotations

import json
import re
from typing import Any

from limpet.errors import BundleError, Fault

Path = tuple[str | int, ...]
Position = tuple[int, int]

_STRING = re.compile(r'"(?:[^"\\]|\\.)*"', re.DOTALL)
_SPACE = re.compile(r"[ \t\r\n]*")
_SCALAR = re.compile(r"[^,\]}\s]+")


def decode_utf8(file: str, data: bytes) -> str:
    """The text of a file; a byte-order mark is accepted and dropped.

    Raises
    ------
    BundleError
        When the bytes are not UTF-8, with the line of the first that is not.
    """
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError as cause:
        line = data.count(b"\n", 0, cause.start) + 1
        message = (
            f"byte {cause.start} (0x{data[cause.start]:02x}) is not UTF-8; "
            "save the file with the encoding UTF-8"
        )
        raise BundleError([Fault(file, line, 0, message)]) from cause


def _refuse_constant(name: str) -> float:
    raise ValueError(name)


def parse_json(file: str, data: bytes) -> tuple[Any, dict[Path, Position]]:
    """A JSON document and where each of its values stands.

    Returns
    -------
    the document, and path → (line, column), both counted from 1

    Raises
    ------
    BundleError
        When the file is not UTF-8 or not JSON (NaN and Infinity are not), or an object gives a
        key twice.
    """
    text = decode_utf8(file, data)
    try:
        document = json.loads(text, parse_constant=_refuse_constant)
    except json.JSONDecodeError as cause:
        fault = Fault(file, cause.lineno, cause.colno, f"not JSON: {cause.msg.lower()}")
        raise BundleError([fault]) from cause
    except (ValueError, RecursionError) as cause:
        name = str(cause)
        match = re.search(rf"(?<![\w\"])-?{re.escape(name)}\b", text) if len(name) < 12 else None
        line, column = _line_column(text, match.start()) if match else (0, 0)
        message = (
            f"{name} is not a JSON number; write null for not known"
            if match
            else "nested too deeply to be a test sheet"
        )
        raise BundleError([Fault(file, line, column, message)]) from cause
    positions, repeated = _Locator(text).locate()
    if repeated:
        raise BundleError(
            [
                Fault(file, *_line_column(text, at), f'"{key}" is given twice; keep one')
                for key, at in repeated
            ]
        )
    return document, {path: _line_column(text, at) for path, at in positions.items()}


def _line_column(text: str, offset: int) -> Position:
    line = text.count("\n", 0, offset) + 1
    return line, offset - (text.rfind("\n", 0, offset) + 1) + 1


class _Locator:
    """Walks a document that `json` has already accepted and notes where each value begins."""

    def __init__(self, text: str) -> None:
        self._text = text
        self._at = 0
        self._positions: dict[Path, int] = {}
        self._repeated: list[tuple[str, int]] = []

    def locate(self) -> tuple[dict[Path, int], list[tuple[str, int]]]:
        self._value(())
        return self._positions, self._repeated

    def _space(self) -> None:
        match = _SPACE.match(self._text, self._at)
        if match is not None:
            self._at = match.end()

    def _string(self) -> str:
        match = _STRING.match(self._text, self._at)
        if match is None:
            raise ValueError(f"no string at {self._at}")
        self._at = match.end()
        return str(json.loads(match.group(), strict=False))

    def _value(self, path: Path) -> None:
        self._space()
        self._positions[path] = self._at
        mark = self._text[self._at]
        if mark == "{":
            self._members(path, "}")
        elif mark == "[":
            self._members(path, "]")
        elif mark == '"':
            self._string()
        else:
            match = _SCALAR.match(self._text, self._at)
            self._at = match.end() if match else self._at + 1

    def _members(self, path: Path, close: str) -> None:
        self._at += 1
        index = 0
        seen: set[str] = set()
        while True:
            self._space()
            if self._text[self._at] == close:
                self._at += 1
                return
            if self._text[self._at] == ",":
                self._at += 1
                continue
            key: str | int = index
            if close == "}":
                start = self._at
                key = self._string()
                if key in seen:
                    self._repeated.append((key, start))
                seen.add(key)
                self._space()
                self._at += 1  # the colon
            index += 1
            self._value((*path, key))
