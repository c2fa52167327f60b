"""Plans, guesses and claims: each change in one transaction, a repeated send changes nothing."""

from __future__ import annotations

import logging
from dataclasses import asdict, replace
from datetime import datetime
from typing import Any, cast, get_args
from uuid import UUID

from django.contrib.auth.models import User
from django.db import IntegrityError, transaction
from django.utils import timezone

from limpet.assumptions import RETAINED
from limpet.bounds import MOST_TITLE
from limpet.errors import OutOfRangeError
from limpet.evidence.model import (
    Conditions,
    Instruments,
    LapInstrument,
    Protocol,
    Purpose,
    Tyres,
)
from limpet.figures.parts import plain
from limpet.files.tripfile import trip_faults
from limpet.judge.terms import TripAsked
from limpet.outlook.answer import Forecast
from limpet.outlook.forecast import forecast
from limpet.pack import full_energy_wh
from limpet.planning.claim import ClaimAnswer, ClaimQuestion, check_claim
from limpet.planning.enough import enough
from limpet.planning.guesses import Ranked, ranked
from limpet.planning.rules import Rules, days_of, rules_for
from limpet.planning.schedule import calendar, days_between, schedule
from limpet.planning.size import Cell, PackSize, cell_faults, size_pack
from limpet.planning.wagers import Standing, Wager, standings
from limpet.trip import Known
from limpet.words import PREPARATION
from server.kit.models import Route
from server.logbook.models import RangeTest
from server.logbook.rides import RideStart, begin_ride, start_of
from server.plans.models import Claim, Guess, KeptTrip, Plan
from server.plans.schemas import PreviewOut
from server.plans.trips import Asked, trip_of
from server.results import services as results
from server.wire.owned import create_once, create_or_change
from server.wire.problems import ConflictError, FieldError
from server.wire.stored import readable, unwrapped, wrapped
from server.wire.turns import by_turns

logger = logging.getLogger(__name__)

#: Trips of one account that are kept.
MOST_TRIPS = 200
#: Legs of a kept trip, which are listed with it; a longer way is kept as a route.
MOST_KEPT_LEGS = 20
#: Rides whose guesses are counted together, the latest.
MOST_WAGERS = 60
#: Ways of plans that a comparison is held against.
MOST_WAYS = 20
#: People who may guess at one ride.
MOST_GUESSES = 50

UNREADABLE_PLAN = (
    "Save this plan again to work it out anew: its stored forecast can’t be read any more."
)


@by_turns
def answer_trip(owner: User, asked: dict[str, Any]) -> dict[str, Any]:
    """The forecast of a trip."""
    found = _checked(owner, asked)
    answer = forecast(found.trip, found.route, found.notices, swings=not asked["quick"])
    return _told(answer, found)


def _told(answer: Forecast, found: Asked) -> dict[str, Any]:
    """A forecast, and the own tests that it rests on, as JSON that can be kept with a plan."""
    own = [
        {
            "what": item.what,
            "shelf": item.shelf,
            "item_id": str(item.item_id),
            "item": item.item,
            "tests": [
                {"title": title, "id": None if test_id is None else str(test_id)}
                for title, test_id in item.tests
            ],
        }
        for item in found.taught
    ]
    return {**answer.to_json(), "own_tests": own, "gauge": plain(found.gauge)}


def all_rules() -> list[dict[str, Any]]:
    """The rules of every question."""
    return [asdict(rules_for(purpose)) for purpose in get_args(Purpose)]


