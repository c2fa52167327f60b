"""Where an account is signed in, and its end: every row of it, in every table."""

from __future__ import annotations

import json
from datetime import timedelta
from uuid import uuid4

import pytest
from django.apps import apps
from django.contrib.auth.models import User
from django.db import connection
from django.test import Client
from django.utils import timezone

from server import removed
from server.accounts.models import Account, SignedIn
from server.accounts.services import delete_due
from server.results.worker import look_once
from tests.server.conftest import Api, note
from tests.server.test_plans import CLAIM
from tests.server.test_streams import METER, batch

PASSWORD = "a-long-enough-password"
PHONE = "Mozilla/5.0 (Linux; Android 14) Mobile"
LAPTOP = "Mozilla/5.0 (X11; Linux x86_64)"


def sign_in(agent, name="ines"):
    client = Client(HTTP_USER_AGENT=agent)
    token = client.get("/api/session").json()["csrf_token"]
    answer = client.post(
        "/api/session", json.dumps({"username": name, "password": PASSWORD}),
        content_type="application/json", headers={"X-CSRFToken": token},
    )  # fmt: skip
    assert answer.status_code == 200, answer.content
    return Api(client, User.objects.get(username=name))


@pytest.fixture
def rider(db):
    User.objects.create_user("ines", password=PASSWORD)
    User.objects.create_user("tobias", password=PASSWORD)


def told(api):
    return [row["kind"] for row in api.get("/session").json()["new_devices"]]


def test_sessions_are_listed_and_ended_one_by_one(rider):
    laptop, phone, other = sign_in(LAPTOP), sign_in(PHONE), sign_in(LAPTOP, "tobias")
    shown = laptop.get("/account").json()["sessions"]
    assert [(row["kind"], row["here"]) for row in shown] == [("phone", False), ("computer", True)]
    there = shown[0]["id"]
    assert other.delete(f"/account/sessions/{there}").status_code == 404
    assert phone.get("/tests").status_code == 200
    assert laptop.delete(f"/account/sessions/{there}").status_code == 204
    assert phone.get("/tests").status_code == 401
    assert laptop.delete(f"/account/sessions/{there}").status_code == 404
    assert len(laptop.get("/account").json()["sessions"]) == 1
    # Who signs out is in no list any more, and neither is a session that has lapsed.
    again = sign_in(PHONE)
    again.delete("/session")
    assert len(laptop.get("/account").json()["sessions"]) == 1


def test_a_new_device_is_told_to_the_others_once(rider):
    laptop = sign_in(LAPTOP)
    assert told(laptop) == []
    phone = sign_in(PHONE)
    assert told(laptop) == ["phone"]
    assert told(phone) == [], "not to itself"
    # Of the same kind again it is no news.
    sign_in(PHONE)
    assert told(laptop) == ["phone"]
    laptop.post("/account/told")
    assert told(laptop) == []
    assert told(sign_in(LAPTOP)) == []


def test_a_new_password_ends_the_others_and_keeps_this_one_in_the_list(rider):
    laptop, phone = sign_in(LAPTOP), sign_in(PHONE)
    changed = laptop.put("/password", {"current": PASSWORD, "wanted": "another-long-password"})
    assert changed.status_code == 200, changed.content
    assert phone.get("/tests").status_code == 401
    assert [row["here"] for row in laptop.get("/account").json()["sessions"]] == [True]


def all_rows(user):
    """Tables in which something of an account's is left, whatever they are called."""
    found = set()
    tables = connection.introspection.table_names()
    with connection.cursor() as cursor:
        for table in tables:
            names = [column.name for column in connection.introspection.get_table_description(cursor, table)]  # fmt: skip
            for name in names:
                if name in ("owner_id", "user_id", "by_id") or (table, name) == ("auth_user", "id"):
                    cursor.execute(f"SELECT COUNT(*) FROM `{table}` WHERE `{name}` = %s", [user.pk])
                    if cursor.fetchone()[0]:
                        found.add(table)
    return found


def orphans():
    """Rows that hang on nothing any more."""
    found = {}
    for model in apps.get_models():
        for field in model._meta.get_fields():
            if getattr(field, "many_to_one", False) and field.concrete:
                near = model._default_manager.exclude(**{f"{field.name}__isnull": True})
                lost = near.exclude(**{f"{field.name}__in": field.related_model._default_manager.values("pk")})  # fmt: skip
                if lost.exists():
                    found[model.__name__] = lost.count()
    return found


