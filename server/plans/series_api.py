"""Series of rides that settle a comparison, over HTTP."""

from __future__ import annotations

from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router

from server.plans import series, services
from server.plans.models import Plan
from server.plans.schemas import SeriesOut, SeriesRide, SettleIn
from server.wire.files import as_file
from server.wire.owned import owner_of
from server.wire.problems import Problem
from server.wire.times import RideTime

router = Router(tags=["plans"])

_REFUSALS = {404: Problem, 409: Problem, 422: Problem}


@router.put(
    "/plans/series/{series_id}",
    operation_id="settleIt",
    response={200: SeriesOut, **_REFUSALS},
)
def settle_it(request: HttpRequest, series_id: UUID, payload: SettleIn) -> SeriesOut:
    """Plan the rides that settle a comparison, alternating. Sent again, it changes nothing."""
    values = payload.model_dump()
    return _series_out(series_id, series.settle(owner_of(request), series_id, **values))


@router.get(
    "/plans/series/{series_id}", operation_id="getSeries", response={200: SeriesOut, 404: Problem}
)
def get_series(request: HttpRequest, series_id: UUID) -> SeriesOut:
    """The rides of a series that are still planned."""
    return _series_out(series_id, _series(request, series_id))


@router.get(
    "/plans/series/{series_id}/calendar.ics",
    operation_id="seriesCalendar",
    response=_REFUSALS,
    openapi_extra=as_file("text/calendar"),
)
def series_calendar(request: HttpRequest, series_id: UUID, first: Query[RideTime]) -> HttpResponse:
    """The rides of a series as an iCalendar file."""
    text = series.calendar_of(_series(request, series_id), first)
    response = HttpResponse(text, content_type="text/calendar")
    response["Content-Disposition"] = 'attachment; filename="settle-it.ics"'
    return response


def _series(request: HttpRequest, series_id: UUID) -> list[Plan]:
    plans = series.series_of(owner_of(request), series_id)
    if not plans:
        raise Plan.DoesNotExist
    return plans


def _series_out(series_id: UUID, plans: list[Plan]) -> SeriesOut:
    rides = [
        SeriesRide(
            plan_id=plan.id,
            place=plan.series_place or 0,
            side=plan.series_side,
            title=plan.title,
            test_id=services.ride_of(plan),
        )
        for plan in plans
    ]
    return SeriesOut(id=series_id, rides=rides, compare=series.compared_by(plans))
