"""Load Skerrow into the demo's account, once."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any
from uuid import NAMESPACE_URL, uuid5

from django.contrib.auth.models import User
from django.core.management.base import BaseCommand, CommandParser
from django.db import transaction
from django.utils import timezone

from demo.island import PACKS, RIDERS, VEHICLES
from demo.plans import CLAIMS, GUESSES, LOOPS, PLANS, RIDDEN, ROADS, lighthouse_gpx
from demo.skerrow import ROUNDS, ridden
from server.accounts.models import Account
from server.accounts.services import store
from server.kit.models import Pack, Rider, Vehicle
from server.kit.services import import_route, store_route
from server.logbook.models import RangeTest
from server.plans.fits import fit_vehicle
from server.plans.models import Plan
from server.plans.schemas import PlanIn
from server.plans.services import seal_guess, store_claim, store_plan
from server.results.services import store_test
from server.results.worker import look_once

#: A name like any other; what makes it the demo is the mark on its account.
USERNAME = "demo"


class Command(BaseCommand):
    """Load the island, or set it back to new."""

    help = "Load the made-up island's vehicles, packs, riders and range tests, once."

    def add_arguments(self, parser: CommandParser) -> None:
        """`--renew` sets the demo back to new."""
        parser.add_argument("--renew", action="store_true", help="set the demo back to new")

    def handle(self, *args: Any, **options: Any) -> None:
        """Once, unless it is to be new."""
        kept = Account.objects.filter(is_demo=True).select_related("owner").first()
        if kept is not None and not options["renew"]:
            self.stdout.write("The demo is loaded already.")
            return
        with transaction.atomic():
            if kept is not None:
                kept.owner.delete()
            owner = User(username=USERNAME)
            # Nobody signs in to it with a password; the start page has a button for it.
            owner.set_unusable_password()
            store(owner, is_demo=True)
            for name, vehicle in VEHICLES.items():
                Vehicle.objects.create(
                    id=_id(name),
                    owner=owner,
                    note=vehicle.note,
                    max_power_w=vehicle.model.max_power_w,
                    **{
                        **asdict(vehicle.spec),
                        "regeneration": vehicle.model.regeneration or None,
                        "step_down": [],
                    },
                )
            for name, pack in PACKS.items():
                Pack.objects.create(
                    id=_id(name),
                    owner=owner,
                    note=pack.note,
                    retained_fraction=pack.known_retained,
                    **{
                        name: value
                        for name, value in asdict(pack.spec).items()
                        if name not in ("nominal_v", "taken")
                    },
                )
            for name, rider in RIDERS.items():
                Rider.objects.create(
                    id=_id(name),
                    owner=owner,
                    name=rider.name or "",
                    mass_kg=rider.mass_kg,
                    gear_kg=rider.gear_kg,
                )
            for index, item in enumerate(ROUNDS, start=1):
                self.stdout.write(f"  riding {index} of {len(ROUNDS)}: {item.title}")
                store_test(owner, _id(item.slug), ridden(item.slug))
            _load_plans(owner)
        # What one ride teaches the next, before anybody looks.
        look_once()
        self.stdout.write(f"Loaded {RangeTest.objects.owned_by(owner).count()} tests.")


def _load_plans(owner: User) -> None:
    """Routes, claims, a fit, and a plan that waits to ride."""
    for name, loop in LOOPS.items():
        store_route(owner, _id(name), {"name": name, "kind": "loop", **loop})
    for name, legs in ROADS.items():
        store_route(owner, _id(name), {"name": name, "kind": "legs", "readings_m": [], **legs})
    import_route(
        owner, _id("Lighthouse road"), "Lighthouse road", "lighthouse.gpx", lighthouse_gpx()
    )
    for name, claim in CLAIMS.items():
        store_claim(owner, _id(name), {"name": name, **claim})
    # Before the fits: a ride must not be forecast from itself.
    for slug, plan in RIDDEN.items():
        test = RangeTest.objects.get(pk=_id(slug))
        kept = _plan(owner, f"plan of {slug}", test.title, {**plan, "use_tests": False})
        # As if it had been started from the plan: its end opens the guesses.
        kept.test, kept.begun_at, kept.opened_at = test, test.started_at, timezone.now()
        kept.save(update_fields=["test", "begun_at", "opened_at"])
    for name in ("Sandpiper", "Whimbrel"):
        fit_vehicle(owner, _id(name))
    for name, plan in PLANS.items():
        _plan(owner, name, name, plan)


def _plan(owner: User, slug: str, title: str, plan: dict[str, Any]) -> Plan:
    """Keep a plan, and seal the bets on it."""
    values = {key: _id(value) if key.endswith("_id") else value for key, value in plan.items()}
    asked = PlanIn(**values, title=title)
    kept = store_plan(
        owner, _id(slug), asked.model_dump(), asked.model_dump(mode="json", exclude={"quick"})
    )
    for guesser, distance_m in GUESSES:
        seal_guess(owner, kept.pk, _id(f"{slug}/{guesser}"), guesser, distance_m)
    return kept


def _id(name: str) -> Any:
    """The same id for the same name, so that links into the demo keep working."""
    return uuid5(NAMESPACE_URL, f"limpet-demo/{name}")
