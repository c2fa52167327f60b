"""The trade's terms in a sentence each, and where riders disagree and what Limpet does about it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Final


@dataclass(frozen=True, slots=True)
class Term:
    """A term of the trade: its name and, in one plain sentence or two, what it means here.

    `found` are the phrases by which the page knows it where it first stands on a screen; empty where a reader meets
    it on the Method page alone.
    """

    name: str
    meaning: str
    found: tuple[str, ...] = ()


#: By code, in the order in which a newcomer meets them.
TERMS: Final[Mapping[str, Term]] = {
    "pack": Term("Pack", "S cells in series by P in parallel. Its label says volts, amp-hours or watt-hours."),
    "full": Term("Full", "Settled after a whole charge. A charger’s green light or “100%” is full within 2%."),
    "cut_off": Term(
        "Cut-off",
        "The voltage at which the controller or the battery’s own protection stops the drive.",
        ("cut-off",),
    ),
    "resting": Term(
        "Resting volts",
        "Volts read standing still with the throttle closed, ten minutes after riding if they are to be exact.",
        ("resting volts", "resting voltage"),
    ),
    "under_load": Term(
        "Volts under load",
        "Volts read while the motor pulls. They are lower than resting volts by the sag.",
        ("under load",),
    ),
    "sag": Term("Sag", "Resting volts less volts under load: current times the pack’s resistance."),
    "charge": Term("State of charge", "The share of the charge that is left."),
    "energy_left": Term(
        "Energy left",
        "The share of the energy that is left; it falls sooner than the charge, as the volts fall too.",
    ),
    "tideline": Term(
        "Tideline",
        "Energy left over distance: it ebbs from full on the left to cut-off on the right.",
        ("tideline", "tidelines"),
    ),
    "usable": Term("Usable energy", "From full to cut-off at this load. A gentle ride gets more out of the same pack."),
    "consumption": Term("Consumption", "Watt-hours over a mile or a kilometre."),
    "reserve": Term(
        "Reserve",
        "The share of usable energy that you plan to leave in the pack; 20% unless you set another.",
        ("reserve",),
    ),
    "range": Term("Range to cut-off", "How far a full pack goes, ridden like this, until the drive stops."),
    "plan_on": Term(
        "Plan on",
        "How far 19 of 20 rides like this one go with the reserve left, in like weather, while the pack is not much older.",
        ("plan on",),
    ),
    "rides_in_20": Term(
        "19 rides in 20",
        "Of twenty rides like this, nineteen go at least so far; one may fall short.",
        ("19 rides in 20", "19 of 20 such rides", "19 times in 20"),
    ),
    "plus_minus": Term(
        "±",
        "How far off the figure may be, up or down: 19 times in 20 the true one lies within.",
        ("±",),
    ),
    "adjusted": Term(
        "Adjusted",
        "Worked out as if all were ridden at the same speed and load, in the same wind and warmth.",
        ("adjusted", "adjusting"),
    ),
    "fade": Term("Fade", "From where the speed that can be held falls."),
    "limp": Term("Limp distance", "What was crawled after the end; left out of the range."),
    "entry": Term("Entry", "What you noted at one moment: distance, volts, gauge, whatever you read."),
    "leg": Term("Leg", "A piece between two entries, or of a lap, a mode, a speed or a slope."),
    "gauge": Term("Gauge", "Any bars, dots or percent that the vehicle shows of its charge."),
    "trip_meter": Term("Trip meter", "Distance by the wheel, set to zero before the ride."),
    "track": Term("Track", "Where a phone or GPS was, fix by fix."),
    "regeneration": Term("Regeneration", "Energy that braking returns to the pack."),
    "full_cycle": Term("Equivalent full cycle", "Charge put through a pack over its rated charge."),
    "retained": Term("Remaining capacity", "What the pack holds compared with its label, adjusted to 25 °C."),
    "assisted": Term(
        "Throttle only, assisted",
        "Whether legs helped. The two are not compared without the rider’s watts.",
    ),
}  # fmt: skip


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
