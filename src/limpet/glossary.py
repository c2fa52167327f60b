"""The trade's terms in a sentence each, and where riders disagree and what Limpet does about it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

#: Term → what it means here, in the order in which a newcomer meets them.
TERMS: Final = {
    "Pack": "S cells in series by P in parallel. Its label says volts, amp-hours or watt-hours.",
    "Full": "Settled after a whole charge. A charger’s green light or “100%” is full within 2%.",
    "Cut-off": "The voltage at which the controller or the BMS stops the drive.",
    "Resting voltage": "Read standing still with the throttle closed, ten minutes after load if it is to be exact.",
    "Loaded voltage": "Read under load, while the motor pulls. It is lower by the sag.",
    "Sag": "Resting less loaded voltage: current times the pack’s resistance.",
    "State of charge": "The share of the charge that is left.",
    "Energy left": "The share of the energy that is left; it falls sooner than the charge, as the volts fall too.",
    "Usable energy": "From full to cut-off at this load. A gentle ride gets more out of the same pack.",
    "Consumption": "Watt-hours over a mile or a kilometre.",
    "Reserve": "The share of usable energy that you plan to leave in the pack; 20% unless you set another.",
    "Range to cut-off": "How far a full pack goes, ridden like this, until the drive stops.",
    "Plan on": "What 19 of 20 rides like this one go, with the reserve kept, in weather like it and while the pack is not much older.",
    "Fade": "From where the speed that can be held falls.",
    "Limp distance": "What was crawled after the end; kept apart from the range.",
    "Entry": "What you noted at one moment: distance, volts, gauge, whatever you read.",
    "Leg": "A piece between two entries, or of a lap, a mode, a speed or a slope.",
    "Gauge": "Any bars, dots or percent that the vehicle shows of its charge.",
    "Trip meter": "Distance by the wheel, set to zero before the ride.",
    "Track": "Where a phone or receiver was, fix by fix.",
    "Regeneration": "Energy that braking returns to the pack.",
    "Equivalent full cycle": "Charge put through a pack over its rated charge.",
    "Retained fraction": "What the pack holds compared with its label, adjusted to 25 °C.",
    "Throttle only, assisted": "Whether legs helped. The two are not compared without the rider’s watts.",
}


@dataclass(frozen=True, slots=True, kw_only=True)
class School:
    """A question on which riders disagree: what they say, and what Limpet does."""

    question: str
    says: tuple[str, ...]
    limpet: str


SCHOOLS: Final = (
    School(
        question="Drain to nothing?",
        says=(
            "Only a ride to cut-off is a true answer.",
            "Stop at 10 to 20% and extrapolate: it spares the pack.",
        ),
        limpet="Both. A plan ends at the reserve unless you say otherwise; one to cut-off shows its cautions.",
    ),
    School(
        question="Volts or percent?",
        says=("Volts cannot be misread.", "Percent is what I ride by."),
        limpet="Note either. Volts go through the cells’ curve, percent through what the gauge turned out to mean.",
    ),
    School(
        question="Are volts a straight line?",
        says=("Between full and empty, yes.", "They follow a curve."),
        limpet="The curve. The straight line stands beside it as a check.",
    ),
    School(
        question="Which distance?",
        says=("The track.", "The trip meter.", "Laps.", "Something between."),
        limpet="The least uncertain; the others check it, and an instrument’s own factor is learned from tests.",
    ),
    School(
        question="Loop or real roads?",
        says=("A flat measured loop without stops.", "My real mix of stops and hills."),
        limpet="Both, as rules of a test; results carry their kind.",
    ),
    School(
        question="Pedal?",
        says=("Never in a test.", "As I ride."),
        limpet="What drove is recorded, and the rider’s watts if you know them.",
    ),
    School(
        question="Rest on the way?",
        says=("Every so often, to cool.", "Never stop."),
        limpet="Both. A rest is an entry, and volts after it count as resting.",
    ),
    School(
        question="Does regeneration give range?",
        says=("Much.", "Little."),
        limpet="It is measured: the share of what was drawn that came back.",
    ),
    School(
        question="Does cold matter?",
        says=("It does.", "Not above freezing."),
        limpet="Capacity, resistance and air are modelled; your own seasons measure it.",
    ),
)
