"""A pack that is known by its label alone, or not at all: what is not said is taken, and named."""

from __future__ import annotations

from collections.abc import Mapping
from math import isfinite
from typing import Any, cast

from limpet.pack.chemistry import FACTS, Chemistry

#: Fields that may be taken where nobody says them.
TAKEN = ("chemistry", "series", "rated_ah")
#: Layered oxides when nobody says (handbook, bundle.md).
USUAL_CHEMISTRY: Chemistry = "nmc"
#: Cells of a pack that nobody describes, and its amp-hours [Ah] (assumption).
USUAL_SERIES, USUAL_AH = 13, 15.0


def with_what_is_taken(given: Any) -> Any:
    """A pack as a file has it, with what it does not say filled in and named in `taken`.

    Parameters
    ----------
    given : the object of the file; anything else is handed back as it is, for its reader to refuse

    Notes
    -----
    Series from the full or the nominal voltage; amp-hours from the watt-hours; what is left is a usual
    pack, of which nothing but what was ridden can be said.
    """
    if given is None:
        given = {}
    if not isinstance(given, Mapping):
        return given
    pack = dict(given)
    taken = list(pack.get("taken") or ())
    if taken:
        # Stored by us: filled in already.
        return {**pack, "taken": tuple(taken)}
    if pack.get("chemistry") is None:
        pack["chemistry"] = USUAL_CHEMISTRY
        taken.append("chemistry")
    said = pack["chemistry"]
    # Another will be refused for that; what else is missing is no fault.
    known = isinstance(said, str) and said in FACTS
    chemistry = cast(Chemistry, said) if known else USUAL_CHEMISTRY
    if pack.get("series") is None:
        pack["series"] = _series(pack, chemistry)
        taken.append("series")
    if pack.get("rated_ah") is None:
        rated_wh = _number(pack.get("rated_wh"))
        volts = _number(pack.get("nominal_v")) or _whole(pack["series"]) * FACTS[chemistry].label_v
        pack["rated_ah"] = round(rated_wh / volts, 2) if rated_wh and volts else USUAL_AH
        taken.append("rated_ah")
    if taken:
        pack["taken"] = tuple(taken)
    return pack


def as_given(pack: dict[str, Any]) -> dict[str, Any]:
    """A pack for a file: what was taken is not said."""
    taken = pack.get("taken") or ()
    return {name: value for name, value in pack.items() if name != "taken" and name not in taken}


def _series(pack: Mapping[str, Any], chemistry: Chemistry) -> int:
    full, nominal = _number(pack.get("full_v")), _number(pack.get("nominal_v"))
    if full is None and nominal and is_full_voltage(nominal, chemistry):
        full = nominal
    if full:
        return max(round(full / FACTS[chemistry].full_v), 1)
    if nominal:
        return max(round(nominal / FACTS[chemistry].label_v), 1)
    return USUAL_SERIES


#: A label's own volts of a layered-oxide cell [V], by which full and nominal volts are told apart.
NOMINAL_V, WHOLE_WITHIN = 3.6, 0.01


def is_full_voltage(volts: float, chemistry: str) -> bool:
    """Whether volts on a label are those of a full pack: a whole number of full cells, and of no nominal ones.

    Notes
    -----
    84 V is twenty cells full, and not 23 of 3.65 V; 50.4 V may be either and is left nominal.
    """
    facts = FACTS.get(cast(Chemistry, chemistry))
    if facts is None or facts.full_v != FACTS[USUAL_CHEMISTRY].full_v:
        return False
    cells, nominal = volts / facts.full_v, volts / NOMINAL_V
    return abs(cells - round(cells)) < WHOLE_WITHIN and abs(nominal - round(nominal)) > WHOLE_WITHIN


def _number(value: Any) -> float | None:
    is_one = isinstance(value, (int, float)) and not isinstance(value, bool)
    return float(value) if is_one and isfinite(value) and value > 0 else None


def _whole(value: Any) -> float:
    return _number(value) or float(USUAL_SERIES)
