"""The body of a request as JSON, within bounds that are checked before and while it is read."""

from __future__ import annotations

import json
from math import isfinite
from typing import Any

from django.http import HttpRequest
from ninja.parser import Parser
from ninja.types import DictStrAny

from limpet.errors import LimpetError

#: Bytes of a JSON body: a plan of 400 legs has some 60 kB.
MOST_JSON_BYTES = 2 * 2**20
#: Objects and lists in one another; a plan has 4.
MOST_DEPTH = 30


class BodyError(LimpetError):
    """A body that is not JSON, or holds what no form can."""


class BoundedParser(Parser):
    """Reads JSON for every address of the API."""

    def parse_body(self, request: HttpRequest) -> DictStrAny:
        """The body as JSON.

        Raises
        ------
        BodyError
            With one sentence; Ninja makes a 400 of it and `problems` shows the sentence.
        """
        found: DictStrAny = parse_json(request.body)
        return found


def parse_json(body: bytes) -> Any:
    """JSON text as Python values, within the bounds."""
    if len(body) > MOST_JSON_BYTES:
        raise BodyError(f"The body has {len(body):,} bytes, at most {MOST_JSON_BYTES:,} are read.")
    _refuse_depth(body)
    try:
        return json.loads(
            body, parse_int=_whole, parse_float=_decimal, parse_constant=_not_a_number
        )
    except (UnicodeDecodeError, ValueError, RecursionError) as cause:
        raise BodyError("The body is not JSON in UTF-8.") from cause


def _refuse_depth(body: bytes) -> None:
    if body.count(b"[") + body.count(b"{") <= MOST_DEPTH:
        return
    depth = 0
    quoted = escaped = False
    for byte in body:
        if escaped:
            escaped = False
        elif quoted:
            escaped = byte == 0x5C
            quoted = byte != 0x22
        elif byte == 0x22:
            quoted = True
        elif byte in b"[{":
            depth += 1
            if depth > MOST_DEPTH:
                raise BodyError(f"The body nests more than {MOST_DEPTH} objects in one another.")
        elif byte in b"]}":
            depth -= 1


def _whole(digits: str) -> int:
    if len(digits) > 18:
        raise BodyError(f"The body holds a whole number of {len(digits)} digits; at most 18.")
    return int(digits)


def _decimal(text: str) -> float:
    value = float(text)
    if not isfinite(value):
        raise BodyError(f"The body holds {text[:20]}, which is too large to be a number here.")
    return value


def _not_a_number(name: str) -> float:
    raise BodyError(f"The body holds {name}; write null for not known.")