def fill(api):
    """Of everything that an account can have, one."""
    kit = {name: str(uuid4()) for name in ("vehicle_id", "pack_id", "rider_id")}
    api.put(f"/vehicles/{kit['vehicle_id']}", {"name": "Sandpiper", "kind": "bicycle"})
    api.put(f"/packs/{kit['pack_id']}", {"name": "Eider", "chemistry": "nmc", "series": 13, "rated_ah": 14})  # fmt: skip
    api.put(f"/riders/{kit['rider_id']}", {"name": "Ines", "mass_kg": 64})
    leg = {"length_m": "6 km"}
    api.put(f"/routes/{uuid4()}", {"name": "Quay", "kind": "legs", "legs": [leg]})
    trip = {**kit, "legs": [leg]}
    api.put(f"/trips/{uuid4()}", {"name": "To the light", "asked": trip})
    plan = uuid4()
    api.put(f"/plans/{plan}", {**trip, "title": "Over", "purpose": "commute", "end_rule": "route_end"})  # fmt: skip
    api.put(f"/plans/{plan}/guesses/{uuid4()}", {"name": "Me", "distance_m": "20 km"})
    api.put(f"/claims/{uuid4()}", CLAIM)
    api.put("/assumptions/reserve", {"value": 0.3, "std": 0.05})
    api.put("/units", {"distance": "km", "mass": "kg", "temperature": "°C", "pressure": "kPa"})
    api.put("/imports/home", {"latitude_deg": 10.1, "longitude_deg": -30.2, "within_m": 300})
    ride, stream, entry = uuid4(), uuid4(), uuid4()
    api.put(f"/tests/{ride}", {"title": "R", "started_at": "2026-05-14T09:12:00+02:00", **kit})
    note(api, ride, 0, "start", entry_id=entry, voltage_rest_v=54.4, trip_m=0)
    note(api, ride, 0, "start", entry_id=entry, voltage_rest_v=54.3, trip_m=0, from_changes=0)
    note(api, ride, 1800, voltage_rest_v=50.0, trip_m="9 km")
    api.put(f"/tests/{ride}/streams/{stream}", METER)
    api.put(f"/tests/{ride}/streams/{stream}/batches/0", batch(0))
    api.put(f"/tests/{ride}/sheet", {"base": 0, "start": {"full": True}})
    api.put(f"/tests/{ride}/ending", {"reason": "home"})
    look_once()


def test_an_account_goes_after_a_week_with_all_that_is_its_own(rider):
    laptop, phone, other = sign_in(LAPTOP), sign_in(PHONE), sign_in(LAPTOP, "tobias")
    fill(laptop)
    fill(other)
    user, kept = laptop.user, all_rows(other.user)
    assert len(all_rows(user)) >= 12
    assert laptop.post("/account/leaving", {"current": "guessed"}).status_code == 422
    answer = laptop.post("/account/leaving", {"current": PASSWORD})
    assert answer.status_code == 200, answer.content
    assert phone.get("/tests").status_code == 401, "whoever is in elsewhere is out"
    goes = laptop.get("/session").json()["goes_at"]
    assert goes is not None
    # For a week it can be had back.
    assert delete_due() == 0
    assert laptop.delete("/account/leaving").json()["goes_at"] is None
    assert delete_due() == 0
    laptop.post("/account/leaving", {"current": PASSWORD})
    Account.objects.filter(owner=user).update(goes_at=timezone.now() - timedelta(seconds=1))
    assert delete_due() == 1
    assert all_rows(user) == set()
    assert orphans() == {}
    assert laptop.get("/tests").status_code == 401
    # Nobody else lost anything.
    assert all_rows(other.user) == kept
    assert other.get("/tests").json()["items"] != []


def test_the_demo_stays_and_tells_nobody_who_else_is_there(rider):
    Account.objects.filter(owner__username="ines").update(is_demo=True)
    here, there = sign_in(LAPTOP), sign_in(PHONE)
    assert len(here.get("/account").json()["sessions"]) == 1
    row = SignedIn.objects.exclude(kind="computer").get()
    assert here.delete(f"/account/sessions/{row.pk}").status_code == 404
    refused = here.post("/account/leaving", {"current": PASSWORD})
    assert refused.status_code == 422
    assert told(here) == []
    assert there.get("/tests").status_code == 200


@pytest.mark.django_db
def test_a_running_server_tidies_up_once_an_hour(monkeypatch):
    done = []
    monkeypatch.setattr(removed, "purge_all", lambda: done.append("rows") or 0)
    monkeypatch.setattr(removed, "_tidied_at", [])
    look_once()
    look_once()
    assert done == ["rows"]
    removed._tidied_at[0] -= removed.TIDY_EVERY_S + 1
    look_once()
    assert done == ["rows", "rows"]
