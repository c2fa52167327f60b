"""An account's own assumptions: in requests, in the worker, in imports and forecasts, and no one else's."""

import pytest

from server.logbook.models import RangeTest
from server.results import worker
from server.results.models import TestResult
from server.wire.stored import unwrapped
from tests.strategies import minimal


def codes(api, test_id):
    return {notice["code"] for notice in api.get(f"/tests/{test_id}").json()["result"]["warnings"]}


@pytest.fixture
def ended(ines, ridden):
    ines.put(f"/tests/{ridden}/ending", {"reason": "home"})
    return ridden


def test_a_change_makes_results_due_and_the_worker_computes_them_with_it(ines, tobias, ended):
    worker.look_once()
    before = TestResult.objects.get(test=ended)
    assert not before.lessons_due
    answer = ines.put("/assumptions/run_to_run", {"value": 1.0, "std": 0.2})
    assert (answer.status_code, answer.json()["changed"]) == (200, True)
    assert TestResult.objects.get(test=ended).lessons_due
    worker.look_once()
    after = TestResult.objects.get(test=ended)
    plans = [unwrapped(row.detail)["result"]["plan_on"]["distance_m"] for row in (before, after)]
    # Of a spread that is assumed over a year two thirds are left on like days.
    assert plans[1] < 0.9 * plans[0]
    assert "own_assumptions" in codes(ines, ended)
    others = {item["name"]: item["changed"] for item in tobias.get("/assumptions").json()}
    assert not any(others.values())
    assert ines.delete("/assumptions/run_to_run").json()["changed"] is False
    worker.look_once()
    assert "own_assumptions" not in codes(ines, ended)


def test_an_import_is_computed_with_them(ines):
    ines.put("/assumptions/reserve", {"value": 0.4, "std": 0})
    entries = b"time_s,kind,trip_m,voltage_rest_v\n0,start,0,54.2\n3600,end,18000,49.0\n"
    files = {"test.json": minimal(), "entries.csv": entries}
    test_id = ines.import_files(files).json()["id"]
    kept = unwrapped(RangeTest.objects.get(pk=test_id).kept_result.figures)
    assert kept["reserve"] == 0.4


@pytest.mark.parametrize(
    ("name", "body", "field"),
    [
        ("reserve", {"value": 1.4, "std": 0}, "value"),
        ("run_to_run", {"value": 1, "std": 9}, "std"),
        ("run_to_run", {"value": "much", "std": 0.1}, "value"),
    ],
)
def test_what_cannot_be_assumed_is_refused_beside_its_field(ines, name, body, field):
    answer = ines.put(f"/assumptions/{name}", body)
    assert answer.status_code == 422
    assert field in answer.json()["fields"]


def test_nothing_is_assumed_of_what_there_is_not(ines, nobody):
    assert ines.put("/assumptions/luck", {"value": 1, "std": 0}).status_code == 404
    assert nobody.get("/assumptions").status_code == 401


def test_an_own_reserve_is_what_a_session_and_an_unsaid_trip_keep_back(ines, tobias, kit):
    assert ines.get("/session").json()["reserve"] == 0.2
    ines.put("/assumptions/reserve", {"value": 0.3, "std": 0.0})
    assert ines.get("/session").json()["reserve"] == 0.3
    assert tobias.get("/session").json()["reserve"] == 0.2
    trip = {**kit, "legs": [{"length_m": 5000}]}
    assert ines.post("/forecast", trip).json()["reserve"] == 0.3
