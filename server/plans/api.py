"""Planning over HTTP: forecasts, plans, guesses, claims, pack sizes, weather."""

from __future__ import annotations

import re
from dataclasses import asdict
from datetime import date
from typing import Annotated, Any, Literal
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router, Status
from pydantic import Field

from limpet.under_way.ways import MOST_LAPS, MOST_WAY_M, WayAhead
from server.accounts.services import is_demo
from server.kit.models import Vehicle
from server.kit.schemas import VehicleOut
from server.logbook.schemas import TestFound, found_of
from server.plans import fits, riding, services
from server.plans.follow_schemas import FollowOut
from server.plans.models import Claim, KeptTrip, Plan
from server.plans.schemas import (
    ClaimAnswerOut,
    ClaimIn,
    ClaimOut,
    ForecastOut,
    GuessIn,
    GuessOut,
    KeptTripIn,
    KeptTripOut,
    PlanIn,
    PlanOut,
    PlanRow,
    PreviewOut,
    RulesOut,
    SizeIn,
    SizeOut,
    StandingOut,
    StartIn,
    TickedIn,
    TripIn,
    WeatherOut,
)
from server.plans.weather import WeatherError, WeatherSource
from server.wire.files import as_file
from server.wire.owned import owner_of
from server.wire.paged import Page
from server.wire.problems import Problem
from server.wire.removal import removable
from server.wire.stored import readable, unwrapped
from server.wire.times import RideTime

router = Router(tags=["plans"])
#: No way climbs higher than this [m].
MOST_CLIMB_M = 100_000.0
_REFUSALS = {404: Problem, 409: Problem, 422: Problem}


@router.post("/forecast", operation_id="askForecast", response={200: ForecastOut, 422: Problem})
def ask_forecast(request: HttpRequest, payload: TripIn) -> dict[str, Any]:
    """How far, how long and how sure: a trip as it is described; nothing is stored."""
    return services.answer_trip(owner_of(request), payload.model_dump())


@router.get("/trips", operation_id="listTrips", response=list[KeptTripOut])
def list_trips(request: HttpRequest, page: Query[Page]) -> list[KeptTripOut]:
    """Trips that were kept, by name."""
    return [_trip_out(trip) for trip in page.of(KeptTrip.objects.owned_by(owner_of(request)))]


@router.put("/trips/{trip_id}", operation_id="putTrip", response={200: KeptTripOut, **_REFUSALS})
def put_trip(request: HttpRequest, trip_id: UUID, payload: KeptTripIn) -> KeptTripOut:
    """Keep a trip under its id, whole."""
    asked = payload.asked
    as_typed = asked.model_dump(mode="json", exclude={"quick"})
    return _trip_out(
        services.store_trip(owner_of(request), trip_id, payload.name, asked.model_dump(), as_typed)
    )


removable(router, "/trips/{trip_id}", KeptTrip, "Trip")


@router.get("/rules", operation_id="listRules", response=list[RulesOut])
def list_rules(request: HttpRequest) -> list[dict[str, Any]]:
    """The eight questions and the rules that answer each."""
    return services.all_rules()


@router.post("/plans/preview", operation_id="previewPlan", response={200: PreviewOut, 422: Problem})
def preview_plan(request: HttpRequest, payload: PlanIn) -> dict[str, Any]:
    """What a plan would come to; nothing is stored."""
    return services.preview(owner_of(request), payload.model_dump())


@router.get("/plans", operation_id="listPlans", response=list[PlanRow])
def list_plans(request: HttpRequest, page: Query[Page]) -> list[PlanRow]:
    """Plans, the last changed first."""
    found = Plan.objects.owned_by(owner_of(request)).select_related("test").order_by("-changed_at")
    return [_row_of(plan) for plan in page.of(found)]


@router.get("/plans/wagers", operation_id="getWagers", response=list[StandingOut])
def get_wagers(request: HttpRequest) -> list[dict[str, Any]]:
    """Who guesses best over the rides that were opened."""
    return [asdict(standing) for standing in services.wagers_of(owner_of(request))]


@router.put("/plans/{plan_id}", operation_id="putPlan", response={200: PlanOut, **_REFUSALS})
def put_plan(request: HttpRequest, plan_id: UUID, payload: PlanIn) -> PlanOut:
    """Keep a plan under its id, whole, and reckon its forecast."""
    asked = payload.model_dump()
    as_typed = payload.model_dump(mode="json", exclude={"quick"})
    return _plan_out(services.store_plan(owner_of(request), plan_id, asked, as_typed))


