"""Plans, trips and claims in an account's zip: what they name is told by its place in the zip, and found again by it."""

from __future__ import annotations

import json
from collections.abc import Mapping
from datetime import datetime
from typing import Any, Final
from uuid import UUID, uuid5
from zipfile import ZipFile

from django.contrib.auth.models import User
from django.utils.dateparse import parse_datetime

from limpet.bounds import MOST_TITLE
from limpet.errors import BundleError, Fault
from limpet.files.jsonfile import parse_json
from server.imports.checked import checked
from server.plans.models import Claim, Guess, KeptTrip, Plan
from server.plans.schemas import ClaimIn, GuessIn, KeptTripIn, PlanIn
from server.plans.services import store_claim
from server.wire.owned import create_once
from server.wire.problems import ConflictError, FieldError
from server.wire.stored import unwrapped, wrapped

#: Plans of one zip, guesses of a plan, and what they hold one within the other.
MOST_PLANS, MOST_GUESSES, MOST_DEPTH = 2000, 100, 20
#: The moments of a plan, and what it has of its series.
_MOMENTS: Final = ("begun_at", "opened_at")
_SERIES: Final = ("series_place", "series_side")

Places = Mapping[str, str]


def renamed(value: Any, names: Places, depth: int = 0) -> Any:
    """A document with other names for what it points at; what is in no list of names stays."""
    if depth > MOST_DEPTH:
        return value
    if isinstance(value, dict):
        return {key: renamed(item, names, depth + 1) for key, item in value.items()}
    if isinstance(value, list):
        return [renamed(item, names, depth + 1) for item in value]
    return names.get(value, value) if isinstance(value, str) else value


def write_desk(owner: User, archive: ZipFile, places: Places) -> dict[str, list[Any]]:
    """Write an account's plans, each a file; the zip's lists of them, of trips and of claims.

    Parameters
    ----------
    places : by the id of a piece of kit, a route or a test, where it stands in the zip, such as "packs:3"
    """
    plans = []
    rows = Plan.objects.owned_by(owner).order_by("changed_at", "id").prefetch_related("guesses")
    for number, plan in enumerate(rows.iterator(chunk_size=50), start=1):
        name = f"plans/{number:04d}.json"
        document = renamed(_plan_document(plan), places)
        archive.writestr(name, json.dumps(document, ensure_ascii=False))
        plans.append(name)
    return {
        "plans": plans,
        "trips": [
            {"name": row.name, "asked": renamed(unwrapped(row.asked), places)}
            for row in KeptTrip.objects.owned_by(owner).order_by("created_at")
        ],
        "claims": [
            {name: getattr(row, name) for name in ClaimIn.model_fields}
            for row in Claim.objects.owned_by(owner).order_by("created_at")
        ],
    }


def _plan_document(plan: Plan) -> dict[str, Any]:
    return {
        "title": plan.title,
        "asked": unwrapped(plan.asked),
        "answer": plan.answer,
        "checklist": plan.checklist,
        "test": None if plan.test_id is None else str(plan.test_id),
        **{name: _said(getattr(plan, name)) for name in _MOMENTS},
        "series": None if plan.series is None else str(plan.series),
        "series_sides": unwrapped(plan.series_sides),
        **{name: getattr(plan, name) for name in _SERIES},
        "guesses": [
            {"name": each.name, "distance_m": each.distance_m, "sealed_at": _said(each.sealed_at)}
            for each in plan.guesses.all()
        ],
    }


def _said(moment: datetime | None) -> str | None:
    return None if moment is None else moment.isoformat()


