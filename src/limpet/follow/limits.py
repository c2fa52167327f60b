"""Limits that the vehicle itself has shown on the way: no range outranks them."""

from __future__ import annotations

from typing import Final

from limpet.evidence.model import Entry, RangeTest
from limpet.notices import Notice

#: What an event is told as, the gravest first.
TOLD: Final[dict[str, str]] = {
    "tilt_back": "tilts_back",
    "overheated": "overheated_now",
    "speed_step": "cut_its_speed",
    "beeping": "beeps",
}
#: For so long a drive that overheated is taken to be hot, unless it rode on; and a beep or a step in
#: speed is taken to hold [s] (assumption).
HOT_FOR_S, HOLDS_FOR_S = 900.0, 1800.0
#: What takes a limit back: another pack, or a charge.
_RELIEF: Final = ("charged", "overnight")


def limits_shown(seen: RangeTest, at_s: float) -> list[Notice]:
    """Limits that hold at a moment of a ride, the gravest first.

    Notes
    -----
    A tilt-back holds until the pack is charged or changed: it comes again. A beep and a cut in speed
    hold for half an hour, heat for a quarter, unless something was ridden since.
    """
    last_relief = max(
        (e.time_s for e in seen.entries if e.kind == "swap" or e.what in _RELIEF), default=-1.0
    )
    found = []
    for what, code in TOLD.items():
        noted = [e for e in seen.entries if e.what == what and e.time_s > last_relief]
        if noted and _holds(what, noted[-1], seen, at_s):
            found.append(Notice(code))
    return found


def _holds(what: str, noted: Entry, seen: RangeTest, at_s: float) -> bool:
    if what == "tilt_back":
        return True
    since = at_s - noted.time_s
    if what == "overheated":
        riding = [e for e in seen.entries if e.kind not in ("stop", "settle")]
        return since <= HOT_FOR_S and riding[-1] is noted
    return since <= HOLDS_FOR_S
