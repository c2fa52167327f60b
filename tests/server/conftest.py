"""A real MariaDB, two accounts, and a client that speaks JSON."""

from __future__ import annotations

import json
from dataclasses import dataclass
from typing import Any
from uuid import uuid4

import pytest
from django.contrib.auth.models import User
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client


@dataclass
class Api:
    """Requests as the page makes them; `user` is None for nobody."""

    client: Client
    user: User | None

    def get(self, path: str) -> Any:
        return self.client.get(f"/api{path}")

    def put(self, path: str, body: dict[str, Any]) -> Any:
        return self.client.put(f"/api{path}", json.dumps(body), content_type="application/json")

    def post(self, path: str, body: dict[str, Any] | None = None) -> Any:
        return self.client.post(
            f"/api{path}", json.dumps(body or {}), content_type="application/json"
        )

    def delete(self, path: str) -> Any:
        return self.client.delete(f"/api{path}")

    def import_files(self, files: dict[str, bytes], test_id: Any = None) -> Any:
        parts = [SimpleUploadedFile(name, data) for name, data in files.items()]
        return self.client.post(
            "/api/tests/import", {"id": str(test_id or uuid4()), "files": parts}
        )


@pytest.fixture(autouse=True)
def _quick_passwords(settings):
    """A password is hashed slowly on purpose, and once for every account of every test."""
    settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]


@pytest.fixture
def ines(db):
    return _signed_in("ines")


@pytest.fixture
def tobias(db):
    return _signed_in("tobias")


@pytest.fixture
def nobody(db):
    return Api(Client(), None)


def _signed_in(name: str) -> Api:
    user = User.objects.create_user(name, password="a-long-enough-password")
    client = Client()
    client.force_login(user)
    return Api(client, user)


@pytest.fixture
def kit(ines):
    """A vehicle, a pack and a rider of Ines's, by id."""
    ids = {name: str(uuid4()) for name in ("vehicle_id", "pack_id", "rider_id")}
    ines.put(
        f"/vehicles/{ids['vehicle_id']}",
        {"name": "Sandpiper", "kind": "bicycle", "mass_kg": "84 lb"},
    )
    pack = {
        "name": "Eider-2",
        "chemistry": "nmc",
        "series": 13,
        "rated_ah": 14,
        "full_v": 54.6,
        "cutoff_v": 39,
    }
    ines.put(f"/packs/{ids['pack_id']}", pack)
    ines.put(f"/riders/{ids['rider_id']}", {"name": "Ines", "mass_kg": 64, "gear_kg": 4})
    return ids


@pytest.fixture
def ride(ines, kit):
    """A ride of Ines's that has just begun, by id."""
    test_id = str(uuid4())
    body = {
        "title": "Harbour and back",
        "started_at": "2026-05-14T09:12:00+02:00",
        "reserve": 0.2,
        **kit,
    }
    assert ines.put(f"/tests/{test_id}", body).status_code == 200
    return test_id


def note(api, ride, time_s, kind="checkpoint", entry_id=None, **values):
    body = {"time_s": time_s, "kind": kind, **values}
    return api.put(f"/tests/{ride}/entries/{entry_id or uuid4()}", body)


@pytest.fixture
def ridden(ines, ride):
    note(ines, ride, 5, "start", voltage_rest_v="54.4 V", trip_m="0 mi", charge_ah=0)
    note(ines, ride, 1800, voltage_rest_v="51,0", trip_m="6 mi", charge_ah="3.1 Ah")
    note(ines, ride, 3600, "end", voltage_rest_v=48.2, trip_m="12 mi", charge_ah=6.4)
    return ride
