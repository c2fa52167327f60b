"""What earlier releases stored is there after an upgrade, and comes to the same numbers.

`stored/demo-0.1.sql.xz` and `demo-0.2.sql.xz` are the demo's database as each release left it: its
tables, its sheets and samples, and from 0.2 on plans, claims and fits, in the shapes of that day.
"""

from __future__ import annotations

import json
import lzma
import os
import shutil
import subprocess
from collections.abc import Iterator
from dataclasses import dataclass
from http.cookiejar import CookieJar
from pathlib import Path
from typing import Any
from urllib.request import HTTPCookieProcessor, OpenerDirector, Request, build_opener

import MySQLdb
import pytest

from launch.sockets import listen
from tests.serving import port_of, serve

ROOT = Path(__file__).resolve().parents[2]
STORED = Path(__file__).parent / "stored"
RELEASES = ("0.1", "0.2")
#: 0.3 draws every error once and reads all that was noted: what is extrapolated moved, and half a lap
#: is added to counts that were taken whole. What a meter or a track measured stays within this.
MEASURED_WITHIN = 0.02


@dataclass
class Upgraded:
    """The application on yesterday's database, signed in to the demo, and what was worked out then."""

    release: str
    address: str
    opener: OpenerDirector
    csrf: str
    before: dict[str, dict[str, Any]]

    def get(self, path: str) -> Any:
        with self.opener.open(f"{self.address}/api{path}") as answer:
            return json.load(answer)

    def computed(self, test_id: str) -> Any:
        """A test's page, once the worker or the page itself has its result."""
        for _ in range(2000):
            found = self.get(f"/tests/{test_id}")
            if found["computed"] not in ("waiting", "computing"):
                return found
        raise AssertionError("the result never came")

    def post(self, path: str, body: dict[str, Any]) -> Any:
        headers = {"X-CSRFToken": self.csrf, "Content-Type": "application/json"}
        data = json.dumps(body).encode()
        with self.opener.open(Request(f"{self.address}/api{path}", data, headers)) as answer:
            return json.load(answer)


@pytest.fixture(scope="module", params=RELEASES)
def upgraded(request: pytest.FixtureRequest) -> Iterator[Upgraded]:
    release: str = request.param
    name = f"limpet_test_yesterday_{os.environ.get('PYTEST_XDIST_WORKER', 'alone')}"
    door = {"host": "127.0.0.1", "port": int(os.environ["LIMPET_DB_PORT"]), "user": "limpet"}
    connection = MySQLdb.connect(**door, password=os.environ["LIMPET_DB_PASSWORD"])
    with connection.cursor() as cursor:
        cursor.execute(f"DROP DATABASE IF EXISTS {name}")
        cursor.execute(f"CREATE DATABASE {name} CHARACTER SET utf8mb4")
    client = shutil.which("mariadb")
    assert client is not None
    command = [client, *(f"--{key}={value}" for key, value in door.items()), name]
    sql = lzma.decompress((STORED / f"demo-{release}.sql.xz").read_bytes())
    known = {**os.environ, "MYSQL_PWD": os.environ["LIMPET_DB_PASSWORD"]}
    subprocess.run(command, input=sql, env=known, check=True)
    with connection.cursor() as cursor:
        cursor.execute(f"SELECT test_id, result FROM {name}.logbook_cachedresult")
        before = {str(test_id): json.loads(result) for test_id, result in cursor.fetchall()}
    # A transaction that has read a table keeps it from being altered.
    connection.commit()
    page = listen("127.0.0.1")
    server = serve(page, LIMPET_DB_NAME=name, LIMPET_DEMO="1")
    opener = build_opener(HTTPCookieProcessor(CookieJar()))
    found = Upgraded(release, f"http://127.0.0.1:{port_of(page)}", opener, "", before)
    found.csrf = found.get("/session")["csrf_token"]
    found.csrf = found.post("/session/demo", {})["csrf_token"]
    yield found
    server.terminate()
    server.wait(timeout=20)
    server.stdout.close()
    page.close()
    with connection.cursor() as cursor:
        cursor.execute(f"DROP DATABASE {name}")


def test_every_test_comes_to_the_truth_that_was_shown(upgraded):
    """Yesterday's interval and today's hold a common truth; what was measured is the same."""
    listed = upgraded.get("/tests")["items"]
    assert len(listed) == len(upgraded.before) == 10
    for row in listed:
        result, kept = upgraded.computed(row["id"])["result"], upgraded.before[row["id"]]
        for name in ("range_to_cutoff", "range_to_reserve", "energy", "distance"):
            now, was = result[name], kept[name]
            assert (now is None) is (was is None), name
            if was is not None:
                assert now["low"] <= was["high"], name
                assert was["low"] <= now["high"], name
        metered = result["energy_methods"][0]["method"] in ("sampled", "energy_counter")
        # What earlier tests taught of a wheel is new: it may choose another instrument.
        learned = any(
            item["name"] in ("trip", "odometer") and item["source"].startswith("learned")
            for item in result["inputs"]
        )
        told = (*(() if learned else ("distance",)), *(("energy",) if metered else ()))
        for name in told:
            assert result[name]["value"] == pytest.approx(
                kept[name]["value"], rel=MEASURED_WITHIN
            ), name


def test_entries_samples_and_their_history_are_all_there(upgraded):
    for row in upgraded.get("/tests")["items"]:
        detail = upgraded.computed(row["id"])
        assert detail["trouble"] == ""
        assert detail["sheet"] is not None
        if detail["has_samples"]:
            assert len(upgraded.get(f"/tests/{row['id']}/traces")["time_s"]) > 100
        else:
            assert detail["entries"]


def test_kit_plans_guesses_claims_and_fits_are_read(upgraded):
    assert len(upgraded.get("/vehicles")) == 4
    assert len(upgraded.get("/packs")) == 5
    if upgraded.release == "0.1":
        return  # there were none of the others
    assert any(vehicle["fit"] is not None for vehicle in upgraded.get("/vehicles"))
    assert all(route["legs"] for route in upgraded.get("/routes"))
    claims = upgraded.get("/claims")
    assert {claim["answer"]["possible"] for claim in claims} == {True, False}
    plans = upgraded.get("/plans")
    assert plans
    for row in plans:
        plan = upgraded.get(f"/plans/{row['id']}")
        assert plan["trouble"] == ""
        assert plan["answer"]["forecast"]["route"]["distance_m"] > 1000
        assert plan["answer"]["enough"]["notice"]["message"].endswith(".")
        assert plan["guesses"]


def test_what_was_stored_can_be_asked_again(upgraded):
    vehicle, pack = upgraded.get("/vehicles")[0], upgraded.get("/packs")[0]
    trip = {
        "vehicle_id": vehicle["id"], "pack_id": pack["id"], "quick": True,
        "legs": [{"length_m": 4000, "climb_m": 20, "surface": "smooth_paved"}],
    }  # fmt: skip
    assert upgraded.post("/forecast", trip)["range_to_cutoff"]["value"] > 1000
