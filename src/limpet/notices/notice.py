"""A notice as data: a code of a closed list, and the values that its sentence holds."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from limpet.notices.codes import CODES, Severity
from limpet.notices.words import sentence
from limpet.readers import METRIC, ReaderUnits

Value = float | int | str
#: Characters of a sentence that an older version kept.
MOST_KEPT = 500


@dataclass(frozen=True, slots=True, init=False)
class Notice:
    """A warning, a piece of advice or a note; numbers are in the core's units.

    Raises
    ------
    ValueError
        When the code is not in the list, or the values are not those of its sentence.
    """

    code: str
    values: Mapping[str, Value]

    def __init__(self, code: str, /, **values: Value) -> None:
        kind = CODES.get(code)
        if kind is None:
            raise ValueError(f"no notice is called {code}")
        if kind.values != values.keys():
            raise ValueError(f"{code} holds {sorted(kind.values)}, given {sorted(values)}")
        object.__setattr__(self, "code", code)
        object.__setattr__(self, "values", values)

    def __hash__(self) -> int:
        return hash((self.code, tuple(sorted(self.values.items()))))

    @property
    def severity(self) -> Severity:
        """How much it matters."""
        return CODES[self.code].severity

    @property
    def message(self) -> str:
        """The sentence in metric units."""
        return sentence(self.code, self.values, METRIC)

    def said(self, units: ReaderUnits) -> str:
        """The sentence in a reader's units."""
        return sentence(self.code, self.values, units)

    @staticmethod
    def from_json(kept: object) -> Notice:
        """A notice as it was kept by any version; what is not in today's list stays in its words."""
        if isinstance(kept, Mapping):
            values = kept.get("values")
            if isinstance(values, Mapping):
                try:
                    return Notice(str(kept.get("code")), **values)
                except (TypeError, ValueError):
                    pass
            if isinstance(kept.get("message"), str):
                return Notice("as_kept", text=kept["message"][:MOST_KEPT])
        return Notice("as_kept", text=str(kept)[:MOST_KEPT])

    def to_json(self, units: ReaderUnits = METRIC) -> dict[str, Any]:
        """As the formats carry it; the sentence goes along for readers without a table of codes."""
        return {
            "code": self.code,
            "severity": self.severity,
            "message": self.said(units),
            "values": dict(self.values),
        }
