"""The tide table over HTTP: how far a vehicle, a pack and a rider go by speed, air and terrain."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.contrib.auth.models import User
from django.http import HttpRequest
from ninja import Query, Router

from limpet.files.tripfile import adapter_of
from limpet.judge.tidetable import LAP_M, Terrain, TideTable, tide_table
from limpet.road.kinds import SpeedPolicy
from limpet.trip import Trip
from server.accounts.assumed import assumed_by
from server.plans.schemas import TripIn
from server.plans.trips import trip_of
from server.wire.derived import Derived, derived
from server.wire.kept import Kept
from server.wire.owned import owner_of
from server.wire.problems import Problem
from server.wire.schema import Schema
from server.wire.turns import by_turns

router = Router(tags=["plans"])


class TidesIn(Schema):
    """Who rides what, and how."""

    vehicle_id: UUID
    pack_id: UUID
    rider_id: UUID | None = None
    policy: SpeedPolicy = "with_traffic"


@derived(Terrain)
class TerrainOut(Derived):
    """A kind of way."""


class TidesOut(Schema):
    """Metres to the reserve by terrain, air and speed; `own_tests` says what they rest on."""

    vehicle: str | None
    pack: str | None
    reserve: float
    speeds_mps: list[float]
    temps_c: list[float]
    terrains: list[TerrainOut]
    floor_m: list[list[list[float]]]
    typical_m: list[list[list[float]]]
    best_m: list[list[list[float]]]
    own_tests: list[str]


@router.get(
    "/tidetable", operation_id="getTideTable", response={200: TidesOut, 404: Problem, 422: Problem}
)
def get_tide_table(request: HttpRequest, asked: Query[TidesIn]) -> dict[str, Any]:
    """Floor, typical and best for a vehicle, a pack and a rider, by what their own tests taught."""
    table, tests = _table(owner_of(request), asked)
    return {**table.to_json(), "own_tests": tests}


#: Tables of the kit that is looked at, some hundred numbers each.
MOST_TABLES = 64
_tables: Kept[TideTable] = Kept(MOST_TABLES)


def _table(owner: User, asked: TidesIn) -> tuple[TideTable, list[str]]:
    form = TripIn(**asked.model_dump(), legs=[{"length_m": LAP_M}])
    found = trip_of(owner, form.model_dump())
    titles = dict.fromkeys(title for one in found.taught for title, _ in one.tests)
    # What a table hangs on: the trip with all that own tests taught it, and what the account assumes.
    trip = adapter_of(Trip).dump_json(found.trip)
    assumed = tuple(sorted(assumed_by(owner.pk).items()))
    return _tables.of((trip, assumed), by_turns(lambda: tide_table(found.trip))), list(titles)
