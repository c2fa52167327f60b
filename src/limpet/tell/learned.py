"""What Limpet learned to work out better, in order: why the same evidence comes to another result than it did."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Final, Literal

from limpet.notices import Notice
from limpet.read.line import METERED

#: What of a result a lesson bears on.
Bears = Literal["lfp", "label", "display", "unmetered", "hills", "promise", "logged"]
#: Distances that a display told.
DISPLAYED: Final = frozenset({"trip", "odometer"})


@dataclass(frozen=True, slots=True)
class Learned:
    """One lesson: its notice, and what it bears on."""

    code: str
    bears: Bears


#: Oldest first, and only ever longer: a result keeps how many of them it was worked out with.
LEARNED: Final = (
    Learned("learned_lfp", "lfp"),
    Learned("learned_label", "label"),
    Learned("learned_display", "display"),
    Learned("learned_road", "unmetered"),
    Learned("learned_hills", "hills"),
    Learned("learned_promise", "promise"),
    Learned("learned_pulls", "logged"),
)


def bearings(
    *,
    chemistry: str,
    energy_methods: Iterable[str],
    distance_methods: Iterable[str],
    climbs: bool,
    promises: bool,
) -> frozenset[Bears]:
    """What a result hangs on.

    Parameters
    ----------
    chemistry : of the pack
    energy_methods, distance_methods : those that it was told by
    climbs : whether heights are known
    promises : whether it says what to plan on
    """
    energy_methods = frozenset(energy_methods)
    metered = bool(METERED & energy_methods)
    found: dict[Bears, bool] = {
        "lfp": chemistry == "lfp",
        "label": not metered,
        "display": bool(DISPLAYED & set(distance_methods)),
        "unmetered": not metered,
        "hills": climbs,
        "promise": promises,
        "logged": "sampled" in energy_methods,
    }
    return frozenset(name for name, bears in found.items() if bears)


def why_changed(since: int, bears: frozenset[Bears]) -> tuple[Notice, ...]:
    """What was learned since a result was worked out with so many lessons, as far as it bears on it.

    Parameters
    ----------
    since : lessons that it was worked out with
    bears : what it hangs on (`bearings`)

    Returns
    -------
    at least one: what no lesson names are smaller corrections
    """
    found = tuple(Notice(item.code) for item in LEARNED[max(since, 0) :] if item.bears in bears)
    return found or (Notice("learned_other"),)
