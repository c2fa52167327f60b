"""A result that is another than it was, because Limpet learned: told once, and only then."""

from __future__ import annotations

import pytest

from demo.skerrow import ridden
from limpet.files import write_zip
from server.results import changed, services, worker
from server.results import queries as rows
from server.results.models import TestResult
from server.wire.stored import unwrapped, wrapped


@pytest.fixture
def ride(ines):
    """A ride of Ines's, its result kept."""
    return ines.import_files({"ride.zip": write_zip(ridden("turnstone-quay-cutoff"))}).json()["id"]


def shown(api, test_id):
    found = api.get(f"/tests/{test_id}").json()
    return found["changed"], found


def learned(monkeypatch, test_id, factor, lessons=0):
    """As if an older core had kept a range so many times as long."""
    row = TestResult.objects.get(test_id=test_id)
    kept, detail = unwrapped(row.figures), unwrapped(row.detail)
    for name in ("value", "low", "high"):
        kept["range_to_cutoff"][name] *= factor
    detail["result"]["plan_on"]["distance_m"] *= factor
    TestResult.objects.filter(test_id=test_id).update(
        core="an older core", lessons=lessons, figures=wrapped(kept), detail=wrapped(detail),
        changed=None,
    )  # fmt: skip
    return kept["range_to_cutoff"]["value"]


def test_a_new_test_has_nothing_to_tell(ines, ride):
    assert shown(ines, ride)[0] is None
    assert TestResult.objects.get(test_id=ride).lessons > 0


def test_what_it_was_and_why_is_told_until_it_was_seen(ines, ride, monkeypatch):
    was = learned(monkeypatch, ride, 1.2)
    assert worker.compute_due() == 1
    told, found = shown(ines, ride)
    assert told["range_to_cutoff"]["value"] == pytest.approx(was)
    now = found["figures"]["range_to_cutoff"]["value"]
    assert now == pytest.approx(was / 1.2, rel=1e-6)
    assert told["plan_on_m"] == pytest.approx(1.2 * found["result"]["plan_on"]["distance_m"])
    assert told["wh_per_km"]["value"] == found["figures"]["wh_per_km"]["value"]
    why = [item["code"] for item in told["why"]]
    assert "learned_promise" in why
    # Its pack is no iron phosphate.
    assert "learned_lfp" not in why
    assert ines.post(f"/tests/{ride}/changed/seen").status_code == 204
    assert shown(ines, ride)[0] is None
    assert ines.post(f"/tests/{ride}/changed/seen").status_code == 204


def test_only_lessons_that_are_new_to_it_are_told(ines, ride, monkeypatch):
    learned(monkeypatch, ride, 1.2, lessons=99)
    worker.compute_due()
    assert [item["code"] for item in shown(ines, ride)[0]["why"]] == ["learned_other"]


def test_a_result_that_stayed_the_same_says_nothing(ines, ride, monkeypatch):
    learned(monkeypatch, ride, 1.004)
    assert worker.compute_due() == 1
    assert shown(ines, ride)[0] is None


def test_what_its_rider_saw_last_is_what_it_was_however_often_it_moved(ines, ride, monkeypatch):
    was = learned(monkeypatch, ride, 1.2)
    worker.compute_due()
    for module in (services, rows, changed):
        monkeypatch.setattr(module, "core_digest", lambda: "another core")
    assert worker.compute_due() == 1
    assert shown(ines, ride)[0]["range_to_cutoff"]["value"] == pytest.approx(was)


def test_new_evidence_is_why_it_changed_and_nothing_more_is_told(ines, ride, monkeypatch):
    learned(monkeypatch, ride, 1.2)
    entry = ines.get(f"/tests/{ride}").json()["entries"][1]["id"]
    learned(monkeypatch, ride, 1.2)
    ines.delete(f"/tests/{ride}/entries/{entry}")
    worker.compute_due()
    assert shown(ines, ride)[0] is None


def test_what_could_not_be_worked_out_before_has_no_figures_to_tell(ines, ride, monkeypatch):
    learned(monkeypatch, ride, 1.2)
    TestResult.objects.filter(test_id=ride).update(fault="no", figures=None, detail=None)
    worker.compute_due()
    assert shown(ines, ride)[0] is None


def test_another_riders_test_is_not_there(ines, ride, monkeypatch, tobias):
    learned(monkeypatch, ride, 1.2)
    worker.compute_due()
    assert tobias.post(f"/tests/{ride}/changed/seen").status_code == 404
    assert shown(ines, ride)[0] is not None


@pytest.mark.parametrize(
    ("was", "now", "other"),
    [
        ({}, {}, False),
        ({"plan_on_m": 100.0}, {"plan_on_m": 100.9}, False),
        ({"plan_on_m": 100.0}, {"plan_on_m": 102.0}, True),
        ({"plan_on_m": 100.0}, {}, True),
        ({"range_to_cutoff": {"value": 9.0, "low": 8.0, "high": 10.0}}, {}, True),
        (
            {"range_to_cutoff": {"value": 9.0, "low": 8.0, "high": 10.0}},
            {"range_to_cutoff": {"value": 9.0, "low": 7.0, "high": 11.0}},
            True,
        ),
        (
            {"range_to_cutoff": {"value": 9.0, "low": 8.0, "high": 10.0}},
            {"range_to_cutoff": {"value": 9.02, "low": 8.0, "high": 10.1}},
            False,
        ),
    ],
)
def test_a_rider_sees_another_figure(was, now, other):
    assert changed.moved(was, now) is other


def test_the_figures_of_a_result_are_those_that_a_page_shows(ines, ride):
    row = TestResult.objects.get(test_id=ride)
    told = changed._shown({"figures": row.figures, "detail": row.detail})
    assert set(told) == {"wh_per_km", "wh_per_mi", "range_to_cutoff", "plan_on_m"}
    assert all(value is not None for value in told.values())


@pytest.mark.parametrize(
    "figures",
    [
        "no figures at all",
        {"range_to_cutoff": "20 miles", "wh_per_km": {"value": 10.0}},
        {"range_to_cutoff": {"value": None, "low": 1.0, "high": 2.0}},
    ],
)
def test_what_an_older_version_kept_in_another_shape_stops_no_result(
    ines, ride, monkeypatch, figures
):
    learned(monkeypatch, ride, 1.2)
    TestResult.objects.filter(test_id=ride).update(figures=wrapped(figures), detail=wrapped([1, 2]))
    assert worker.compute_due() == 1
    told, found = shown(ines, ride)
    assert found["computed"] == "fresh"
    # It was known of none of its figures: what is known now is new.
    assert told["range_to_cutoff"] is None
    assert told["plan_on_m"] is None


@pytest.mark.parametrize("kept", [{"since": 1}, {"was": {"range_to_cutoff": {"value": 1}}}, [3]])
def test_a_change_that_cannot_be_read_is_not_told(ines, ride, kept):
    TestResult.objects.filter(test_id=ride).update(changed=wrapped(kept))
    assert shown(ines, ride)[0] is None
