"""What a method has to remark about itself: codes with values, and the sentences that they become.

The `note` of a method and the `reason` of a promise in the JSON are made here; nothing asks what they say. The sentences
stand in `en/remarks.ftl`.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final, Literal, get_args

from limpet.notices.catalogue import Catalogue, texts_of
from limpet.notices.words import functions_for
from limpet.readers import METRIC

RemarkCode = Literal[
    "samples", "filled_in", "covers", "meter", "volts_of_samples", "loaded_volts", "resting_volts", "route",
    "zero_at_start", "speed_integrated", "track_holes", "track_breaks", "pieces", "laps", "laps_and_finer",
    "laps_and_half", "laps_and_pace", "label", "gauge", "straight_line", "through_curves",
    "wall", "own_curve", "one_run", "several_runs", "display_step", "bends",
]  # fmt: skip

_REMARKS: Final = Catalogue(texts_of("remarks"), functions_for)


@dataclass(frozen=True, slots=True)
class Remark:
    """A code of `RemarkCode` and the values of its sentence, by name."""

    code: RemarkCode
    values: tuple[tuple[str, float | str], ...] = ()

    @property
    def said(self) -> str:
        """Its sentence."""
        return _REMARKS.say(self.code, dict(self.values), METRIC)


def remark(code: RemarkCode, **values: float | str) -> Remark:
    """A remark with its values."""
    return Remark(code, tuple(values.items()))


def said(remarks: Sequence[Remark]) -> str:
    """Several remarks one after the other; empty for none."""
    return " ".join(item.said for item in remarks)


def remark_codes() -> tuple[RemarkCode, ...]:
    """Every code there is."""
    return get_args(RemarkCode)
