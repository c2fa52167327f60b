"""The demo's account: all of Skerrow, once, with its plans and fits, and set back to new."""

from __future__ import annotations

from io import StringIO

import pytest
from django.contrib.auth.models import User
from django.core.management import call_command
from django.db import transaction
from django.test import Client

from demo.island import PACKS, VEHICLES
from demo.skerrow import ROUNDS
from limpet.files.tripfile import track_from_gpx
from server.kit.models import Pack, Route, Vehicle
from server.logbook.models import RangeTest
from server.plans.models import Claim, Plan
from tests.server.conftest import Api


@pytest.fixture(scope="module")
def island(django_db_setup, django_db_blocker):
    """The demo, loaded once for all tests here; each sees it as it was loaded."""
    with django_db_blocker.unblock(), transaction.atomic():
        call_command("load_demo", stdout=StringIO())
        yield
        transaction.set_rollback(True)


def test_the_demo_loads_once(island, db):
    out = StringIO()
    owner = User.objects.get(account__is_demo=True)
    assert not owner.has_usable_password()
    counts = [model.objects.owned_by(owner).count() for model in (Vehicle, Pack, RangeTest)]
    assert counts == [len(VEHICLES), len(PACKS), len(ROUNDS)]
    assert all(test.vehicle_id and test.pack_id for test in RangeTest.objects.all())
    call_command("load_demo", stdout=out)
    assert "loaded already" in out.getvalue()
    assert RangeTest.objects.count() == len(ROUNDS)


def test_the_demo_plans_claims_and_fits(island, db):
    owner = User.objects.get(account__is_demo=True)
    verdicts = {c.name: c for c in Claim.objects.filter(owner=owner)}
    assert set(verdicts) == {"Turnstone's maker", "A flyer at the ferry"}
    assert Route.objects.filter(owner=owner).count() == 4
    fitted = [v.name for v in Vehicle.objects.filter(owner=owner) if v.fit]
    # Two were asked for; the others' logged rides told it by themselves.
    assert sorted(fitted) == ["Dunlin", "Sandpiper", "Turnstone", "Whimbrel"]
    waiting, ridden = (
        Plan.objects.get(owner=owner, test=None),
        Plan.objects.get(owner=owner, test__isnull=False),
    )
    assert waiting.guesses.count() == ridden.guesses.count() == 3
    # The ride was forecast before anything was known of its vehicle.
    sources = {i["name"]: i["source"] for i in ridden.answer["value"]["forecast"]["inputs"]}
    assert sources["crr"] == "start value for bicycle"
    track = Route.objects.get(owner=owner, kind="track")
    again, _ = track_from_gpx(bytes(track.gpx), "kept.gpx", "smooth_paved")
    assert again.route.length_m == pytest.approx(track.length_m)


def test_the_demos_ridden_plan_shows_its_guesses(island, db):
    ridden = Plan.objects.exclude(test=None)
    assert ridden.exists()
    for plan in ridden:
        assert plan.opened_at is not None
        assert plan.begun_at == plan.test.started_at


def test_the_demo_can_be_set_back_to_new_and_only_by_itself(island, ines, db):
    assert ines.post("/session/demo/renew").status_code == 403
    demo = Api(Client(), None)
    assert demo.post("/session/demo").status_code == 200
    first = demo.get("/vehicles").json()[0]
    demo.delete(f"/vehicles/{first['id']}")
    for test in demo.get("/tests").json()["items"][:3]:
        demo.delete(f"/tests/{test['id']}")
    assert demo.post("/session/demo/renew").json()["demo"] is True
    assert len(demo.get("/vehicles").json()) == len(VEHICLES)
    assert demo.get("/tests").json()["count"] == len(ROUNDS)
    assert (Vehicle.objects.count(), RangeTest.objects.count()) == (len(VEHICLES), len(ROUNDS))
