"""JSON with the line and column of every value, so that a fault can say where it stands."""

from __future__ import annotations

import json
import re
from bisect import bisect_right
from typing import Any

from limpet.errors import BundleError, Fault

Path = tuple[str | int, ...]
Position = tuple[int, int]

#: A sheet or a trip of 400 legs has some 60 kB, and is nested 6 deep.
MOST_BYTES = 4 * 2**20
MOST_DEPTH = 40
_TOO_DEEP = f"is nested too deeply: over {MOST_DEPTH} objects or lists in one another"

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
    if len(data) > MOST_BYTES:
        message = f"has {len(data):,} bytes, at most {MOST_BYTES:,} are read; leave out what no ride needs"
        raise BundleError([Fault(file, 0, 0, message)])
    text = decode_utf8(file, data)
    try:
        document = json.loads(text, parse_constant=_refuse_constant)
    except json.JSONDecodeError as cause:
        fault = Fault(file, cause.lineno, cause.colno, f"not JSON: {cause.msg.lower()}")
        raise BundleError([fault]) from cause
    except (ValueError, RecursionError) as cause:
        raise BundleError([_not_a_number(file, text, cause)]) from cause
    try:
        positions, repeated = _Locator(text).locate()
    except _TooDeepError as cause:
        raise BundleError([Fault(file, *_line_column(text, cause.at), _TOO_DEEP)]) from cause
    if repeated:
        raise BundleError(
            [
                Fault(file, *_line_column(text, at), f'"{key}" is given twice; keep one')
                for key, at in repeated
            ]
        )
    starts = [0, *(match.end() for match in re.finditer("\n", text))]
    return document, {path: _place(starts, at) for path, at in positions.items()}


def _place(starts: list[int], offset: int) -> Position:
    """Line and column of an offset, given where each line begins; one look a value."""
    line = bisect_right(starts, offset)
    return line, offset - starts[line - 1] + 1


def _not_a_number(file: str, text: str, cause: ValueError | RecursionError) -> Fault:
    """Which of the things that `json` refuses without a place it was."""
    if isinstance(cause, RecursionError):
        return Fault(file, 0, 0, _TOO_DEEP)
    name = str(cause)
    if name not in ("NaN", "Infinity", "-Infinity"):
        # Python reads no whole number of over 4300 digits.
        return Fault(file, 0, 0, "holds a whole number of thousands of digits; write it shorter")
    match = re.search(rf"(?<![\w\"]){re.escape(name)}\b", text)
    place = _line_column(text, match.start()) if match else (0, 0)
    return Fault(file, *place, f"{name} is not a JSON number; write null for not known")


def _line_column(text: str, offset: int) -> Position:
    line = text.count("\n", 0, offset) + 1
    return line, offset - (text.rfind("\n", 0, offset) + 1) + 1


class _TooDeepError(Exception):
    """Objects in one another beyond what any file of ours holds."""

    def __init__(self, at: int) -> None:
        self.at = at


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
        if len(path) > MOST_DEPTH:
            raise _TooDeepError(self._at)
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
