"""Documents and bytes with a few places changed, as a broken disk or an attacker changes them."""

from __future__ import annotations

import json
import random
from typing import Any

from demo.skerrow import ridden
from limpet.files import bundle_files

ODD = [None, True, -1, 0, 1e-300, 1e300, 10**30, "", "x", "12 mi", [], {}, [[]], {"value": 1},
       {"value": 80, "unit": "lb"}, "\u0000", "ä" * 400, 0.5, 54000, -273.16, 99999]  # fmt: skip
BYTES = [b"", b"\n", b",", b";", b'"', b"\x00", b"\xff", b"nan", b"inf", b"-", b"1e999", b"9" * 40,
         b"\r", b"{", b"]", b"<!", b"=1+1", b" ", b"0", b"\xef\xbb\xbf"]  # fmt: skip

ENTRIES = b"time_s,kind,trip_m,voltage_rest_v\n0,start,0,41.8\n3600,end,9000,38\n"


def mutated_bytes(data: bytes, rng: random.Random) -> bytes:
    """A few places cut out, doubled or overwritten."""
    for _ in range(rng.randint(1, 4)):
        at = rng.randrange(len(data) + 1)
        span = rng.choice([0, 1, 2, 8, 60, len(data) // 3])
        piece = rng.choice([*BYTES, data[at : at + span], data[:span]])
        data = data[:at] + piece + data[at + rng.choice([0, span]) :]
    return data


def mutated_json(value: Any, rng: random.Random) -> Any:
    """One to three values anywhere in a document replaced, removed or renamed."""
    copy = json.loads(json.dumps(value))
    places: list[tuple[Any, Any]] = []

    def walk(node: Any) -> None:
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
    """The demo's ride with a logger, cut to its first two hundred samples, with entries."""
    files = bundle_files(ridden("turnstone-frost"))
    lines = files["samples.csv"].splitlines(keepends=True)
    cut = {**files, "samples.csv": b"".join(lines[:1] + lines[1::40][:200])}
    cut.setdefault("entries.csv", ENTRIES)
    return cut


#: The places of a bundle that are changed: its files, byte by byte, or its document by values.
PLACES = ("test.json", "samples.csv", "entries.csv", "document")


def mutated_bundle(whole: dict[str, bytes], place: str, rng: random.Random) -> dict[str, bytes]:
    """A bundle with one of its `PLACES` changed."""
    files = dict(whole)
    if place == "document":
        files["test.json"] = json.dumps(mutated_json(json.loads(files["test.json"]), rng)).encode()
    else:
        files[place] = mutated_bytes(files[place], rng)
    return files