@router.get("/plans/{plan_id}", operation_id="getPlan", response={200: PlanOut, 404: Problem})
def get_plan(request: HttpRequest, plan_id: UUID) -> PlanOut:
    """A plan with its forecast and its guesses."""
    return _plan_out(_own(request, plan_id))


removable(router, "/plans/{plan_id}", Plan, "Plan")


@router.get("/tests/{test_id}/plan", operation_id="getPlanOfTest", response={200: PlanOut | None})
def get_plan_of_test(request: HttpRequest, test_id: UUID) -> PlanOut | None:
    """The plan that a test was begun from; null when nobody planned it."""
    plans = Plan.objects.owned_by(owner_of(request)).select_related("test")
    plan = plans.filter(test_id=test_id).first()
    return None if plan is None else _plan_out(plan)


_Way = Literal["back", "given", "lap"]


@router.get(
    "/tests/{test_id}/follow", operation_id="followRide", response={200: FollowOut, 404: Problem}
)
def follow_ride(
    request: HttpRequest,
    test_id: UUID,
    way: _Way | None = None,
    from_m: Annotated[float, Field(ge=0, le=MOST_WAY_M)] = 0.0,
    until_m: Annotated[float | None, Field(ge=0, le=MOST_WAY_M)] = None,
    climb_m: Annotated[float | None, Field(ge=0, le=MOST_CLIMB_M)] = None,
    laps: Annotated[int | None, Field(ge=1, le=MOST_LAPS)] = None,
    table: bool = False,
) -> dict[str, Any]:
    """What matters now on a ride under way, what else could be done, and with `table` a table of it
    for a device that is about to lose its signal."""
    ahead = None
    if way is not None:
        ahead = WayAhead(onward=way, from_m=from_m, until_m=until_m, climb_m=climb_m, laps=laps)
    return riding.follow_ride(owner_of(request), test_id, ahead, table=table)


@router.get(
    "/plans/{plan_id}/follow",
    operation_id="followPlan",
    response={200: FollowOut, 404: Problem, 409: Problem},
)
def follow_plan(request: HttpRequest, plan_id: UUID) -> dict[str, Any]:
    """How a ride of a plan would stand before its first metre, with a table of it for a device that may
    have no signal there. Nothing is begun by asking."""
    return riding.follow_plan(owner_of(request), plan_id)


@router.put(
    "/plans/{plan_id}/checklist", operation_id="tickPlan", response={200: PlanOut, 404: Problem}
)
def tick_plan(request: HttpRequest, plan_id: UUID, payload: TickedIn) -> PlanOut:
    """Keep which items of the checklist are done."""
    return _plan_out(services.tick(owner_of(request), plan_id, payload.ticked))


@router.put(
    "/plans/{plan_id}/guesses/{guess_id}",
    operation_id="sealGuess",
    response={200: PlanOut, **_REFUSALS},
)
def seal_guess(request: HttpRequest, plan_id: UUID, guess_id: UUID, payload: GuessIn) -> PlanOut:
    """Seal somebody's guess of the range; it is opened with the result."""
    plan = services.seal_guess(
        owner_of(request), plan_id, guess_id, payload.name, payload.distance_m
    )
    return _plan_out(plan)


@router.put(
    "/plans/{plan_id}/ride/{test_id}",
    operation_id="startPlanned",
    response={200: TestFound, **_REFUSALS},
)
def start_planned(
    request: HttpRequest, plan_id: UUID, test_id: UUID, payload: StartIn
) -> TestFound:
    """Begin the ride of a plan. Sent again, it changes nothing."""
    test = services.start_planned(
        owner_of(request), plan_id, test_id, payload.started_at, payload.charge
    )
    return found_of(test)


@router.get(
    "/plans/{plan_id}/calendar.ics",
    operation_id="planCalendar",
    response=_REFUSALS,
    openapi_extra=as_file("text/calendar"),
)
def plan_calendar(request: HttpRequest, plan_id: UUID, first: Query[RideTime]) -> HttpResponse:
    """The plan's days from a first one on; `first` with its zone."""
    plan = _own(request, plan_id)
    response = HttpResponse(services.calendar_of(plan, first), content_type="text/calendar")
    slug = re.sub(r"[^a-z0-9]+", "-", plan.title.lower()).strip("-")[:60] or "plan"
    response["Content-Disposition"] = f'attachment; filename="{slug}.ics"'
    return response


@router.get("/claims", operation_id="listClaims", response=list[ClaimOut])
def list_claims(request: HttpRequest, page: Query[Page]) -> list[ClaimOut]:
    """Makers' figures that were kept, by name."""
    return [_claim_out(claim) for claim in page.of(Claim.objects.owned_by(owner_of(request)))]


