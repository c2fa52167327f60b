"""Load Skerrow into the demo's account, once."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any
from uuid import NAMESPACE_URL, uuid5

from django.conf import settings
from django.contrib.auth.models import User
from django.core.management.base import BaseCommand
from django.db import transaction

from demo.skerrow import PACKS, RIDERS, ROUNDS, VEHICLES, ridden
from server.kit.models import Pack, Rider, Vehicle
from server.logbook.models import RangeTest
from server.logbook.services import store_test


class Command(BaseCommand):
    help = "Load the made-up island's vehicles, packs, riders and range tests, once."

    def handle(self, *args: Any, **options: Any) -> None:
        if User.objects.filter(username=settings.DEMO_USERNAME).exists():
            self.stdout.write("The demo is loaded already.")
            return
        with transaction.atomic():
            owner = User(username=settings.DEMO_USERNAME)
            # Nobody signs in to it with a password; the start page has a button for it.
            owner.set_unusable_password()
            owner.save()
            for name, vehicle in VEHICLES.items():
                Vehicle.objects.create(
                    id=_id(name), owner=owner, note=vehicle.note, **asdict(vehicle.spec)
                )
            for name, pack in PACKS.items():
                Pack.objects.create(id=_id(name), owner=owner, note=pack.note, **asdict(pack.spec))
            for name, rider in RIDERS.items():
                Rider.objects.create(id=_id(name), owner=owner, **asdict(rider))
            for index, item in enumerate(ROUNDS, start=1):
                self.stdout.write(f"  riding {index} of {len(ROUNDS)}: {item.title}")
                store_test(owner, _id(item.slug), ridden(item.slug))
        self.stdout.write(f"Loaded {RangeTest.objects.owned_by(owner).count()} tests.")


def _id(name: str) -> Any:
    """The same id for the same name, so that links into the demo keep working."""
    return uuid5(NAMESPACE_URL, f"limpet-demo/{name}")
