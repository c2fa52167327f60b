"""What matters most at this moment of a ride, in one line: a code and its figures."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Final, Literal

from limpet.notices.lines import LINES
from limpet.readers import ReaderUnits
from limpet.under_way.answer import Following

Code = Literal[
    "stop_now", "tilt_back", "beeping", "speed_step", "too_hot", "read_volts", "contradict", "shown_short",
    "range_left", "enough", "turn_now", "turn_by", "slow_to", "home", "should", "reserve",
    "probably", "might_not", "probably_not", "not_home", "laps", "laps_reserve", "laps_short", "there",
]  # fmt: skip

#: What is said under a line, by its code.
UNDER: Final = "_under"
#: How a rider's own instrument is named in a line, by what they look at; the words stand in `lines.ftl`.
READS: Final[Mapping[str, str]] = {
    name: LINES.plain(f"reads_{name or 'nothing'}")
    for name in ("trip_m", "odometer_m", "gps_m", "track", "")
}
#: Questions that are answered by evidence, not by getting somewhere.
MEASURING: Final = frozenset(
    {"floor", "everyday", "economy", "claim", "compare", "ageing", "temperature"}
)


@dataclass(frozen=True, slots=True, kw_only=True)
class Matter:
    """The line that matters, by its code, and the values that its words hold, in the core's units."""

    code: Code
    values: Mapping[str, float | str]

    def said(self, units: ReaderUnits) -> tuple[str, str]:
        """The line and what stands under it, in a reader's units."""
        head = LINES.say(self.code, self.values, units)
        return head, LINES.say(self.code + UNDER, self.values, units)


def values_of(code: Code) -> frozenset[str]:
    """The names of the values that a line holds."""
    return LINES.variables[code] | LINES.variables[code + UNDER]


@dataclass(frozen=True, slots=True, kw_only=True)
class Standing:
    """How a ride stands at a place: chances with and without the reserve, and what can be done.

    `turn_until_m` up to where turning round can matter, and `turn_by_m` by where it has to be done, None
    where it is too late; `slower` the best chance to arrive at a lower speed, and `slow` the speed at
    which it would with the wanted chance, and that chance; `laps` the number of this lap and the
    chance of the next; `half` how well the range is known, where that is well enough and was asked;
    `shown_m` what the display promises to be left from here, None where it was not read; `reads` what
    the rider looks at (`READS`), and `turn_shown_m` what it shows at the turn.
    """

    arrives: float
    reaches: float
    wanted: float
    reserve: float
    left: float
    left_m: float
    done_m: float
    turn_until_m: float = 0.0
    turn_by_m: float | None = None
    slower: float = 0.0
    slow: tuple[float, float] | None = None
    laps: tuple[int, float] | None = None
    half: float | None = None
    shown_m: float | None = None
    reads: str = ""
    turn_shown_m: float | None = None


def known_half(answer: Following, purpose: str | None) -> float | None:
    """How well the range is known, where it is known as well as was wanted by a test that measures it."""
    enough = answer.enough
    if enough is None or purpose not in MEASURING or enough.relative_half_width > enough.wanted:
        return None
    return enough.relative_half_width


#: Limits that the vehicle itself has shown, by their notice: no range outranks them.
LIMITS: Final[Mapping[str, Code]] = {
    "tilts_back": "tilt_back",
    "overheated_now": "too_hot",
    "cut_its_speed": "speed_step",
    "at_a_step": "speed_step",
    "beeps": "beeping",
}


def matter_of(answer: Following, standing: Standing | None, purpose: str | None = None) -> Matter:
    """What matters most.

    Parameters
    ----------
    answer : the ride as it stands
    standing : None while there is no way
    purpose : of the test
    """
    limit = next((LIMITS[n.code] for n in answer.warnings if n.code in LIMITS), None)
    if limit is not None:
        return Matter(code=limit, values={})
    if any(notice.severity == "danger" for notice in answer.warnings):
        return Matter(code="stop_now", values={})
    if any(notice.code == "nothing_recorded" for notice in answer.warnings):
        return Matter(code="read_volts", values={})
    if answer.contradicts:
        return Matter(code="contradict", values={})
    if standing is not None:
        return matter_at(standing)
    half = known_half(answer, purpose)
    if half is not None:
        return Matter(code="enough", values={"half": half})
    on = answer.range_left_to_reserve
    return Matter(code="range_left", values={"range_m": on.value, "least_m": max(on.low, 0.0)})


def matter_at(standing: Standing) -> Matter:
    """What matters most of a way."""
    return Matter(code=(code := code_at(standing)), values=_values(code, standing))


