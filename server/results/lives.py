"""The life of a piece of kit over HTTP: its tests, and what they say of it together."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any
from uuid import UUID

from django.contrib.auth.models import User
from django.db import transaction
from django.utils import timezone

from limpet.assumptions import as_assumed
from limpet.history.life import vehicle_life
from limpet.history.packlife import pack_life
from limpet.judge.ranges import ranges_at_first
from limpet.judge.seasons import MOST_TESTS, Seasons, seasons
from limpet.state.priors import LESSONS
from server.accounts.assumed import assumed_by
from server.kit.models import Named, Pack, Rider, Vehicle
from server.kit.road import road_of
from server.logbook.models import RangeTest
from server.logbook.rows import core_sheet
from server.results.comparing import newest_seen, seen_of_each
from server.results.lessons import dated_facts, due_again
from server.results.queries import with_rows
from server.wire.problems import FieldError, UnreadableError

#: Tests that a page of kit shows, newest first; the logbook has them all.
MOST_SHOWN = 20
#: Tests that a rider's mass is read from, newest first.
MOST_WEIGHED = 200


@dataclass(frozen=True, slots=True, kw_only=True)
class Life:
    """A piece of kit, its newest tests and how many there are, and what they say of it."""

    item: Any
    tests: list[RangeTest]
    count: int
    #: Ids of the tests that are named, by their titles.
    keys: dict[str, str]
    life: Any


@dataclass(frozen=True, slots=True, kw_only=True)
class Weighed:
    """What a rider weighed at a test [kg]."""

    test: RangeTest
    mass_kg: float
    gear_kg: float | None


def life_of_vehicle(owner: User, item_id: UUID) -> Life:
    """A vehicle over its tests. DoesNotExist without it."""
    item, tests = _item(Vehicle, owner, item_id, "vehicle")
    dated = dated_facts(tests, item_id)
    with as_assumed(lambda: assumed_by(owner.pk)):
        life = vehicle_life(
            dated, str(item_id), kind=item.kind, mass_kg=item.mass_kg, road=road_of(item)
        )
    return _life(item, tests, dated, life)


def life_of_pack(owner: User, item_id: UUID) -> Life:
    """A pack over its tests. DoesNotExist without it."""
    item, tests = _item(Pack, owner, item_id, "pack")
    dated = dated_facts(tests)
    with as_assumed(lambda: assumed_by(owner.pk)):
        ranges = ranges_at_first(seen_of_each([one.key for one in dated]))
        dated = [replace(one, range_m=ranges.get(one.key)) for one in dated]
        life = pack_life(dated, item.rated_ah, timezone.now())
    return _life(item, tests, dated, life)


def seasons_of_vehicle(owner: User, item_id: UUID) -> tuple[Vehicle, Seasons]:
    """What the cold does to a vehicle, by its tests. DoesNotExist without it."""
    item, tests = _item(Vehicle, owner, item_id, "vehicle")
    with as_assumed(lambda: assumed_by(owner.pk)):
        return item, seasons(newest_seen(tests, MOST_TESTS))


def life_of_rider(owner: User, item_id: UUID) -> Life:
    """A rider over the tests that were ridden: what was weighed at each, oldest first."""
    item, tests = _item(Rider, owner, item_id, "rider")
    weighed = []
    for test in tests.order_by("-sorted_at", "-pk")[:MOST_WEIGHED]:
        try:
            rider = core_sheet(test).rider
        except UnreadableError:
            # Its own page says so.
            continue
        if rider is not None and rider.mass_kg is not None:
            weighed.append(Weighed(test=test, mass_kg=rider.mass_kg, gear_kg=rider.gear_kg))
    return _life(item, tests, [], tuple(reversed(weighed)))


def leave_aside(owner: User, vehicle_id: UUID, lessons: list[str]) -> Vehicle:
    """Say which lessons of its tests a vehicle does not use; what they were used for is due again.

    Raises
    ------
    FieldError
        When there is no such lesson.
    """
    unknown = sorted(set(lessons) - set(LESSONS))
    if unknown:
        text = f"has no {', '.join(unknown)}; there are {', '.join(LESSONS)}"
        raise FieldError({"left_aside": text})
    with transaction.atomic():
        vehicle: Vehicle = Vehicle.objects.owned_by(owner).select_for_update().get(pk=vehicle_id)
        wanted = [name for name in LESSONS if name in lessons]
        if vehicle.left_aside != wanted:
            vehicle.left_aside = wanted
            vehicle.save(update_fields=["left_aside"])
            due_again(RangeTest.objects.filter(vehicle=vehicle.pk))
    return vehicle


def _item(model: type[Named], owner: User, item_id: UUID, column: str) -> tuple[Any, Any]:
    item = model.objects.owned_by(owner).get(pk=item_id)
    return item, RangeTest.objects.owned_by(owner).filter(**{column: item})


def _life(item: Any, tests: Any, dated: list[Any], life: Any) -> Life:
    return Life(
        item=item,
        tests=list(with_rows(tests)[:MOST_SHOWN]),
        count=tests.count(),
        keys={one.facts.title: one.key for one in dated},
        life=life,
    )
