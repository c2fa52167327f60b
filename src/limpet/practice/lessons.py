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
        met="You waited {waited_s:.0f} s or longer before each resting voltage.",
        missed="At {at_m:distance} you read {read_v:.1f} V, {waited_s:.0f} s after stopping. Settled, it would have come to {truly_v:.1f} V.",
        untried="You read no resting volts on the ride. Stop, wait until the volts stand still, then read.",
    ),
    "pulling": Lesson(
        title="Under load is not resting",
        met="At {at_m:distance} {read_v:.1f} V under load meant {truly_v:.1f} V resting, and you noted which it was.",
        missed="At {at_m:distance} you noted {read_v:.1f} V as resting while the motor pulled. Resting, the pack had {truly_v:.1f} V.",
        untried="You read no volts under load. At {at_m:distance} they would have shown {read_v:.1f} V for {truly_v:.1f} V resting.",
    ),
    "half_way": Lesson(
        title="Half the energy is not half the distance",
        met="The ride out used {out:percent} of your energy, the same road home {home:percent}. You got home.",
        missed="The ride out used {out:percent} of your energy, and the same road home needed more than you had left.",
        untried="You ended before you were home. The ride out used {out:percent} of your energy so far.",
    ),
    "last_step": Lesson(
        title="The gauge’s last step",
        met="Its last bar came on at {at_m:distance}, with {left:percent} of the energy left, and you noted it.",
        missed="Its last bar came on at {at_m:distance}, with {left:percent} of the energy left. You didn’t note it, and the last bar is the one you most want to know.",
        untried="It never came down to its last bar.",
    ),
    "enough": Lesson(
        title="Enough is enough",
        met="Your {noted:.0f} entries gave the range to ±{all_m:distance}; three of them alone, to ±{few_m:distance}.",
        missed="Your {noted:.0f} entries gave the range to ±{all_m:distance}. Three of them alone gave ±{few_m:distance}: the others cost you stops and added next to nothing.",
        untried="Too few entries to see which of them were needed.",
    ),
}  # fmt: skip

COSTS: Final[Mapping[CostCode, str]] = {
    "hasty": "{read_v:.1f} V at {at_m:distance}, read {waited_s:.0f} s after stopping instead of settled ({truly_v:.1f} V)",
    "mistaken": "{read_v:.1f} V at {at_m:distance}, noted as resting while it pulled",
    "forgot_start": "no resting volts before the first metre ({truly_v:.1f} V)",
    "forgot_turn": "no resting volts at the turn ({truly_v:.1f} V)",
    "forgot_end": "no volts and trip meter at the end ({truly_v:.1f} V)",
}