@by_turns
def preview(owner: User, asked: dict[str, Any]) -> dict[str, Any]:
    """All that a plan comes to: forecast, rules, schedule, when it is enough, days, checklist."""
    found = _checked(owner, asked)
    trip = found.trip
    rules = rules_for(asked["purpose"], wanted=asked["wanted"])
    answer = forecast(trip, found.route, found.notices, swings=not asked["quick"])
    lap_m = trip.route.loop.length_m if trip.route.loop is not None else None
    to_cutoff = asked["end_rule"] == "cutoff"
    rated = full_energy_wh(trip.pack.label) * trip.packs.count
    retained = trip.pack.retained_fraction
    told = enough(
        answer.range_to_cutoff.value,
        capacity_std=RETAINED.std if retained is None else retained.standard_uncertainty or 0.03,
        counts_charge=asked["counts_charge"],
    )
    return {
        "forecast": _told(answer, found),
        "rules": asdict(rules),
        "schedule": asdict(
            schedule(answer, rated, lap_m=lap_m, to_cutoff=to_cutoff, charger_w=asked["charger_w"])
        ),
        "enough": {
            "distance_m": told.distance_m,
            "wanted": told.wanted,
            "at_end": told.at_end,
            "notice": told.notice.to_json(),
        },
        "days": list(_days(rules, asked["runs"])),
        "checklist": [*PREPARATION, *(f"Take along: {item}" for item in rules.equipment)],
    }


def _checked(owner: User, asked: dict[str, Any]) -> Asked:
    found = trip_of(owner, asked)
    faults = trip_faults(found.trip)
    if faults:
        raise FieldError({str(path[0]): message for path, message in faults})
    return found


def _days(rules: Rules, runs: int | None) -> tuple[str, ...]:
    return days_of(rules if runs is None else replace(rules, runs=runs))


def store_plan(owner: User, plan_id: UUID, asked: dict[str, Any], as_typed: dict[str, Any]) -> Plan:
    """Keep a plan with what it came to. Sent again with the same values, it changes nothing."""
    answer = preview(owner, {**asked, "quick": False})
    title = asked["title"] or answer["rules"]["question"]
    values = {
        "title": title[:MOST_TITLE],
        "purpose": asked["purpose"],
        "asked": wrapped(as_typed),
        "answer": wrapped(answer),
    }
    with transaction.atomic():
        plan, created = create_once(Plan, owner, plan_id, values)
        if created:
            return plan
        plan = Plan.objects.owned_by(owner).select_for_update().get(pk=plan_id)
        if ride_of(plan) is not None:
            if unwrapped(plan.asked) == as_typed:
                return plan
            raise ConflictError(
                "This plan is being ridden already, so it can’t be changed. Make a new plan."
            )
        for name, value in values.items():
            setattr(plan, name, value)
        plan.save()
    return plan


def ways_planned(owner: User) -> list[TripAsked]:
    """The ways of the newest plans that wait to be ridden; a plan of laps is no way."""
    plans = Plan.objects.owned_by(owner).filter(test=None, series=None).order_by("-changed_at")
    found = []
    for title, asked, answer in plans.values_list("title", "asked", "answer")[:MOST_WAYS]:
        try:
            route = unwrapped(answer)["forecast"]["route"]
            if route is None or route["laps"] is not None:
                continue
            speed_mps = unwrapped(asked).get("target_mps")
            way = TripAsked(
                name=title,
                length_m=float(route["distance_m"]),
                climb_m=float(route["ascent_m"]),
                speed_mps=None if speed_mps is None else float(speed_mps),
            )
        except (AttributeError, KeyError, TypeError, ValueError):
            # A plan of another version has its own words for it on its page.
            logger.info("the way of plan “%s” is of another version", title)
            continue
        found.append(way)
    return found


def tick(owner: User, plan_id: UUID, ticked: list[str]) -> Plan:
    """Remember what of the checklist is done."""
    with transaction.atomic():
        plan: Plan = Plan.objects.owned_by(owner).select_for_update().get(pk=plan_id)
        known = unwrapped(plan.answer).get("checklist", [])
        plan.checklist = [item for item in known if item in ticked]
        plan.save(update_fields=["checklist", "changed_at"])
    return plan