def take_desk(
    owner: User,
    space: UUID,
    about: Mapping[str, Any],
    files: Mapping[str, bytes],
    ids: Places,
) -> None:
    """Store a zip's plans, trips and claims.

    Parameters
    ----------
    space : in which their ids are made
    about : the zip's own document, `files` its files by name
    ids : by its place in the zip, the id that each piece of kit, route or test has here

    Raises
    ------
    BundleError
        At the first that is none.
    ConflictError
        When a trip or a claim has a name that is taken.
    """
    for number, name in enumerate(about.get("plans") or []):
        if not isinstance(name, str) or name not in files:
            raise BundleError([Fault("account.json", 0, 0, f"{str(name)[:60]} is not in the zip")])
        document = renamed(parse_json(name, files[name])[0], ids)
        if isinstance(document, dict) and document.get("test") not in ids.values():
            document = {**document, "test": None}
        _take_plan(owner, uuid5(space, f"plan:{number}"), space, name, document)
    for number, row in enumerate(about.get("trips") or []):
        where = f"trips {number + 1}"
        trip = checked(KeptTripIn, renamed(row, ids), "account.json", where)
        values = {
            "name": trip.name,
            "asked": wrapped(trip.asked.model_dump(mode="json", exclude={"quick"})),
        }
        create_once(KeptTrip, owner, uuid5(space, f"trip:{number}"), values)
    for number, row in enumerate(about.get("claims") or []):
        where = f"claims {number + 1}"
        claim = checked(ClaimIn, row, "account.json", where)
        try:
            store_claim(owner, uuid5(space, f"claim:{number}"), claim.model_dump())
        except FieldError as cause:
            raise ConflictError(
                f"{where}: {cause}. Bring the zip into an empty account, or rename that claim first."
            ) from cause


def _take_plan(owner: User, plan_id: UUID, space: UUID, name: str, document: Any) -> None:
    if not isinstance(document, dict):
        raise BundleError([Fault(name, 1, 1, "must be an object: { … }")])
    asked = checked(PlanIn, document.get("asked"), name, "asked")
    guesses = document.get("guesses") or []
    if not isinstance(guesses, list) or len(guesses) > MOST_GUESSES:
        raise BundleError([Fault(name, 0, 0, f"guesses must be a list of at most {MOST_GUESSES}")])
    checklist = document.get("checklist") or []
    series = document.get("series")
    place = document.get("series_place")
    values = {
        "title": str(document.get("title") or asked.title)[:MOST_TITLE],
        "purpose": asked.purpose,
        "asked": wrapped(asked.model_dump(mode="json", exclude={"quick"})),
        # As it was told then; whoever reads it holds it against the shape of today.
        "answer": document.get("answer") if isinstance(document.get("answer"), dict) else {},
        "checklist": [str(item)[:300] for item in checklist[:200]]
        if isinstance(checklist, list)
        else [],
        "test_id": document.get("test"),
        "series": None if series is None else uuid5(space, f"series:{series}"),
        "series_place": place if isinstance(place, int) and 0 < place < 1000 else None,
        "series_side": str(document.get("series_side") or "")[:1],
        "series_sides": document.get("series_sides")
        if isinstance(document.get("series_sides"), dict)
        else None,
        **{moment: _moment(name, document, moment) for moment in _MOMENTS},
    }
    plan, created = create_once(Plan, owner, plan_id, values)
    if not created:
        return
    for number, row in enumerate(guesses):
        sent = row if isinstance(row, dict) else {}
        told = {key: sent.get(key) for key in ("name", "distance_m")}
        guess = checked(GuessIn, told, name, f"guesses {number + 1}")
        kept = Guess.objects.create(
            id=uuid5(plan_id, f"guess:{number}"), plan=plan, **guess.model_dump()
        )
        sealed = _moment(name, sent, "sealed_at")
        if sealed is not None:
            # The field takes the moment of its making; this one was sealed before.
            Guess.objects.filter(pk=kept.pk).update(sealed_at=sealed)


def _moment(name: str, document: Mapping[str, Any], key: str) -> datetime | None:
    said = document.get(key)
    if said is None:
        return None
    try:
        found = parse_datetime(said) if isinstance(said, str) else None
    except ValueError:
        found = None
    if found is None or found.tzinfo is None:
        raise BundleError(
            [Fault(name, 0, 0, f"{key} must be a moment such as 2026-05-14T10:00:00+00:00")]
        )
    return found
