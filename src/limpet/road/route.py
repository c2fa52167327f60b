"""A route as legs: what every kind of route becomes before it is ridden or forecast."""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import isfinite

from limpet.bounds import Bearing, Climb, Metres, Speed, Stops
from limpet.errors import OutOfRangeError
from limpet.road.kinds import Surface

#: Steeper than this over a whole leg is a slip of the pen, not a road [-] (assumption).
STEEPEST = 0.40
#: A way shorter than this is a slip of units [m] (assumption).
SHORTEST_ROUTE_M = 20.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Leg:
    """A piece of road that is much the same throughout.

    `climb_m` and `descent_m` may both be there: a leg goes up, then down. `bearing_deg` None is
    "not known"; `stops` are times one must stand; `speed_mps` overrides the ride's speed;
    `winding` says that the leg turns through every direction, as a lap does; `even` that its climb
    lies along all of it, as in the legs of a track.
    """

    length_m: Metres
    climb_m: Climb = 0.0
    descent_m: Climb = 0.0
    bearing_deg: Bearing | None = None
    surface: Surface = "smooth_paved"
    stops: Stops = 0.0
    speed_mps: Speed | None = None
    winding: bool = False
    even: bool = False

    def reversed(self) -> Leg:
        """The same leg ridden the other way."""
        bearing = None if self.bearing_deg is None else (self.bearing_deg + 180) % 360
        return replace(self, climb_m=self.descent_m, descent_m=self.climb_m, bearing_deg=bearing)


@dataclass(frozen=True, slots=True, kw_only=True)
class Route:
    """Legs in the order in which they are ridden, the way back included.

    `out_legs` says how many of them lead away from home when the route comes back by the same
    way; None when it does not.
    """

    legs: tuple[Leg, ...]
    out_legs: int | None = None

    def __post_init__(self) -> None:
        found = route_faults(self.legs)
        if found:
            number, message = found[0]
            raise OutOfRangeError(f"leg {number + 1} {message}" if number >= 0 else message)

    @property
    def length_m(self) -> float:
        """From start to finish [m]."""
        return sum(leg.length_m for leg in self.legs)

    @property
    def ascent_m(self) -> float:
        """All climbs together [m]."""
        return sum(leg.climb_m for leg in self.legs)

    @property
    def descent_m(self) -> float:
        """All descents together [m]."""
        return sum(leg.descent_m for leg in self.legs)

    def reversed(self) -> Route:
        """The whole route the other way round."""
        out = None if self.out_legs is None else len(self.legs) - self.out_legs
        return Route(legs=tuple(leg.reversed() for leg in reversed(self.legs)), out_legs=out)

    def and_back(self) -> Route:
        """There and back by the same way."""
        return Route(legs=self.legs + self.reversed().legs, out_legs=len(self.legs))

    def times(self, laps: int) -> Route:
        """The route ridden a number of times."""
        return Route(legs=self.legs * laps, out_legs=self.out_legs if laps == 1 else None)


def route_faults(legs: tuple[Leg, ...]) -> list[tuple[int, str]]:
    """What no single field can show.

    Returns
    -------
    (number of the leg from 0, or -1 for the route; what is wrong and what would be right)
    """
    if not legs:
        return [(-1, "the route has no legs; add one with its length")]
    found = []
    total = sum(leg.length_m for leg in legs)
    if 0 < total < SHORTEST_ROUTE_M:
        found.append((-1, f"the route is {total:g} m long; metres for kilometres or miles?"))
    for number, leg in enumerate(legs):
        if not (isfinite(leg.length_m) and leg.length_m > 0):
            found.append((number, f"is {leg.length_m:g} m long; give it a length above 0"))
        elif leg.climb_m + leg.descent_m > STEEPEST * leg.length_m:
            steep = (leg.climb_m + leg.descent_m) / leg.length_m
            found.append(
                (
                    number,
                    f"rises and falls {leg.climb_m + leg.descent_m:.0f} m in {leg.length_m:.0f} m, "
                    f"{100 * steep:.0f}%, which no road does; check metres against feet or km",
                )
            )
    return found


def loop(
    length_m: float,
    *,
    climb_m: float = 0.0,
    descent_m: float | None = None,
    surface: Surface = "smooth_paved",
    stops: float = 0.0,
) -> Route:
    """A measured lap: it turns through every direction and ends at the height it began.

    Parameters
    ----------
    length_m : of one lap [m]
    climb_m, descent_m : of one lap [m]
    surface : of all of it
    stops : in one lap
    """
    down = climb_m if descent_m is None else descent_m
    lap = Leg(
        length_m=length_m,
        climb_m=climb_m,
        descent_m=down,
        surface=surface,
        stops=stops,
        winding=True,
    )
    return Route(legs=(lap,))