def seal_guess(owner: User, plan_id: UUID, guess_id: UUID, name: str, distance_m: float) -> Plan:
    """Seal a guess. It is never changed, and none is taken once the ride has begun."""
    with transaction.atomic():
        plan: Plan = Plan.objects.owned_by(owner).select_for_update().get(pk=plan_id)
        stored = Guess.objects.filter(pk=guess_id).first()
        if stored is not None:
            if (stored.plan_id, stored.name, stored.distance_m) == (plan.pk, name, distance_m):
                return plan
            raise ConflictError("That guess is sealed and cannot be changed.")
        if plan.begun_at is not None or plan.test_id is not None:
            raise ConflictError("The ride has begun, so guesses are closed.")
        if plan.guesses.count() >= MOST_GUESSES:
            raise ConflictError(f"{MOST_GUESSES} have guessed already, and no more can.")
        if plan.guesses.filter(name=name).exists():
            raise FieldError(
                {"name": f"{name} has guessed already, and a sealed guess can’t be changed"}
            )
        Guess.objects.create(id=guess_id, plan=plan, name=name, distance_m=distance_m)
    return plan


def ride_of(plan: Plan) -> UUID | None:
    """The ride of a plan, unless it was removed."""
    test = plan.test
    return test.pk if test is not None and test.alive else None


def guesses_of(plan: Plan) -> tuple[list[Guess], dict[str, Ranked] | None]:
    """The guesses, and once they are opened how near each came; no order when the fact is gone."""
    found = list(plan.guesses.all())
    if plan.opened_at is None:
        return found, None
    test = plan.test
    if test is None or not test.alive:
        return found, {}
    fact_m = _fact_m(test)
    if fact_m is None:
        return found, {}
    order = ranked([(guess.name, guess.distance_m) for guess in found], fact_m)
    return found, {item.name: item for item in order}


def _fact_m(test: RangeTest) -> float | None:
    """What guesses are held against: how far it goes to cut-off, or went; None where nobody knows [m]."""
    result = results.detail_of(results.current(test)).get("result") or {}
    fact = result.get("range_to_cutoff") or result.get("distance")
    return None if fact is None else float(fact["value"])


def wagers_of(owner: User) -> tuple[Standing, ...]:
    """Who guesses best over the rides that were opened, the forecast among them."""
    opened = Plan.objects.owned_by(owner).filter(opened_at__isnull=False, test__alive=True)
    plans = (
        opened.select_related("test__kept_result")
        .prefetch_related("guesses")
        .order_by("-opened_at")
    )
    wagers = []
    for plan in reversed(plans.filter(guesses__isnull=False).distinct()[:MOST_WAGERS]):
        fact_m = None if plan.test is None else _fact_m(plan.test)
        if fact_m is None:
            continue
        answer = readable(plan.answer, PreviewOut)
        told = None if answer is None else answer.forecast.range_to_cutoff
        wagers.append(
            Wager(
                title=plan.title,
                fact_m=fact_m,
                guesses={guess.name: guess.distance_m for guess in plan.guesses.all()},
                forecast_m=None if told is None else (told.value, told.standard_uncertainty),
            )
        )
    return standings(wagers)


def start_planned(
    owner: User, plan_id: UUID, test_id: UUID, started_at: datetime, charge: str | None = None
) -> RangeTest:
    """Begin the ride of a plan, with everything carried over. Sent again, it changes nothing.

    Parameters
    ----------
    charge : what the rider says of it; None is not known
    """
    with transaction.atomic():
        plan: Plan = Plan.objects.owned_by(owner).select_for_update().get(pk=plan_id)
        if ride_of(plan) is not None:
            if plan.test_id == test_id:
                return cast(RangeTest, plan.test)
            raise ConflictError("This plan is being ridden already. Open its ride, or plan again.")
        plan.test = begin_ride(owner, test_id, _ride_of(owner, plan, started_at, charge))
        plan.begun_at = plan.begun_at or timezone.now()
        plan.save(update_fields=["test", "begun_at", "changed_at"])
    return plan.test


