"""The closed list of notices: how much each matters, and the values that its sentence holds.

The sentences stand in `en/*.ftl`; the functions in them (DISTANCE, SPEED, PERCENT …) are those of
`limpet.notices.words`, which write a value in the reader's units. A value's name ends in the core's unit of it.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final, Literal

from limpet.notices.catalogue import texts_of, variables_of

#: `danger` must not be repeated, `caution` is to be weighed before riding, `advice` narrows the next
#: answer, `note` says what was done with what was given.
Severity = Literal["danger", "caution", "advice", "note"]


@dataclass(frozen=True, slots=True)
class NoticeKind:
    """A line of the list: how much it matters, its sentence as it is written, and the values in it."""

    severity: Severity
    text: str
    values: frozenset[str]


#: The files of sentences, and how much what stands in them matters.
ROOMS: Final[dict[str, Severity]] = {
    "danger": "danger",
    "caution": "caution",
    "advice": "advice",
    "note": "note",
    "again": "note",
    "verdict": "note",
    "compare": "note",
    "learned": "note",
    "look": "note",
}

CODES: Final[dict[str, NoticeKind]] = {
    code: NoticeKind(severity, text, variables_of(text))
    for room, severity in ROOMS.items()
    for code, text in texts_of(room).items()
}