@router.post(
    "/claims/check", operation_id="checkClaim", response={200: ClaimAnswerOut, 422: Problem}
)
def check_claim(request: HttpRequest, payload: ClaimIn) -> dict[str, Any]:
    """Whether a maker's figure can be true, and at what speed and load; nothing is stored."""
    return services.judge(payload.model_dump()).to_json()


@router.put("/claims/{claim_id}", operation_id="putClaim", response={200: ClaimOut, **_REFUSALS})
def put_claim(request: HttpRequest, claim_id: UUID, payload: ClaimIn) -> ClaimOut:
    """Keep a maker's figure under its id. Sent again, it changes nothing."""
    return _claim_out(services.store_claim(owner_of(request), claim_id, payload.model_dump()))


removable(router, "/claims/{claim_id}", Claim, "Claim")


@router.post("/size", operation_id="sizePack", response={200: SizeOut, 422: Problem})
def size_pack(request: HttpRequest, payload: SizeIn) -> dict[str, Any]:
    """How large a pack a trip needs; nothing is stored."""
    found = services.size(
        owner_of(request), payload.trip.model_dump(), payload.cell.model_dump(), payload.retired_at
    )
    return found.to_json()


@router.put(
    "/vehicles/{item_id}/fit", operation_id="fitVehicle", response={200: VehicleOut, **_REFUSALS}
)
def fit_vehicle(request: HttpRequest, item_id: UUID) -> Vehicle:
    """Find the vehicle's road load from its tests."""
    return fits.fit_vehicle(owner_of(request), item_id)


@router.delete(
    "/vehicles/{item_id}/fit", operation_id="forgetFit", response={200: VehicleOut, 404: Problem}
)
def forget_fit(request: HttpRequest, item_id: UUID) -> Vehicle:
    """Go back to start values."""
    return fits.unlearn(owner_of(request), item_id)


@router.get("/weather", operation_id="getWeather", response={200: WeatherOut, 503: Problem})
def get_weather(
    request: HttpRequest, date: date, place: str = Query(..., min_length=1, max_length=100)
) -> WeatherOut | Status[Problem]:
    """Weather at a place and time, from the service that this installation names."""
    try:
        found = WeatherSource(demo=is_demo(owner_of(request))).at(place, date)
    except WeatherError as error:
        return Status(503, Problem(code="no_weather", message=str(error)))
    return WeatherOut(place=place, date=date, **asdict(found))


def _own(request: HttpRequest, plan_id: UUID) -> Plan:
    plan: Plan = Plan.objects.owned_by(owner_of(request)).select_related("test").get(pk=plan_id)
    return plan


def _row_of(plan: Plan) -> PlanRow:
    answer = readable(plan.answer, PreviewOut)
    route = answer.forecast.route if answer is not None else None
    return PlanRow(
        id=plan.id,
        title=plan.title,
        purpose=plan.purpose,
        changed_at=plan.changed_at,
        test_id=services.ride_of(plan),
        distance_m=route.distance_m if route else None,
        arrives_probability=route.arrives_probability if route else None,
        trouble="" if route else services.UNREADABLE_PLAN,
        series=plan.series,
        series_place=plan.series_place,
    )


def _plan_out(plan: Plan) -> PlanOut:
    guesses, order = services.guesses_of(plan)
    opened = order is not None
    places = order or {}
    answer = readable(plan.answer, PreviewOut)
    asked = unwrapped(plan.asked)
    return PlanOut(
        id=plan.id,
        title=plan.title,
        purpose=plan.purpose,
        changed_at=plan.changed_at,
        asked=asked if isinstance(asked, dict) else {},
        answer=answer,
        trouble="" if answer else services.UNREADABLE_PLAN,
        ticked=plan.checklist,
        guesses=[
            GuessOut(
                id=guess.id,
                name=guess.name,
                distance_m=guess.distance_m if opened else None,
                off_m=places[guess.name].off_m if guess.name in places else None,
                place=places[guess.name].place if guess.name in places else None,
            )
            for guess in guesses
        ],
        opened=opened,
        guesses_closed=plan.begun_at is not None or plan.test_id is not None,
        test_id=services.ride_of(plan),
        series=plan.series,
        series_place=plan.series_place,
    )


def _trip_out(trip: KeptTrip) -> KeptTripOut:
    asked = unwrapped(trip.asked)
    return KeptTripOut(id=trip.id, name=trip.name, asked=asked if isinstance(asked, dict) else {})


def _claim_out(claim: Claim) -> ClaimOut:
    values = {name: getattr(claim, name) for name in ClaimIn.model_fields}
    return ClaimOut(id=claim.id, **values, answer=services.judge(values).to_json())