def _ride_of(owner: User, plan: Plan, started_at: datetime, charge: str | None) -> RideStart:
    """The ride that a plan asks for."""
    asked = unwrapped(plan.asked)
    route = Route.objects.owned_by(owner).filter(pk=asked.get("route_id")).first()
    lap = route.length_m if route is not None and route.kind == Route.Kind.LOOP else None
    accuracy = None
    if route is not None and lap and route.length_std_m:
        accuracy = min(100 * route.length_std_m * 3**0.5 / lap, 100.0)
    return RideStart(
        title=plan.title,
        purpose=cast(Purpose, plan.purpose),
        started_at=started_at,
        vehicle_id=asked["vehicle_id"],
        pack_id=asked["pack_id"],
        rider_id=asked.get("rider_id"),
        start=start_of(charge),
        packs_used=asked.get("packs_count") or 1,
        packs_use=asked.get("packs_use"),
        protocol=Protocol(
            end_rule=asked.get("end_rule"),
            reserve=asked.get("reserve"),
            speed_policy=asked.get("policy"),
            target_speed_mps=asked.get("target_mps"),
            propulsion="throttle_only",
        ),
        conditions=Conditions(
            temp_start_c=asked.get("temp_c"),
            wind_mps=asked.get("wind_mps"),
            wind_from_deg=asked.get("wind_from_deg"),
            pressure_hpa=asked.get("pressure_hpa"),
            humidity_pct=asked.get("humidity_pct"),
            surface=route.legs[0]["surface"] if route is not None else None,
        ),
        tyres=Tyres(pressure_kpa=asked.get("tyre_kpa")),
        instruments=Instruments(lap=LapInstrument(length_m=lap, accuracy_pct=accuracy))
        if lap
        else None,
    )


def calendar_of(plan: Plan, first: datetime) -> bytes:
    """The days of a plan as an iCalendar file."""
    answer = readable(plan.answer, PreviewOut)
    if answer is None:
        raise ConflictError(UNREADABLE_PLAN)
    hours = answer.schedule.total_s
    note = " ".join(answer.rules.cautions)
    return calendar(
        plan.pk,
        plan.title,
        tuple(answer.days),
        first=first,
        total_s=hours,
        days_apart=days_between(plan.purpose),
        note=note,
    )


def judge(values: dict[str, Any]) -> ClaimAnswer:
    """The verdict on a claim."""
    names = ClaimQuestion.__dataclass_fields__
    return check_claim(ClaimQuestion(**{name: values[name] for name in names}))


def store_claim(owner: User, claim_id: UUID, values: dict[str, Any]) -> Claim:
    """Keep a claim under the id that the client made."""
    judge(values)
    try:
        with transaction.atomic():
            return create_or_change(Claim, owner, claim_id, values)
    except IntegrityError as cause:
        raise FieldError(
            {"name": f"'{values['name']}' is saved already; choose another"}
        ) from cause


def store_trip(
    owner: User, trip_id: UUID, name: str, asked: dict[str, Any], as_typed: dict[str, Any]
) -> KeptTrip:
    """Keep a trip under a name; what cannot be forecast is refused as the forecast refuses it."""
    if len(asked["legs"] or ()) > MOST_KEPT_LEGS:
        text = f"are more than {MOST_KEPT_LEGS}; keep the way as a route, and choose it here"
        raise FieldError({"legs": text})
    _checked(owner, asked)
    owned = KeptTrip.objects.owned_by(owner)
    if owned.count() >= MOST_TRIPS and not owned.filter(pk=trip_id).exists():
        raise ConflictError(f"{MOST_TRIPS} trips are saved; remove one you no longer need.")
    try:
        with transaction.atomic():
            values = {"name": name, "asked": wrapped(as_typed)}
            return create_or_change(KeptTrip, owner, trip_id, values)
    except IntegrityError as cause:
        raise FieldError({"name": f"'{name}' is saved already; choose another"}) from cause


@by_turns
def size(owner: User, asked: dict[str, Any], cell: dict[str, Any], retired_at: float) -> PackSize:
    """The pack that a trip needs of a cell."""
    found = _checked(owner, {**asked, "quick": False})
    asked_cell = Cell(**cell)
    faults = cell_faults(asked_cell)
    if faults:
        raise FieldError({str(path[0]): message for path, message in faults})
    retired = Known(value=retired_at, standard_uncertainty=0.02, source="end of life, chosen")
    trip = replace(found.trip, pack=replace(found.trip.pack, retained_fraction=retired))
    try:
        return size_pack(trip, found.route, asked_cell)
    except OutOfRangeError as cause:
        raise FieldError({"trip": str(cause).removeprefix("size: ")}) from cause
