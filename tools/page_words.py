"""The page's own sentences with example values, from the catalogues that the page is built with."""

from __future__ import annotations

import re
from pathlib import Path
from typing import Any, Final

from fluent.runtime import FluentBundle, FluentResource

_FOLDER: Final = Path(__file__).resolve().parent.parent / "web" / "src" / "words" / "en"
_KEY: Final = re.compile(r"^([a-z][a-z0-9-]*) =", re.M)
_VARIABLE: Final = re.compile(r"\$(\w+)")
#: What a value is, by the end of its name: the page gives most of them as text with their unit.
_BY_END: Final = {
    "_m": "10.3 mi", "_mps": "16 mph", "_s": "42 min", "_c": "39 °F", "_v": "48.3", "_ah": "12.4", "_wh": "310",
    "_kg": "205 lb", "_at": "14 July", "_per_km": "20.3 Wh/mi", "_probability": "87%", "_fraction": "62%",
}  # fmt: skip
_NUMBERS: Final = {
    "count": 4, "laps": 3, "runs": 3, "first_runs": 3, "second_runs": 2, "waiting": 2, "unsent": 2, "removed": 12,
    "changes": 3, "left_out": 2, "length": 2, "tests": 7, "done": 3, "all": 6, "months": 6, "index": 2, "minutes": 12,
    "shown_rows": 200, "packs": 2, "line": 18, "status": 502, "row": 4, "number": 2, "lit": 3, "series": 13,
}  # fmt: skip
_WORDS: Final = {
    "unit": "mi", "low": "18.2", "high": "26.4", "distance": "mi", "title": "Quay loop, to cut-off", "name": "Plover",
    "reserve": "20%", "left": "62%", "text": "20.3 Wh/mi", "height_unit": "ft", "from": "18.2", "to": "26.4",
    "far": "5.4 mi", "said": "first 20.3, then 22.1", "what": "the trip", "item": "Plover", "value": "20.3",
    "username": "maren", "share": "15%", "wh": "310", "speed": "16 mph", "speed_unit": "mph", "kind": "phone",
    "why": "no signal", "source": "Skerrow’s mast", "vehicle": "Plover", "pack": "Plover-1", "rider": ", ridden by Maren",
    "label": "resting volts", "more": "resting volts would narrow it", "age": "4 min ago", "now": "15%", "after": "14%",
}  # fmt: skip


def example(name: str) -> Any:
    """A value of a name: a number, a word, a text with the unit that the name ends in; the name itself else."""
    if name in _NUMBERS:
        return _NUMBERS[name]
    if name in _WORDS:
        return _WORDS[name]
    ends = [end for end in _BY_END if name.endswith(end)]
    return _BY_END[max(ends, key=len)] if ends else f"‹{name.replace('_', ' ')}›"


def page_sentences() -> dict[str, str]:
    """Every sentence of the page with example values, by room and key.

    Raises
    ------
    ValueError
        When a message lacks a value that it names, or cannot be read.
    """
    found = {}
    for path in sorted(_FOLDER.glob("*.ftl")):
        written = path.read_text(encoding="utf-8")
        bundle = FluentBundle(["en-GB"], use_isolating=False)
        bundle.add_resource(FluentResource(written))
        values = {name: example(name) for name in _VARIABLE.findall(written)}
        for key in _KEY.findall(written):
            pattern = bundle.get_message(key).value
            said, faults = bundle.format_pattern(pattern, values)
            if faults:
                raise ValueError(f"{path.name}: {key}: {faults[0]}")
            found[f"{path.stem}/{key}"] = re.sub(r"\s*\n\s*", " ", said)
    return found
