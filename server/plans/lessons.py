"""What an account's own tests taught of a vehicle and a pack, out of the kept results."""

from __future__ import annotations

import logging
from dataclasses import replace

from django.contrib.auth.models import User
from django.db.models import Q
from pydantic import ValidationError

from limpet.history import Facts, facts_from_json, learn_from
from limpet.history.learn import MOST_TESTS
from limpet.result.priors import Priors
from server.kit.models import Pack, Vehicle
from server.logbook.models import RangeTest
from server.results.models import TestResult
from server.wire.stored import unwrapped

logger = logging.getLogger(__name__)


def lessons_of(owner: User, vehicle: Vehicle, pack: Pack, speed_mps: float | None) -> Priors:
    """What the newest ended tests of a vehicle and of a pack taught.

    Notes
    -----
    A vehicle and a pack are those of the kit, whatever they were called when they were ridden.
    """
    tests = RangeTest.objects.owned_by(owner).filter(
        Q(vehicle=vehicle) | Q(pack=pack), state=RangeTest.State.ENDED
    )
    rows = (
        TestResult.objects.filter(test__in=tests, facts__isnull=False)
        .order_by("-test__sorted_at", "-test_id")
        .values_list("test__vehicle_id", "test__pack_id", "facts")[:MOST_TESTS]
    )
    found = []
    for vehicle_id, pack_id, kept in reversed(rows):
        facts = _facts(kept)
        if facts is not None:
            own = str(vehicle.pk) if vehicle_id == vehicle.pk else None
            found.append(
                replace(facts, vehicle=own, pack=str(pack.pk) if pack_id == pack.pk else None)
            )
    return learn_from(found, str(vehicle.pk), str(pack.pk), speed_mps=speed_mps)


def _facts(kept: object) -> Facts | None:
    """Facts as kept; those of a core that knew others teach nothing until they are made anew."""
    try:
        return facts_from_json(unwrapped(kept))
    except ValidationError:
        logger.info("kept facts of another version are passed over")
        return None
