"""The five lessons of the practice ride, and what a reading cost, in words.

Fields as in `limpet.notices`; values are in the core's units. That half the energy is not half the way,
that a gauge lies at its end, and what a voltage needs to settle are *common practice*, no source.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Final, Literal

LessonCode = Literal["settle", "pulling", "half_way", "last_step", "enough"]
State = Literal["met", "missed", "untried"]
CostCode = Literal["hasty", "mistaken", "forgot_start", "forgot_turn", "forgot_end"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Lesson:
    """A lesson, and what is said of it where it was kept, missed, or did not come up."""

    title: str
    met: str
    missed: str
    untried: str


LESSONS: Final[Mapping[LessonCode, Lesson]] = {
    "settle": Lesson(
        title="Settle before you read",
        met="You waited {waited_s:.0f} s or longer before each voltage at rest.",
        missed="At {at_m:distance} you read {read_v:.1f} V, {waited_s:.0f} s after stopping. Settled, it would have come to {truly_v:.1f} V.",
        untried="You read no voltage at rest on the way. Stop, wait until it stands still, read.",
    ),
    "pulling": Lesson(
        title="Pulling is not resting",
        met="At {at_m:distance} {read_v:.1f} V pulling stood for {truly_v:.1f} V at rest, and you said which it was.",
        missed="At {at_m:distance} {read_v:.1f} V was noted as at rest while it pulled. At rest the pack had {truly_v:.1f} V.",
        untried="You read no voltage while it pulled. At {at_m:distance} it would have shown {read_v:.1f} V for {truly_v:.1f} V at rest.",
    ),
    "half_way": Lesson(
        title="Half the energy is not half the way",
        met="The way out took {out:percent} of what you used, the same road home {home:percent}. It came home.",
        missed="The way out took {out:percent} of what you used, the same road home more than you had.",
        untried="You ended before it was home. So far the way out took {out:percent} of what you used.",
    ),
    "last_step": Lesson(
        title="The gauge’s last step",
        met="Its last bar came on at {at_m:distance}, with {left:percent} of the energy left, and you noted it.",
        missed="Its last bar came on at {at_m:distance}, with {left:percent} of the energy left. Nobody noted it: what the last bar means is what one most wants to know.",
        untried="It never came down to its last bar.",
    ),
    "enough": Lesson(
        title="Enough is enough",
        met="{noted:.0f} entries told the range to ±{all_m:distance}; three of them alone, ±{few_m:distance}.",
        missed="{noted:.0f} entries told the range to ±{all_m:distance}. Three of them alone had told it to ±{few_m:distance}: the others cost stops and told next to nothing.",
        untried="Too few entries to see which of them were needed.",
    ),
}  # fmt: skip

COSTS: Final[Mapping[CostCode, str]] = {
    "hasty": "{read_v:.1f} V at {at_m:distance}, read {waited_s:.0f} s after stopping instead of settled ({truly_v:.1f} V)",
    "mistaken": "{read_v:.1f} V at {at_m:distance}, noted as at rest while it pulled",
    "forgot_start": "no voltage at rest before the first metre ({truly_v:.1f} V)",
    "forgot_turn": "no settled voltage at the turn ({truly_v:.1f} V)",
    "forgot_end": "no voltage and trip meter at the end ({truly_v:.1f} V)",
}
