"""A ride under way in draws, made for a device that is about to lose its signal.

It holds figures only: in each draw what is left, what the way takes from place to place, and what each
instrument would show. Whoever reads it moves the draws to where they agree with what was read since
(`web/src/roadside/draws.ts`), and applies no rule of its own.
"""

from __future__ import annotations

from copy import copy
from dataclasses import asdict, dataclass, replace
from typing import Any, Final

import numpy as np
from numpy.typing import NDArray

from limpet.assumptions import PER_KM
from limpet.evidence.model import RangeTest
from limpet.outlook.answer import SLOWEST_MPS
from limpet.read.choose import least_uncertain
from limpet.read.height_difference import climb_wh
from limpet.state.uncertain_inputs import metres_of_height
from limpet.under_way.answer import Following
from limpet.under_way.demand import Slower
from limpet.under_way.now import Now
from limpet.under_way.onward import Onward
from limpet.under_way.reads import Reads
from limpet.under_way.seeing import Sight, sights_of
from limpet.under_way.step_down import Step, steps_of
from limpet.under_way.ways import said_mps

FloatArray = NDArray[np.float64]

#: Draws that go out: all of the ride but its best value.
DRAWS = 499
#: Places along a way that bends with its hills; between two, all runs straight.
PLACES = 9
#: Speeds over the trip's own; the slowest that is worth riding comes after them.
SPEEDS: Final = (1.0, 0.8, 0.6)
#: By so much more the current is taken to see what the pack gives then.
MORE: Final = 1.3
#: Significant digits of a column: as many as leave a chance where it was.
DIGITS = 3


@dataclass(frozen=True, slots=True, kw_only=True)
class Base:
    """What an instrument of the way showed where the ride had come `at_m` by the chosen distance."""

    name: str
    shown: float
    at_m: float


@dataclass(frozen=True, slots=True, kw_only=True)
class FollowTable:
    """The table; columns over J draws.

    `left_wh`, of which `last_wh` is what no reading tells of (together they may be more than a pack holds),
    `usable_wh`, `per_m` (of this kind of riding [Wh/m]), shape (J,). `heat_slope` is how the log of what the
    pack gives goes with that of what a metre takes, where the draws do not have it: more current leaves more
    as heat. At `places_m`, shape (P,): `takes_wh` from here on to a place, `rest_wh` from there to the way's
    end, `home_wh` home from there where there is something to turn on, shape (P, J); `lap_wh` of one lap
    where laps are ridden, shape (J,). `slower` is what the rest takes at `speeds_mps` over what it takes at
    the trip's own, shape (speeds, P). `step_std` and `height_m` how far a stretch's energy may lie beside its
    length (`form_std`), `climb_wh` what a metre of climb takes. `said_mps` is the speed that the rider said
    to hold. `steps` are the vehicle's own steps in speed; `in_bag` is what the packs in the bag add to
    `usable_wh` when they are full, of it.
    """

    at_s: float
    done_m: float
    until_m: float
    onward: str
    leads: bool
    turned: bool
    lap_m: float | None
    turn_until_m: float
    half: float | None
    in_bag: float
    reserve: float
    wanted: float
    shows_charge: bool
    reads: Reads | None
    said_mps: float | None
    speeds_mps: tuple[float, ...]
    slower: FloatArray
    places_m: FloatArray
    left_wh: FloatArray
    last_wh: FloatArray
    usable_wh: FloatArray
    per_m: FloatArray
    heat_slope: float
    takes_wh: FloatArray
    rest_wh: FloatArray
    home_wh: FloatArray | None
    lap_wh: FloatArray | None
    step_std: float
    height_m: float
    climb_wh: float
    sights: tuple[Sight, ...]
    bases: tuple[Base, ...]
    steps: tuple[Step, ...]

    def to_json(self) -> dict[str, Any]:
        """The table as it goes to a device: numbers with no more digits than they are worth."""
        return {
            "follow_table": 2,
            "at_s": self.at_s,
            "done_m": round(self.done_m, 1),
            "until_m": round(self.until_m, 1),
            "onward": self.onward,
            "leads": self.leads,
            "turned": self.turned,
            "lap_m": self.lap_m,
            "turn_until_m": round(self.turn_until_m, 1),
            "half": self.half,
            "in_bag": round(self.in_bag, 4),
            "reserve": self.reserve,
            "wanted": self.wanted,
            "shows_charge": self.shows_charge,
            "reads": None if self.reads is None else asdict(self.reads),
            "said_mps": self.said_mps,
            "speeds_mps": [round(speed, 3) for speed in self.speeds_mps],
            "slower": few(self.slower),
            "places_m": [round(place, 1) for place in self.places_m.tolist()],
            "left_wh": few(self.left_wh),
            "last_wh": few(self.last_wh),
            "usable_wh": few(self.usable_wh),
            "per_m": few(self.per_m),
            "heat_slope": round(self.heat_slope, 4),
            "takes_wh": few(self.takes_wh),
            "rest_wh": few(self.rest_wh),
            "home_wh": None if self.home_wh is None else few(self.home_wh),
            "lap_wh": None if self.lap_wh is None else few(self.lap_wh),
            "step_std": self.step_std,
            "height_m": round(self.height_m, 1),
            "climb_wh": round(self.climb_wh, 5),
            "sights": [sight.to_json() for sight in self.sights],
            "bases": [asdict(base) for base in self.bases],
            "steps": [asdict(step) for step in self.steps],
        }