#: The rungs of the ladder of words: chances from which on it is said that one surely, should, will
#: probably, might not, or probably won't get home [-].
SURE, SHOULD, PROBABLY, MIGHT_NOT, PROBABLY_NOT = 0.99, 0.95, 0.80, 0.50, 0.20

#: A condition: a fact is at least, or under, a number or another fact.
Condition = tuple[str, Literal["at_least", "under"], float | str]
#: What matters most, as data, so that a device without signal decides by the same: the first line whose
#: conditions all hold. The facts are those of `facts_of`.
RULES: Final[tuple[tuple[Code, tuple[Condition, ...]], ...]] = (
    ("laps_short", (("laps", "at_least", 1), ("reaches", "under", SHOULD))),
    ("laps_reserve", (("laps", "at_least", 1), ("arrives", "under", "wanted"))),
    ("enough", (("laps", "at_least", 1), ("known", "at_least", 1))),
    ("laps", (("laps", "at_least", 1),)),
    ("shown_short", (("shown_short", "at_least", 1),)),
    # Where turning hardly helps any more that is what there is to say.
    ("not_home", (("done_m", "under", "turn_until_m"), ("turn_known", "under", 1), ("reaches", "under", PROBABLY_NOT))),
    ("turn_now", (("done_m", "under", "turn_until_m"), ("turn_known", "under", 1))),
    # At the way's own turn nobody needs to be told to turn.
    ("turn_by", (("done_m", "under", "turn_until_m"), ("turn_m", "under", "last_turn_m"))),
    ("there", (("left_m", "under", 1),)),
    ("enough", (("arrives", "at_least", "wanted"), ("known", "at_least", 1))),
    ("home", (("arrives", "at_least", "wanted"), ("reaches", "at_least", SURE))),
    ("should", (("arrives", "at_least", "wanted"), ("reaches", "at_least", SHOULD))),
    ("slow_to", (("slower", "at_least", "wanted"), ("arrives", "under", "wanted"))),
    ("reserve", (("reaches", "at_least", SHOULD),)),
    ("probably", (("reaches", "at_least", PROBABLY),)),
    ("might_not", (("reaches", "at_least", MIGHT_NOT),)),
    ("probably_not", (("reaches", "at_least", PROBABLY_NOT),)),
    ("not_home", ()),
)  # fmt: skip
#: Nearer than this to the way's own turn one turns there [m].
AT_ITS_TURN_M = 1.0


def facts_of(standing: Standing) -> dict[str, float]:
    """What the rules ask of a standing; 1 for yes, 0 for no."""
    return {
        "arrives": standing.arrives,
        "reaches": standing.reaches,
        "slower": standing.slower,
        "wanted": standing.wanted,
        "done_m": standing.done_m,
        "left_m": standing.left_m,
        "turn_until_m": standing.turn_until_m,
        "last_turn_m": standing.turn_until_m - AT_ITS_TURN_M,
        "turn_known": float(standing.turn_by_m is not None),
        "turn_m": 0.0 if standing.turn_by_m is None else standing.turn_by_m,
        "laps": 0.0 if standing.laps is None else float(standing.laps[0]),
        "known": float(standing.half is not None),
        "shown_short": float(standing.shown_m is not None and standing.shown_m < standing.left_m),
    }


def code_at(standing: Standing) -> Code:
    """The line that matters, by its code."""
    facts = facts_of(standing)

    def holds(condition: Condition) -> bool:
        name, relation, other = condition
        bound = facts[other] if isinstance(other, str) else other
        return facts[name] >= bound if relation == "at_least" else facts[name] < bound

    return next(code for code, conditions in RULES if all(map(holds, conditions)))


def _values(code: Code, standing: Standing) -> dict[str, float | str]:
    speed, chance = standing.slow or (0.0, 0.0)
    lap, following = standing.laps or (0, 0.0)
    turn_m = standing.turn_by_m or 0.0
    turn_shown_m = turn_m if standing.turn_shown_m is None else standing.turn_shown_m
    known: dict[str, float | str] = {
        "arrives": standing.arrives,
        "reaches": standing.reaches,
        "left": standing.left,
        "left_m": standing.left_m,
        "turn_m": turn_m,
        "to_go_m": max(turn_m - standing.done_m, 0.0),
        "speed_mps": speed,
        "chance": chance,
        "this": standing.arrives,
        "next": following,
        "lap": float(lap),
        "half": standing.half or 0.0,
        "reserve": standing.reserve,
        "shown_m": max(standing.shown_m or 0.0, 0.0),
        "reads": READS[standing.reads],
        "turn_shown_m": turn_shown_m,
    }
    return {name: known[name] for name in values_of(code)}
