"""Kit's life over HTTP."""

from __future__ import annotations

from typing import Annotated
from uuid import UUID

from django.http import HttpRequest
from ninja import Router
from pydantic import Field

from limpet.bounds import MOST_NAME
from limpet.figures.parts import plain
from limpet.fitting.curve import LevelCurve
from limpet.history.drift import Drift, FactorPoint
from limpet.history.life import SpeedBand, Taught, VehicleLife
from limpet.history.packlife import LifePoint, LostAtOnce, PackLife, TrendLine, WornAt
from limpet.judge.seasons import PartOf, SeasonAt, SeasonBand, SeasonPoint, Seasons
from server.kit.models import Vehicle
from server.kit.schemas import PackOut, RiderOut, VehicleOut
from server.results import lives
from server.results.lives import Life
from server.results.schemas import TestRow, row_of
from server.wire.derived import Derived, derived
from server.wire.owned import owner_of
from server.wire.problems import Problem
from server.wire.schema import Schema, Sent
from server.wire.typed import Line

router = Router(tags=["kit"])

_REFUSALS = {404: Problem}


@derived(LifePoint)
class LifePointOut(Derived):
    """What one test says of a pack."""


@derived(TrendLine)
class TrendLineOut(Derived):
    """A trend with its interval."""


@derived(WornAt)
class WornAtOut(Derived):
    """When a pack is down to a share."""


@derived(LostAtOnce)
class LostAtOnceOut(Derived):
    """A step between two tests."""


@derived(PackLife)
class PackLifeOut(Derived):
    """A pack over its tests."""


@derived(SpeedBand)
class SpeedBandOut(Derived):
    """Consumption at a speed."""


@derived(Taught)
class TaughtOut(Derived):
    """A number that tests taught."""


@derived(FactorPoint)
class FactorPointOut(Derived):
    """An instrument's factor in one test."""


@derived(Drift)
class DriftOut(Derived):
    """How a gauge's or an instrument's meaning changes."""


@derived(LevelCurve)
class LevelCurveOut(Derived):
    """What a vehicle takes at each speed on the level."""


@derived(VehicleLife)
class VehicleLifeOut(Derived):
    """A vehicle over its tests."""


@derived(PartOf)
class PartOfOut(Derived):
    """What one cause does for ten degrees."""


@derived(SeasonPoint)
class SeasonPointOut(Derived):
    """One test in its weather."""


@derived(SeasonAt)
class SeasonAtOut(Derived):
    """A figure at a temperature."""


@derived(SeasonBand)
class SeasonBandOut(Derived):
    """Tests of about one speed over the temperature."""


@derived(Seasons)
class SeasonsOut(Derived):
    """What the cold does to a vehicle."""


class SeasonsPage(Schema):
    """A vehicle over the seasons."""

    item: VehicleOut
    seasons: SeasonsOut


class WeighedOut(Schema):
    """What a rider weighed at a test."""

    test_id: UUID
    title: str
    started_at: str | None
    mass_kg: float
    gear_kg: float | None


class _Page(Schema):
    """The newest tests of a piece of kit, how many there are, and the ids of those that are named."""

    tests: list[TestRow]
    count: int
    keys: dict[str, str]


class VehiclePage(_Page):
    """A vehicle's own page."""

    item: VehicleOut
    life: VehicleLifeOut


class PackPage(_Page):
    """A pack's own page."""

    item: PackOut
    life: PackLifeOut


class RiderPage(_Page):
    """A rider's own page."""

    item: RiderOut
    life: list[WeighedOut]


class AsideIn(Sent):
    """Lessons that a vehicle does not use."""

    left_aside: list[Annotated[Line, Field(max_length=MOST_NAME)]] = Field(max_length=20)


@router.get(
    "/vehicles/{item_id}/life",
    operation_id="getVehicleLife",
    response={200: VehiclePage, **_REFUSALS},
)
def get_vehicle_life(request: HttpRequest, item_id: UUID) -> dict[str, object]:
    """A vehicle's tests and what they say of it: consumption, road load, gauge."""
    return _page(lives.life_of_vehicle(owner_of(request), item_id))


@router.get(
    "/vehicles/{item_id}/seasons",
    operation_id="getSeasons",
    response={200: SeasonsPage, **_REFUSALS},
)
def get_seasons(request: HttpRequest, item_id: UUID) -> dict[str, object]:
    """What the cold does to a vehicle, by speed."""
    item, found = lives.seasons_of_vehicle(owner_of(request), item_id)
    return {"item": item, "seasons": plain(found)}


@router.get(
    "/packs/{item_id}/life", operation_id="getPackLife", response={200: PackPage, **_REFUSALS}
)
def get_pack_life(request: HttpRequest, item_id: UUID) -> dict[str, object]:
    """A pack's tests and what they say of it: capacity, ageing, gauge."""
    return _page(lives.life_of_pack(owner_of(request), item_id))


@router.get(
    "/riders/{item_id}/life", operation_id="getRiderLife", response={200: RiderPage, **_REFUSALS}
)
def get_rider_life(request: HttpRequest, item_id: UUID) -> dict[str, object]:
    """A rider's tests and what they say."""
    found = lives.life_of_rider(owner_of(request), item_id)
    weighed = [
        WeighedOut(
            test_id=one.test.id,
            title=one.test.title,
            started_at=one.test.started_at_text or None,
            mass_kg=one.mass_kg,
            gear_kg=one.gear_kg,
        )
        for one in found.life
    ]
    return {**_page(found), "life": weighed}


@router.put(
    "/vehicles/{item_id}/lessons",
    operation_id="leaveAside",
    response={200: VehicleOut, 422: Problem, **_REFUSALS},
)
def leave_aside(request: HttpRequest, item_id: UUID, payload: AsideIn) -> Vehicle:
    """Say what of its tests' lessons is not used."""
    return lives.leave_aside(owner_of(request), item_id, payload.left_aside)


def _page(found: Life) -> dict[str, object]:
    return {
        "item": found.item,
        "tests": [row_of(test) for test in found.tests],
        "count": found.count,
        "keys": found.keys,
        "life": plain(found.life),
    }