def few(values: FloatArray) -> Any:
    """Numbers with `DIGITS` significant digits, as lists."""
    size = np.abs(values)
    power = np.floor(np.log10(np.where(size > 0, size, 1.0)))
    scale = 10.0 ** np.clip(DIGITS - 1 - power, -6, 12)
    return (np.round(values * scale) / scale).tolist()


def table_of(
    seen: RangeTest, onward: Onward, answer: Following, half: float | None = None
) -> FollowTable:
    """Make the table of a ride.

    Parameters
    ----------
    seen : what was recorded so far, its instruments set right
    answer : the ride as it stands
    half : how well the range is known, where that is well enough and was asked
    """
    now = onward.now
    target = float(now.course.draws.columns.target_mps[0])
    shares = (*SPEEDS, float(np.clip(SLOWEST_MPS / max(target, 0.1), 0.2, 0.5)))
    repeats = now.course.repeats and now.way.trip.route.laps is None
    straight = onward.goes_out or repeats
    places = np.linspace(now.done_m, onward.furthest_m, 2 if straight else PLACES)
    # The first draw is the best value, and no more likely than the others.
    rows = np.unique(np.linspace(1, len(now.left_wh) - 1, DRAWS).round().astype(int))
    slow = now.course.at_speeds([share * target for share in shares[1:]])
    homes = [onward.home_wh(place) for place in places.tolist()]
    lap_wh = None
    if repeats:
        lap_wh = now.rate.carried(now.course.between_wh(0.0, now.course.length_m))[rows]
    return FollowTable(
        at_s=answer.at_s,
        done_m=now.done_m,
        until_m=onward.until_m,
        onward=now.way.onward,
        leads=now.way.leads,
        turned=now.way.turned,
        lap_m=now.course.length_m if repeats else None,
        turn_until_m=onward.turn_until_m,
        half=half,
        in_bag=now.in_bag / (now.spare + len(now.found.evidence.ride.packs)),
        reserve=now.way.trip.reserve,
        wanted=onward.wanted,
        shows_charge=answer.shows_charge,
        reads=answer.reads,
        said_mps=said_mps(seen),
        speeds_mps=tuple(share * target for share in shares),
        slower=np.array([_ratios(onward, place, slow) for place in places.tolist()]).T,
        places_m=places,
        left_wh=(now.read_wh + now.last_wh)[rows],
        last_wh=now.last_wh[rows],
        usable_wh=now.usable_wh[rows],
        per_m=now.per_m[rows],
        heat_slope=_heat_slope(now),
        takes_wh=np.stack([onward.takes_wh(place)[rows] for place in places.tolist()]),
        rest_wh=np.stack([onward.need_wh(place)[rows] for place in places.tolist()]),
        home_wh=None if homes[0] is None else np.stack([h[rows] for h in homes if h is not None]),
        lap_wh=lap_wh,
        step_std=PER_KM.std,
        height_m=metres_of_height(seen),
        climb_wh=climb_wh(seen, 1.0),
        sights=sights_of(seen, now, rows),
        bases=bases_of(seen, now),
        steps=steps_of(seen, now),
    )


def _heat_slope(now: Now) -> float:
    """d ln usable / d ln consumption [-], by the pack's own state; 0 once something was drawn.

    From then on each draw has the current of its own consumption, and what it lost by it.
    """
    left = now.found.remaining
    ride = left.model.ride
    if ride.step.any() or ride.cruise_w is None:
        return 0.0
    faster = copy(left.model)
    faster.ride = replace(ride, cruise_w=MORE * ride.cruise_w)
    more = faster.state(left.posterior.scores)
    usable = [one.usable * one.capacity_ah * (1 - one.lost) for one in (left.state, more)]
    return float(np.median(np.log(usable[1] / usable[0])) / np.log(MORE))


def _ratios(onward: Onward, place: float, slow: Slower) -> list[float]:
    """What the rest takes at each of the speeds, over what it takes at the trip's own."""
    end = onward.until_m
    if onward.goes_out or end - place < 1.0:
        # On the way out the way home is the one that was ridden.
        begin, end = max(onward.now.course.length_m - 1000.0, 0.0), onward.now.course.length_m
    else:
        begin = place
    return [1.0, *slow.over(begin, end).tolist()]


def bases_of(seen: RangeTest, now: Now) -> tuple[Base, ...]:
    """The last reading of each instrument of the way, and where that was."""
    chosen = least_uncertain(now.found.evidence.distances)
    if chosen is None:
        return ()
    found = []
    for name in ("laps", "trip_m", "gps_m", "odometer_m"):
        last = next((e for e in reversed(seen.entries) if getattr(e, name) is not None), None)
        if last is not None:
            at_m = float(chosen.line.at(np.array([last.time_s]))[0])
            found.append(Base(name=name, shown=float(getattr(last, name)), at_m=at_m))
    return tuple(found)
