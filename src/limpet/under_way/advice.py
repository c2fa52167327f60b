"""What a rider on the way is told: the line that matters, its reasons, and what else could be done."""

from __future__ import annotations

from dataclasses import dataclass, replace

from limpet.evidence.model import RangeTest
from limpet.pack import full_energy_wh
from limpet.road import Route
from limpet.state.priors import NOTHING, Priors
from limpet.trip import Trip
from limpet.under_way.answer import Following
from limpet.under_way.follow import Riding, riding
from limpet.under_way.matter import Matter, Standing, known_half, matter_of
from limpet.under_way.offline_table import FollowTable, bases_of, table_of
from limpet.under_way.others import Choice, choices_of
from limpet.under_way.seeing import LEAST_GAIN, narrows_of
from limpet.under_way.shown_range import shown_left_m
from limpet.under_way.so_far import so_far
from limpet.under_way.ways import Onward as OnwardKind
from limpet.under_way.ways import WayAhead


@dataclass(frozen=True, slots=True, kw_only=True)
class OneMore:
    """A reading that is not there yet, and how well the energy left would be known with it.

    `then` is the 95% half-width of the share of usable energy, `now` the same without it.
    """

    name: str
    now: float
    then: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Advice:
    """What matters now, the ways to go on, and what one more reading would change."""

    following: Following
    matter: Matter
    choices: tuple[Choice, ...]
    more: tuple[OneMore, ...]
    onward: OnwardKind
    wanted: float
    riding: Riding
    #: As it was read, no instrument set right: what a device will see on the display.
    as_read: RangeTest

    def table(self) -> FollowTable:
        """The table of this ride for a device; of one whose readings contradict each other it is worth nothing."""
        half = known_half(self.following, self.riding.seen.sheet.purpose)
        made = table_of(self.riding.seen, self.riding.onward, self.following, half)
        return replace(made, bases=bases_of(self.as_read, self.riding.onward.now))


def advise(
    test: RangeTest,
    trip: Trip | None = None,
    route: Route | None = None,
    *,
    ahead: WayAhead | None = None,
    until_s: float | None = None,
    priors: Priors = NOTHING,
) -> Advice:
    """Judge a ride under way; arguments as of `follow`."""
    ride = riding(test, trip, route, ahead=ahead, until_s=until_s, priors=priors)
    onward, following = ride.onward, ride.following
    sheet = ride.seen.sheet
    rated_wh = full_energy_wh(sheet.pack) * (sheet.packs_used or 1)
    way = following.way
    choices = () if way is None else choices_of(onward, rated_wh, way.slow_to)
    standing = _standing(ride, choices)
    return Advice(
        following=following,
        matter=matter_of(following, standing, sheet.purpose),
        choices=choices,
        more=_more(ride),
        onward=onward.now.way.onward,
        wanted=onward.wanted,
        riding=ride,
        as_read=so_far(test, following.at_s),
    )


def _standing(ride: Riding, choices: tuple[Choice, ...]) -> Standing | None:
    way, onward = ride.following.way, ride.onward
    if way is None:
        return None
    done_m = onward.now.done_m
    laps = [choice for choice in choices if choice.what == "lap"]
    numbered = onward.now.way.trip.route.laps is not None
    reads = ride.following.reads
    turn_m = way.turn_by_m
    return Standing(
        arrives=way.arrives_probability,
        reaches=way.reaches_probability,
        # What no reading has shown yet cannot be told as more, whatever is wanted.
        wanted=min(onward.wanted, onward.most),
        reserve=onward.now.way.trip.reserve,
        shown_m=shown_left_m(ride.seen, onward.now),
        reads="" if reads is None else reads.instrument,
        turn_shown_m=None if reads is None or turn_m is None else reads.at(turn_m),
        left=way.energy_left_fraction.value,
        left_m=way.left_m,
        done_m=done_m,
        turn_until_m=onward.turn_until_m,
        turn_by_m=way.turn_by_m,
        slower=0.0 if way.slow_to is None else way.slow_to.probability,
        slow=None if way.slow_to is None else (way.slow_to.speed_mps, way.slow_to.probability),
        laps=(laps[0].laps or 0, laps[1].arrives_probability) if laps and not numbered else None,
        half=known_half(ride.following, ride.seen.sheet.purpose),
    )


def _more(ride: Riding) -> tuple[OneMore, ...]:
    """What one more reading of each kind would do, the most telling first."""
    onward = ride.onward
    share = onward.now.left_wh / onward.now.usable_wh
    now = 1.96 * float(share.std())
    found = [
        OneMore(name=one.name, now=now, then=1.96 * one.sure)
        for one in narrows_of(ride.seen, onward.now)
    ]
    worth = [item for item in found if item.then < (1 - LEAST_GAIN) * now]
    return tuple(sorted(worth, key=lambda item: item.then))
