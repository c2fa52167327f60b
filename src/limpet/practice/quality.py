"""How good the readings of a practice log are: read too soon, mistaken, settled, there at all."""

from __future__ import annotations

from typing import Final

from limpet.evidence.model import Entry
from limpet.practice.practice_log import PracticeLog
from limpet.quantity import Quantity
from limpet.tell import analyse

#: A voltage that is read sooner after stopping is hasty; so long one should wait here [s] (*common
#: practice*: two or three minutes tell most of it).
HASTY_S: Final = 60.0
SETTLED_S: Final = 180.0
#: A reading this near the turn is a reading at the turn [m].
AT_THE_TURN_M: Final = 700.0
#: What was done, beside what was read.
DONE = ("stop", "resume", "turn")


def readings(log: PracticeLog) -> list[Entry]:
    """The entries that are read, not done."""
    return [entry for entry in log.entries if entry.kind not in DONE]


def hasty_s(log: PracticeLog, entry: Entry) -> float | None:
    """For how long it stood before a voltage at rest that was read too soon [s]; else None."""
    stood = log.stood_s(entry.time_s)
    if entry.voltage_rest_v is None or stood is None or stood >= HASTY_S:
        return None
    return stood


def is_mistaken(log: PracticeLog, entry: Entry) -> bool:
    """Whether a voltage was noted as at rest while it pulled."""
    return entry.voltage_rest_v is not None and log.stood_s(entry.time_s) is None


def settled_v(log: PracticeLog, time_s: float) -> float:
    """What the pack would have shown there after a proper rest [V]."""
    return log.ride.rest_v(log.place(time_s), SETTLED_S)


def is_read_near(log: PracticeLog, time_s: float) -> bool:
    """Whether a settled voltage was read near where it was at a moment."""
    at_m = log.place(time_s).distance_m
    return any(
        entry.voltage_rest_v is not None
        and (log.stood_s(entry.time_s) or 0.0) >= HASTY_S
        and abs(log.place(entry.time_s).distance_m - at_m) <= AT_THE_TURN_M
        for entry in log.entries
    )


def range_of(log: PracticeLog) -> Quantity | None:
    """The range to cut-off that a log tells; None where it tells none."""
    return analyse(log.test).range_to_cutoff


def half_of(found: Quantity) -> float:
    """Half the width of its interval."""
    return (found.high - found.low) / 2
