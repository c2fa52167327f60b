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
#: What takes a limit back beside another pack: a charge.
RELIEF: Final = ("charged", "overnight")
#: How long each limit holds [s]; None until it is taken back.
HOLDS: Final[dict[str, float | None]] = {
    "tilt_back": None, "overheated": HOT_FOR_S, "speed_step": HOLDS_FOR_S, "beeping": HOLDS_FOR_S,
}  # fmt: skip


def limits_shown(seen: RangeTest, at_s: float) -> list[Notice]:
    """Limits that hold at a moment of a ride, the gravest first.

    Notes
    -----
    A tilt-back holds until the pack is charged or changed: it comes again. A beep and a cut in speed
    hold for half an hour, heat for a quarter, unless something was ridden since.
    """
    last_relief = relieved_s(seen)
    found = []
    for what, code in TOLD.items():
        noted = [e for e in seen.entries if e.what == what and e.time_s > last_relief]
        if noted and _holds(what, noted[-1], seen, at_s):
            found.append(Notice(code))
    return found


def relieved_s(seen: RangeTest) -> float:
    """When a charge or another pack last took limits back [s]; before the start where nothing did."""
    times = (e.time_s for e in seen.entries if e.kind == "swap" or e.what in RELIEF)
    return max(times, default=-1.0)


def _holds(what: str, noted: Entry, seen: RangeTest, at_s: float) -> bool:
    holds_s = HOLDS[what]
    if holds_s is not None and at_s - noted.time_s > holds_s:
        return False
    if what == "overheated":
        # Who rode on since has let it cool, or has not noted it again.
        return [e for e in seen.entries if e.kind not in ("stop", "settle")][-1] is noted
    return True
