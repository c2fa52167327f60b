"""Lists cost the same for one row as for twenty; the demo's plans, claims and routes are whole."""

from __future__ import annotations

from datetime import date
from urllib.error import HTTPError
from urllib.request import urlopen
from uuid import uuid4

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext

from limpet.planning.rules import rules_for
from server.plans.models import Plan
from standins import weather

LEG = {"length_m": 4000, "climb_m": 20}
CLAIM = {"rated_wh": 468, "distance_m": 40_000, "speed_mps": 5, "vehicle_kind": "bicycle"}


def queries(api, path: str) -> int:
    with CaptureQueriesContext(
        connection,
    ) as seen:
        assert api.get(path).status_code == 200
    return len(seen)


def add_route(api, kit, number):
    body = {"name": f"Road {number}", "kind": "legs", "legs": [LEG]}
    assert api.put(f"/routes/{uuid4()}", body).status_code == 200


def add_claim(api, kit, number):
    assert api.put(f"/claims/{uuid4()}", {**CLAIM, "name": f"Claim {number}"}).status_code == 200


def add_plan(api, kit, number):
    body = {**kit, "legs": [LEG], "title": f"Plan {number}"}
    assert api.put(f"/plans/{uuid4()}", body).status_code == 200


@pytest.mark.parametrize(
    ("path", "add", "rows"),
    [("/routes", add_route, 12), ("/claims", add_claim, 12), ("/plans", add_plan, 4)],
)
def test_a_list_takes_as_many_queries_for_many_rows_as_for_one(ines, kit, path, add, rows):
    add(ines, kit, 0)
    for_one = queries(ines, path)
    for number in range(1, rows):
        add(ines, kit, number)
    assert len(ines.get(path).json()) == rows
    assert queries(ines, path) == for_one


def test_a_plan_that_is_removed_takes_its_guesses_and_leaves_the_ride(ines, kit):
    plan_id, test_id = str(uuid4()), str(uuid4())
    ines.put(f"/plans/{plan_id}", {**kit, "legs": [LEG], "title": "Gone soon"})
    ines.put(f"/plans/{plan_id}/guesses/{uuid4()}", {"name": "Maren", "distance_m": 9000})
    ines.put(f"/plans/{plan_id}/ride/{test_id}", {"started_at": "2026-05-14T09:00:00Z"})
    assert ines.delete(f"/plans/{plan_id}").status_code == 204
    assert ines.get(f"/plans/{plan_id}").status_code == 404
    assert ines.get(f"/tests/{test_id}").status_code == 200
    assert ines.get(f"/tests/{test_id}/plan").json() is None


def test_kit_that_is_gone_is_named_when_a_kept_plan_is_kept_again(ines, kit):
    plan_id = str(uuid4())
    body = {**kit, "legs": [LEG], "title": "Without a pack"}
    ines.put(f"/plans/{plan_id}", body)
    ines.delete(f"/packs/{kit['pack_id']}")
    # What was planned can still be read; planning anew needs the pack.
    assert ines.get(f"/plans/{plan_id}").status_code == 200
    again = ines.put(f"/plans/{plan_id}", {**body, "title": "Again"})
    assert "is not in your kit" in again.json()["fields"]["pack_id"]
    begun = ines.put(f"/plans/{plan_id}/ride/{uuid4()}", {"started_at": "2026-05-14T09:00:00Z"})
    assert begun.status_code == 422
    assert Plan.objects.get(pk=plan_id).test_id is None


@pytest.mark.parametrize("purpose", ["floor", "everyday", "economy", "claim", "compare", "ageing", "temperature"])  # fmt: skip
def test_every_question_has_its_preview(ines, kit, purpose):
    lap = str(uuid4())
    ines.put(f"/routes/{lap}", {"name": "Lap", "kind": "loop", "legs": [{**LEG, "length_m": 1720}]})
    asked = {**kit, "route_id": lap, "purpose": purpose, "end_rule": "cutoff", "quick": True}
    answer = ines.post("/plans/preview", asked).json()
    assert answer["rules"]["purpose"] == purpose
    assert answer["schedule"]["laps"] >= 1
    assert all(entry["lap"] for entry in answer["schedule"]["entries"])
    assert answer["enough"]["notice"]["message"]
    assert answer["days"]


def test_the_eight_questions_are_listed_with_the_cores_rules(ines, nobody):
    listed = ines.get("/rules").json()
    assert len(listed) == 8
    for row in listed:
        rules = rules_for(row["purpose"])
        assert row["question"] == rules.question
        assert (row["end_rule"], row["speed_policy"]) == (rules.end_rule, rules.speed_policy)
        assert row["runs"] == rules.runs
    assert nobody.get("/rules").status_code == 401


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"wanted": 5}, "wanted"),
        ({"runs": 0}, "runs"),
        ({"charger_w": "0 W"}, "charger_w"),
        ({"purpose": "fun"}, "purpose"),
        ({"title": "x" * 301}, "title"),
        ({"probability": 0.2}, "probability"),
        ({"packs_count": 0}, "packs_count"),
    ],
)
def test_a_plan_that_cannot_be_is_refused_beside_its_field(ines, kit, change, field):
    answer = ines.post("/plans/preview", {**kit, "legs": [LEG], **change})
    assert answer.status_code == 422
    assert field in answer.json()["fields"]


def test_the_weather_office_answers_what_it_documents_and_nothing_else():
    server, address = weather.serve()
    with urlopen(f"{address}/weather?place=Skerrow&date=2026-01-09") as answer:
        found = answer.read().decode()
    for name in ("temp_c", "wind_mps", "wind_from_deg", "pressure_hpa", "humidity_pct", "source"):
        assert f'"{name}"' in found
    for asked in (
        "/weather?place=Skerrow",
        "/weather?date=2026-01-09",
        "/?place=a&date=2026-01-09",
    ):
        with pytest.raises(HTTPError, match="400"):
            urlopen(address + asked)
    server.shutdown()
    server.server_close()


def test_winter_on_the_island_is_colder_than_summer():
    def mean(month):
        return (
            sum(weather.report("Skerrow", date(2026, month, d)).temp_c for d in range(1, 29)) / 28
        )

    assert mean(1) + 8 < mean(7)
