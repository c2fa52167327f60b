"""A vehicle's road load from its own tests, kept on the vehicle: by itself, or when it is asked for."""

from __future__ import annotations

import logging
from collections.abc import Callable, Iterator
from dataclasses import asdict
from functools import partial
from typing import Any, cast
from uuid import UUID

from django.contrib.auth.models import User
from django.db import transaction
from django.db.utils import DatabaseError

from limpet.assumptions import as_assumed
from limpet.evidence.model import RangeTest as CoreTest
from limpet.history import RoadFound, road_of
from limpet.road import VehicleKind
from limpet.tell import Result, analyse
from limpet.trip import MOST_FIT_TESTS
from server.accounts.assumed import assumed_by
from server.kit.models import Vehicle
from server.logbook.models import RangeTest
from server.logbook.rows import core_test
from server.results.lessons import due_again
from server.wire.problems import ConflictError, UnreadableError
from server.wire.stored import wrapped
from server.wire.trying import failed, may_be_tried, succeeded
from server.wire.turns import by_turns

logger = logging.getLogger(__name__)

#: Vehicles that are fitted at one look.
AT_ONCE = 20


def fit_vehicle(owner: User, vehicle_id: UUID) -> Vehicle:
    """Fit a vehicle's road load to its newest tests and keep it, with the tests it came from.

    From here on it learns from them again, if it was told not to.

    Raises
    ------
    ConflictError
        When none of its tests can tell anything, with what each lacks.
    """
    vehicle: Vehicle = Vehicle.objects.owned_by(owner).get(pk=vehicle_id)
    _learning(vehicle, learns=True)
    found = _road(vehicle)
    succeeded(vehicle)
    if found.found is None:
        raise ConflictError(f"Nothing to fit {vehicle.name} to: {found.why}.")
    return _kept(vehicle, found)


def unlearn(owner: User, vehicle_id: UUID) -> Vehicle:
    """Go back to start values and to what is assumed: its tests teach nothing until it is asked for."""
    vehicle: Vehicle = Vehicle.objects.owned_by(owner).get(pk=vehicle_id)
    _learning(vehicle, learns=False)
    return vehicle


def fit_later(test: RangeTest) -> None:
    """What a test teaches has changed: its vehicle's road load is due."""
    if test.vehicle_id is not None:
        Vehicle.objects.filter(pk=test.vehicle_id, learns=True).update(fit_due=True)


def fit_due() -> int:
    """Fit the vehicles that are due to their logged rides; says how many were looked at.

    Rides that are known by their sums alone change no fit: like rides tell a forecast of those.
    """
    waiting = Vehicle.objects.filter(may_be_tried(), fit_due=True, alive=True, learns=True)
    vehicles = list(waiting[:AT_ONCE])
    for vehicle in vehicles:
        # Before and not after: what a test teaches meanwhile makes it due again.
        Vehicle.objects.filter(pk=vehicle.pk).update(fit_due=False)
        try:
            found = _road(vehicle, logged_only=True)
            if found.found is not None:
                _kept(vehicle, found)
        except DatabaseError:
            raise
        except (
            Exception
        ) as error:  # whatever one vehicle does to the core, the others have their fits
            logger.exception("vehicle %s could not be fitted", vehicle.pk)
            Vehicle.objects.filter(pk=vehicle.pk).update(fit_due=True)
            failed(vehicle, f"Its road load could not be learned ({type(error).__name__}).")
        else:
            succeeded(vehicle)
    return len(vehicles)


def _learning(vehicle: Vehicle, *, learns: bool) -> None:
    """Say whether it learns; what was taught to its tests is due again when that is new."""
    if vehicle.learns == learns:
        return
    vehicle.learns = learns
    if not learns:
        vehicle.fit = None
    with transaction.atomic():
        vehicle.save(update_fields=["learns", "fit"])
        due_again(RangeTest.objects.filter(vehicle=vehicle.pk))


@by_turns
def _road(vehicle: Vehicle, *, logged_only: bool = False) -> RoadFound:
    with as_assumed(lambda: assumed_by(vehicle.owner_id)):
        return road_of(cast(VehicleKind, vehicle.kind), _tests(vehicle), logged_only=logged_only)


def _tests(vehicle: Vehicle) -> Iterator[tuple[CoreTest, Callable[[], Result]]]:
    """Its newest ended tests, one after the other, so that one's samples are held at a time."""
    tests = RangeTest.objects.filter(
        vehicle=vehicle.pk, owner=vehicle.owner_id, alive=True, state=RangeTest.State.ENDED
    )
    for test in tests.order_by("-sorted_at", "-pk")[:MOST_FIT_TESTS]:
        try:
            evidence = core_test(test)
        except UnreadableError as error:
            logger.warning("no fit reads test %s: %s", test.pk, error)
            continue
        yield evidence, partial(analyse, evidence)


def _kept(vehicle: Vehicle, road: RoadFound) -> Vehicle:
    found = road.found
    assert found is not None
    values: dict[str, Any] = {
        "road": asdict(found.fit),
        "names": list(found.fit.names),
        "values": list(found.fit.values),
        "standard_uncertainties": list(found.standard_uncertainties),
        "told": list(found.told),
        "statement": found.statement,
        "tests": list(road.used),
        "left_out": list(road.left_out),
        "windows": found.windows,
    }
    with transaction.atomic():
        kept: Vehicle = Vehicle.objects.select_for_update().get(pk=vehicle.pk)
        if kept.learns:
            kept.fit = wrapped(values)
            kept.save(update_fields=["fit"])
    return kept
