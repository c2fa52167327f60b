"""The five lessons of the practice ride, and what a reading cost, in words.

The words stand in `limpet/notices/en/lessons.ftl`; values are in the core's units. That half the energy is not half the way,
that a gauge lies at its end, and what a voltage needs to settle are *common practice*, no source.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal

from limpet.notices.lines import LESSON_WORDS
from limpet.readers import ReaderUnits

LessonCode = Literal["settle", "pulling", "half_way", "last_step", "enough"]
State = Literal["met", "missed", "untried"]
CostCode = Literal["hasty", "mistaken", "forgot_start", "forgot_turn", "forgot_end"]


def said_of(
    code: LessonCode, state: State, values: Mapping[str, float | str], units: ReaderUnits
) -> str:
    """What is said of a lesson that was kept, missed, or did not come up.

    Parameters
    ----------
    code : of the lesson
    state : how it went
    values : in the core's units
    units : the reader's
    """
    return LESSON_WORDS.say(f"{code}_{state}", values, units)


def slip_said(code: CostCode, values: Mapping[str, float | str], units: ReaderUnits) -> str:
    """What a slip in a reading was; as `said_of`."""
    return LESSON_WORDS.say(code, values, units)
