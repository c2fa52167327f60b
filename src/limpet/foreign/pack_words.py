"""A pack in a rider's few words: '13s 14Ah NMC', '48V 10.4Ah', '16s LFP 20 Ah'."""

from __future__ import annotations

import re
from typing import Any, Final

from limpet.errors import UnitError

#: Characters that are read.
LONGEST: Final = 80
_CHEMISTRIES: Final = {
    "nmc": "nmc", "ncm": "nmc", "nca": "nca", "lfp": "lfp", "lifepo4": "lfp", "lmo": "lmo", "agm": "lead_acid_agm",
    "lead": "lead_acid_agm", "flooded": "lead_acid_flooded", "li-ion": "nmc", "lion": "nmc", "liion": "nmc",
}  # fmt: skip
_EXAMPLE: Final = "write it like '13s 14Ah NMC' or '48V 10.4Ah'"


def pack_in_words(text: str) -> dict[str, Any]:
    """A pack as `test.json` has it, out of a rider's words.

    Parameters
    ----------
    text : cells in series (13s, 13s4p), amp-hours or watt-hours, volts, chemistry, in any order

    Raises
    ------
    UnitError
        When a word is none of these, or nothing is said.
    """
    if len(text) > LONGEST:
        raise UnitError(f"the pack has {len(text)} characters; {_EXAMPLE}")
    found: dict[str, Any] = {}
    joined = re.sub(r"(?<=\d)[ ]+(?=(?:s|p|ah|wh|v)\b)", "", text.lower().replace(",", "."))
    for word in joined.split():
        cells = re.fullmatch(r"(\d{1,3})s(?:(\d{1,2})p)?", word)
        parallel = re.fullmatch(r"(\d{1,2})p", word)
        amount = re.fullmatch(r"(\d{1,5}(?:\.\d{1,3})?)(ah|wh|kwh|v)", word)
        if cells is not None:
            found["series"] = int(cells[1])
            if cells[2]:
                found["parallel"] = int(cells[2])
        elif parallel is not None:
            found["parallel"] = int(parallel[1])
        elif amount is not None:
            value, unit = float(amount[1]), amount[2]
            name = {"ah": "rated_ah", "wh": "rated_wh", "kwh": "rated_wh", "v": "nominal_v"}[unit]
            found[name] = value * (1000 if unit == "kwh" else 1)
        elif word.strip(".") in _CHEMISTRIES:
            found["chemistry"] = _CHEMISTRIES[word.strip(".")]
        else:
            raise UnitError(f"'{word[:20]}' is not understood in the pack; {_EXAMPLE}")
    if not found:
        raise UnitError(f"the pack says nothing; {_EXAMPLE}")
    return found
