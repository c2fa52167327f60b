"""Write what the page reads of the core: fields, units, defaults; `--check` says whether it is new."""

from __future__ import annotations

import json
import sys
from dataclasses import asdict
from pathlib import Path
from typing import Any

from limpet.assumptions import HIDDEN_STANDING, RESERVE
from limpet.evidence.columns import ENTRY_COLUMNS
from limpet.evidence.sheet import SHEET_PARTS, SheetItem
from limpet.fields import FORMS, FormField
from limpet.figures.traces import CHANNELS
from limpet.formulas import FORMULAS
from limpet.glossary import SCHOOLS, TERMS
from limpet.quantity import SPAN_OF_FIGURE
from limpet.readers import reader_table
from limpet.state.contradiction import MOST_BIRGE
from limpet.state.remaining import WORTH
from limpet.under_way.matter import LIMITS, MIGHT_NOT, RULES
from limpet.under_way.own_limits import HOLDS, RELIEF, TOLD
from limpet.under_way.sure import MOST_UNSHOWN, SHOW_CHARGE
from limpet.units import factor_and_zero
from limpet.words import (
    CHOICES,
    FACTOR_WORDS,
    INPUTS,
    METHODS,
    PARTS,
    PREPARATION,
    QUESTIONS,
    SAFETY,
)

FILE = Path(__file__).resolve().parents[1] / "web/src/api/core.json"
METHOD = FILE.with_name("method.json")


def field(item: FormField) -> dict[str, Any]:
    """A field as the page reads it."""
    return {
        "name": item.name,
        "label": item.label,
        "asks": item.asks,
        "kind": item.span.kind,
        "shown": item.shown,
        "unit": item.unit,
        "factor": factor_and_zero(item.unit, item.span.kind)[0] if item.unit else None,
        "example": item.example,
        "needed": item.needed,
    }


def sheet_item(item: SheetItem) -> dict[str, Any]:
    """A field of a sheet's part as the page reads it."""
    return {
        "name": item.name,
        "kind": item.kind,
        "label": item.label,
        "asks": item.asks,
        "number": field(item.field) if item.field is not None else None,
        "choices": item.choices,
        "longest": item.longest,
        "needed": item.needed,
    }


def content() -> str:
    """The file as it should be."""
    # Words, time and kind have controls of their own; the rest is typed into one kind of field.
    entry = [
        {**field(column.field), "decimals": column.decimals}
        for column in ENTRY_COLUMNS.values()
        if column.label
    ]
    # What only an event asks for.
    event = [
        field(ENTRY_COLUMNS[name].field) for name in ("wind_mps", "charged_wh", "charged_s", "pack")
    ]
    found = {
        "units": reader_table(),
        "entry": entry,
        "event": event,
        "forms": {name: [field(item) for item in form.values()] for name, form in FORMS.items()},
        "reserve": RESERVE.value,
        "span_of_figure": SPAN_OF_FIGURE,
        "questions": QUESTIONS,
        "methods": {name: label for name, (label, _) in METHODS.items()},
        "inputs": {name: {"label": label, "kind": kind} for name, (label, kind) in INPUTS.items()},
        "parts": PARTS,
        "factors": FACTOR_WORDS,
        "safety": SAFETY,
        "preparation": PREPARATION,
        "choices": CHOICES,
        "matter_rules": [[code, list(conditions)] for code, conditions in RULES],
        "limits": {
            what: {"code": LIMITS[code], "holds_s": HOLDS[what]} for what, code in TOLD.items()
        },
        "relief": RELIEF,
        "most_unshown": MOST_UNSHOWN,
        "most_birge": MOST_BIRGE,
        "hidden_standing": HIDDEN_STANDING.value,
        "readings_worth": WORTH,
        "might_not": MIGHT_NOT,
        "shows_charge": SHOW_CHARGE,
        "channels": {
            name: {
                "label": item.label,
                "unit": item.unit,
                "kind": item.kind,
                "decimals": item.decimals,
            }
            for name, item in CHANNELS.items()
        },
        # Terms that are explained where they first stand on a screen.
        "terms": {code: asdict(term) for code, term in TERMS.items() if term.found},
        "sheet": {
            part.name: {"label": part.label, "items": [sheet_item(item) for item in part.items]}
            for part in SHEET_PARTS.values()
        },
    }
    return json.dumps(found, indent=2, ensure_ascii=False) + "\n"


def method() -> str:
    """What the page's Method holds, apart because few pages need it."""
    found = {
        "formulas": [
            {**asdict(formula), "typeset": formula.typeset} for formula in FORMULAS.values()
        ],
        "terms": {code: asdict(term) for code, term in TERMS.items()},
        "schools": [asdict(school) for school in SCHOOLS],
    }
    return json.dumps(found, indent=2, ensure_ascii=False) + "\n"


def main() -> int:
    wanted = {FILE: content(), METHOD: method()}
    stale = [
        path for path, text in wanted.items() if not path.is_file() or path.read_text() != text
    ]
    if "--check" in sys.argv[1:]:
        for path in stale:
            print(f"web/src/api/{path.name} is not what the core says; run ./limpet types")
        return 1 if stale else 0
    for path in stale:
        path.write_text(wanted[path])
    return 0


if __name__ == "__main__":
    sys.exit(main())
