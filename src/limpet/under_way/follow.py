"""`follow(test, way) -> Following`: what is left now, how far it goes, and whether it is enough."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from limpet.evidence.checks import all_questions
from limpet.evidence.model import RangeTest
from limpet.figures.drawn import quantity
from limpet.figures.listed import listed_inputs
from limpet.figures.parts import InputResult
from limpet.notices import Notice
from limpet.planning.enough import WANTED, enough
from limpet.quantity import Quantity
from limpet.read.choose import least_uncertain
from limpet.road import Route
from limpet.state.calibrated import calibrated
from limpet.state.priors import NOTHING, Priors
from limpet.tell import cautions
from limpet.trip import Trip
from limpet.under_way.answer import Consumption, Enough, Following, Way
from limpet.under_way.now import Now, now_of
from limpet.under_way.onward import Onward, onward_of
from limpet.under_way.own_limits import limits_shown
from limpet.under_way.rate import LEAST_M
from limpet.under_way.reads import reads_of
from limpet.under_way.so_far import last_record_s, so_far
from limpet.under_way.step_down import step_ahead, step_now
from limpet.under_way.sure import MOST_UNSHOWN, shows_charge
from limpet.under_way.tideline import strip_under_way
from limpet.under_way.way_left import way_left
from limpet.under_way.ways import WayAhead
from limpet.units import METRES_PER_KM, METRES_PER_MILE

#: No range is told beyond this [m] (bounds of a trip).
MOST_M = 5_000_000.0
#: Inputs of a trip that a ride under way has better from its own readings.
OF_THE_PACK = frozenset(
    {
        "rated_energy_wh", "retained_fraction", "resistance_ohm", "pack_warming", "climb_factor",
        "stops_factor", "tyre_kpa", "surface", "max_power_w",
    }
)  # fmt: skip


def follow(
    test: RangeTest,
    trip: Trip | None = None,
    route: Route | None = None,
    *,
    ahead: WayAhead | None = None,
    until_s: float | None = None,
    priors: Priors = NOTHING,
) -> Following:
    """What a ride under way has left, and whether it is enough for the way that is left.

    Parameters
    ----------
    test : as recorded so far, or whole
    trip, route : the way (`route_of`); without them it is the way that was ridden, back, or on a
        counted lap the rest of the lap
    ahead : what the rider says of it instead, on the way
    until_s : nothing recorded later is looked at [s]; everything when None
    priors : what earlier tests taught

    Returns
    -------
    Following; one reading is enough, and none at all gives what is assumed

    Notes
    -----
    The pack's state is drawn as `analyse` draws it, with the road model's consumption among its inputs;
    what the ride has shown moves every draw (`Rate`), and the way that is left is asked of the moved
    draws. Handbook section 11.
    """
    return riding(test, trip, route, ahead=ahead, until_s=until_s, priors=priors).following


@dataclass(frozen=True, slots=True, kw_only=True)
class Riding:
    """A ride as it stands, with what further questions are asked of.

    `seen` what was recorded so far, its instruments set right; `onward` its way, in draws.
    """

    seen: RangeTest
    onward: Onward
    following: Following


def riding(
    test: RangeTest,
    trip: Trip | None = None,
    route: Route | None = None,
    *,
    ahead: WayAhead | None = None,
    until_s: float | None = None,
    priors: Priors = NOTHING,
) -> Riding:
    """As `follow`, with the draws behind its answer."""
    at_s = last_record_s(test) if until_s is None else until_s
    as_read = so_far(test, at_s)
    seen = calibrated(as_read, priors)
    now = now_of(seen, trip, route, priors, ahead)
    shown = shows_charge(seen, priors)
    onward = onward_of(seen, now, most=1.0 if shown else MOST_UNSHOWN)
    to_reserve = np.maximum(now.left_wh - onward.reserve_wh, 0.0)
    distance = _distance(now)
    against = now.found.contradiction
    way = way_left(onward, to_reserve) if now.way.leads and against is None else None
    asked = _questions(seen)
    warnings = [
        *limits_shown(seen, at_s),
        *((passed,) if (passed := step_now(seen, now)) is not None else ()),
        *cautions.stop_now(seen),
        *asked,
        *([] if against is None else [against]),
        *([Notice("hangs_on_question")] if asked else []),
        *([Notice("nothing_recorded")] if not seen.entries and seen.samples is None else []),
        *([] if shown else [Notice("no_charge_shown")]),
        *([] if now.way.stated or now.way.leads else [Notice("no_way_yet")]),
        *_turn_now(now, way),
        *((ahead_of,) if way and (ahead_of := step_ahead(seen, onward)) is not None else ()),
        *seen.notices,
    ]
    on_to_cutoff = quantity(np.minimum(now.left_wh / now.per_m, MOST_M), "m")
    following = Following(
        at_s=at_s,
        distance=distance,
        reads=reads_of(as_read, seen, now.line),
        consumption=_consumption(now) if against is None else None,
        strip=strip_under_way(seen, now, _asked_s(asked), None if against else on_to_cutoff),
        shows_charge=shown,
        energy_left_fraction=quantity(now.left_wh / now.usable_wh, "1"),
        range_left_to_cutoff=on_to_cutoff,
        range_left_to_reserve=quantity(np.minimum(to_reserve / now.per_m, MOST_M), "m"),
        reserve=now.way.trip.reserve,
        way=way,
        enough=_enough(seen, now, distance) if against is None else None,
        inputs=_inputs(now),
        warnings=tuple(dict.fromkeys(warnings)),
    )
    return Riding(seen=seen, onward=onward, following=following)


def _distance(now: Now) -> Quantity | None:
    """How far the ride has come, to where the way was last read."""
    chosen, drawn = least_uncertain(now.found.evidence.distances), now.found.drawn.distance_m
    if chosen is None or drawn is None or now.done_m <= 0:
        return None
    part = now.done_m / max(chosen.line.span, 1e-9)
    return quantity(drawn * min(part, 1.0), "m", now.done_m)


def _consumption(now: Now) -> Consumption | None:
    """What the ride took so far, by all that it has shown and what was known before."""
    if now.done_m < LEAST_M:
        return None
    per_m = np.exp(now.rate.shown)
    return Consumption(
        wh_per_km=quantity(METRES_PER_KM * per_m, "Wh/km"),
        wh_per_mi=quantity(METRES_PER_MILE * per_m, "Wh/mi"),
    )


def _asked_s(asked: list[Notice]) -> frozenset[float]:
    """Times of the entries that are questioned [s]."""
    times = (notice.values.get("time_s") for notice in asked)
    return frozenset(time for time in times if isinstance(time, float))


def _turn_now(now: Now, way: Way | None) -> list[Notice]:
    """Where going on in any case costs the reserve."""
    if way is None or way.arrives_probability >= now.way.trip.probability:
        return []
    if way.reaches_probability < now.way.trip.probability:
        return [
            Notice("may_not_get_home", left_m=way.left_m, chance_pct=100 * way.reaches_probability)
        ]
    return [
        Notice("cuts_into_reserve", left_m=way.left_m, chance_pct=100 * way.arrives_probability)
    ]


def _questions(seen: RangeTest) -> list[Notice]:
    return list(all_questions(seen.sheet.pack, seen.sheet.packs_used or 1, seen.entries))


def _enough(seen: RangeTest, now: Now, distance: Quantity | None) -> Enough | None:
    """How well a full pack's range would be known if the ride stopped now, and when well enough."""
    if distance is None or not now.found.evidence.tells_share:
        return None
    reach = quantity(now.usable_wh / now.per_m, "m")
    half = (reach.high - reach.low) / 2 / max(reach.value, 1e-9)
    if now.found.evidence.ride.reached_end:
        half = (distance.high - distance.low) / 2 / max(distance.value, 1e-9)
    metered = now.found.evidence.progress.basis in ("charge", "energy")
    plan = enough(reach.value, instruments=seen.sheet.instruments, counts_charge=metered)
    at = np.array([place for place, _ in plan.curve])
    widths = np.array([width for _, width in plan.curve])
    # As the plan has it, but beginning with what this ride has reached.
    scale = half / max(float(np.interp(now.done_m, at, widths)), 1e-9)
    later = np.flatnonzero((at >= now.done_m) & (widths * scale <= WANTED))
    at_m = now.done_m if half <= WANTED else float(at[later[0]]) if len(later) else None
    return Enough(relative_half_width=half, wanted=WANTED, at_distance_m=at_m)


def _inputs(now: Now) -> tuple[InputResult, ...]:
    own = listed_inputs(now.found.remaining)
    names = {item.name for item in own}
    road = [
        InputResult(
            name=item.name,
            value=item.value,
            standard_uncertainty=item.standard_uncertainty,
            source=item.source,
        )
        for item in now.course.draws.inputs.by_name.values()
        if item.name not in OF_THE_PACK and item.name not in names
    ]
    return (*own, *road)
