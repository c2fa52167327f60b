"""Tests side by side over HTTP: the core's own answer out of what is kept, owners apart, bounds first."""

from __future__ import annotations

from uuid import uuid4

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext
from icalendar import Calendar

from limpet.assumptions import CHARGER
from limpet.judge import comparand_of, compare
from limpet.judge.terms import terms_of
from limpet.tell import analyse
from server.logbook.models import RangeTest
from server.logbook.rows import core_test
from server.plans.models import Plan
from server.results.comparing import newest_seen
from server.results.models import TestResult
from server.results.worker import look_once
from tests.server.conftest import note
from tests.server.test_lives import rides


@pytest.fixture
def two(ines, kit):
    """Two rides of one kit, the second thirstier."""
    found = []
    for title, energy in (("A calm day", 120), ("A windy day", 150)):
        test_id = str(uuid4())
        body = {
            **kit,
            "title": title,
            "purpose": "compare",
            "started_at": "2026-05-14T09:00:00+02:00",
        }
        assert ines.put(f"/tests/{test_id}", body).status_code == 200
        note(ines, test_id, 0, "start", voltage_rest_v=54.4, trip_m=0, energy_wh=0)
        note(ines, test_id, 1800, "end", voltage_rest_v=51.4, trip_m="6 mi", energy_wh=energy)
        found.append(test_id)
    return found


def test_the_page_is_told_what_the_core_says(ines, two):
    answer = ines.get(f"/compare?first={two[0]}&second={two[1]}").json()
    seen = []
    for test_id in two:
        evidence = core_test(RangeTest.objects.get(pk=test_id))
        seen.append(comparand_of(evidence, analyse(evidence), test_id))
    found = compare(seen[:1], seen[1:])
    assert answer["verdict"] == found.verdict
    assert answer["quantity"] == "wh_per_km"
    assert answer["relative_difference"]["value"] == pytest.approx(found.relative_difference.value)
    assert answer["relative_difference"]["high"] == pytest.approx(found.relative_difference.high)
    assert [run["key"] for run in answer["runs"]] == two
    assert [test["title"] for test in answer["tests"]] == ["A calm day", "A windy day"]
    assert answer["reasons"][0]["code"] == found.reasons[0].code


def test_the_question_is_the_riders_word(ines, two):
    path = f"/compare?first={two[0]}&second={two[1]}"
    assert ines.get(path).json()["question"] == "repeat"
    assert ines.get(f"{path}&question=wind").json()["question"] == "wind"
    assert ines.get(f"{path}&question=luck").status_code == 422


def test_what_is_asked_about_stays_each_sides_own_in_the_riders_terms_too(ines, kit):
    """Half of the speed: asked about, it is kept; not asked about, it is carried. Both tables say the same."""
    two = []
    for title, time_s in (("Brisk", 1800), ("Slow", 3600)):
        two.append(str(uuid4()))
        body = {**kit, "title": title, "started_at": "2026-05-14T09:00:00+02:00"}
        assert ines.put(f"/tests/{two[-1]}", body).status_code == 200
        note(ines, two[-1], 0, "start", voltage_rest_v=54.4, trip_m=0, energy_wh=0)
        note(ines, two[-1], time_s, "end", voltage_rest_v=51.4, trip_m="6 mi", energy_wh=110)
    told = {}
    for question in ("repeat", "speed"):
        answer = ines.get(f"/compare?first={two[0]}&second={two[1]}&question={question}").json()
        run = next(item for item in answer["runs"] if item["side"] == "second")
        assert answer["quantity"] == "wh_per_km"
        paid = answer["terms"]["second"]["socket_wh_per_km"] * CHARGER.value
        assert paid == pytest.approx(run["carried"]["value"], rel=1e-3)
        told[question] = paid
    assert told["repeat"] > 1.1 * told["speed"]


def test_nobody_compares_anothers_tests(ines, tobias, nobody, two):
    path = f"/compare?first={two[0]}&second={two[1]}"
    assert tobias.get(path).status_code == 404
    assert nobody.get(path).status_code == 401
    assert ines.get(f"/compare?first={two[0]}&second={uuid4()}").status_code == 404


def test_no_more_are_asked_for_than_are_compared(ines, two):
    many = "&".join(f"first={uuid4()}" for _ in range(31))
    assert ines.get(f"/compare?{many}&second={two[1]}").status_code == 422
    answer = ines.get(f"/compare?first={two[0]}").json()
    assert answer["verdict"] == "not_comparable"
    assert answer["reasons"][0]["code"] == "compare_too_few"
    same = ines.get(f"/compare?first={two[0]}&second={two[0]}").json()
    assert same["reasons"][0]["code"] == "compare_same"


def test_what_is_kept_answers_and_what_is_not_is_computed(ines, two):
    path = f"/compare?first={two[0]}&second={two[1]}"
    first = ines.get(path).json()
    with CaptureQueriesContext(connection) as asked:
        assert ines.get(path).json()["difference"] == first["difference"]
    # One for the tests with their results; none for entries or samples.
    assert not [query for query in asked if "entry" in query["sql"].lower()]
    # Of a version that kept nothing to compare.
    TestResult.objects.filter(test_id=two[0]).update(seen=None)
    told = ines.get(path).json()
    assert told["verdict"] == "not_comparable"
    assert told["reasons"][0]["message"].startswith("“A calm day” shows nothing")


def settled(api, two, **more):
    body = {"first": two[:1], "second": two[1:], "question": "repeat", "runs": 2, **more}
    return api.put(f"/plans/series/{uuid4()}", body)


def test_two_more_of_each_are_planned_alternating_as_they_were_ridden(ines, two, kit):
    series = settled(ines, two).json()
    assert [ride["side"] for ride in series["rides"]] == ["A", "B", "B", "A"]
    assert [ride["place"] for ride in series["rides"]] == [1, 2, 3, 4]
    plan = ines.get(f"/plans/{series['rides'][1]['plan_id']}").json()
    assert plan["title"].startswith("B: Sandpiper")
    assert plan["title"].endswith("ride 2 of 4")
    assert (plan["series"], plan["series_place"]) == (series["id"], 2)
    assert plan["asked"]["vehicle_id"] == kit["vehicle_id"]
    assert plan["asked"]["pack_id"] == kit["pack_id"]
    # As far as it was ridden, six miles by a trip meter that reads a little long.
    (leg,) = plan["asked"]["legs"]
    assert leg["length_m"] == pytest.approx(6 * 1609.344, rel=0.05)
    # In the form it stands with the digits that a rider would type.
    assert leg["length_m"] / 160.9344 == pytest.approx(round(leg["length_m"] / 160.9344), abs=1e-6)
    assert plan["answer"]["forecast"]["route"]["distance_m"] == pytest.approx(
        leg["length_m"], rel=0.01
    )


def test_sent_again_a_series_is_the_same_and_its_calendar_has_every_ride(ines, two):
    series_id = uuid4()
    body = {"first": two[:1], "second": two[1:], "runs": 1}
    once = ines.put(f"/plans/series/{series_id}", body).json()
    again = ines.put(f"/plans/series/{series_id}", body).json()
    assert once == again == ines.get(f"/plans/series/{series_id}").json()
    # It stays what it was, whatever is asked of it later.
    assert ines.put(f"/plans/series/{series_id}", {**body, "runs": 3}).json() == once
    assert len(ines.get("/plans").json()) == 2
    found = ines.get(f"/plans/series/{series_id}/calendar.ics?first=2026-06-01T09:00:00%2B02:00")
    events = Calendar.from_ical(found.content).walk("VEVENT")
    assert [str(event["summary"])[:2] for event in events] == ["Se", "Se"]
    assert [event["dtstart"].dt.hour for event in events] == [7, 7]
    assert events[1]["dtstart"].dt > events[0]["dtstart"].dt


def test_a_ridden_plan_of_a_series_stands_in_the_comparison(ines, two):
    series = settled(ines, two, runs=1).json()
    assert series["compare"] == f"/compare?first={two[0]}&second={two[1]}&question=repeat"
    test_id = str(uuid4())
    plan_id = series["rides"][1]["plan_id"]
    started = {"started_at": "2026-06-01T09:00:00+02:00"}
    assert ines.put(f"/plans/{plan_id}/ride/{test_id}", started).status_code == 200
    found = ines.get(f"/plans/series/{series['id']}").json()
    assert found["rides"][1]["test_id"] == test_id
    assert found["compare"].endswith(f"second={two[1]},{test_id}&question=repeat")


def test_a_series_of_more_than_anybody_rides_or_of_anothers_tests_is_refused(ines, tobias, two):
    refused = settled(ines, two, runs=7)
    assert refused.status_code == 422
    assert "1 to 6" in refused.content.decode()
    assert settled(tobias, two).status_code == 404
    assert ines.get(f"/plans/series/{uuid4()}").status_code == 404
    assert ines.get("/plans").json() == []


def test_a_side_without_kit_is_told_where_to_choose_it(ines, two):
    RangeTest.objects.filter(pk=two[1]).update(vehicle=None)
    refused = settled(ines, two)
    assert refused.status_code == 422
    assert "A windy day" in refused.content.decode()
    assert ines.get("/plans").json() == []


def test_what_it_means_on_the_ways_that_are_kept(ines, kit):
    ids = [
        rides(ines, kit, title, started=f"2026-05-{day}T09:12:00+00:00", ah=ah)
        for title, day, ah in (("One", 14, 13.6), ("Other", 16, 13.4))
    ]
    legs = {"kind": "legs", "legs": [{"length_m": 5000}, {"length_m": 3000, "climb_m": 40}]}
    assert ines.put(f"/routes/{uuid4()}", {"name": "To the mill", **legs}).status_code == 200
    terms = ines.get(f"/compare?first={ids[0]}&second={ids[1]}").json()["terms"]
    assert terms["first"]["range_m"] == pytest.approx(20_500, rel=0.03)
    assert terms["first"]["plan_on_m"] < 0.8 * terms["first"]["range_m"]
    lap = {"name": "Quay", "kind": "loop", "legs": [{"length_m": 5200}]}
    lap_id = str(uuid4())
    assert ines.put(f"/routes/{lap_id}", lap).status_code == 200
    terms = ines.get(f"/compare?first={ids[0]}&second={ids[1]}").json()["terms"]
    # A lap is no way to anywhere.
    (trip,) = terms["trips"]
    assert (trip["name"], trip["length_m"]) == ("To the mill", 8000)
    assert trip["surely"] == "both"
    # A plan that waits is a way, with its own climb and speed; one that was ridden is none.
    plan = {**kit, "legs": [{"length_m": 9000, "climb_m": 60}], "and_back": True, "policy": "fixed"}
    plan |= {
        "target_mps": 6,
        "temp_c": 12,
        "title": "Over the hill",
        "purpose": "commute",
        "end_rule": "route_end",
    }
    plan_id = uuid4()
    assert ines.put(f"/plans/{plan_id}", plan).status_code == 200
    terms = ines.get(f"/compare?first={ids[0]}&second={ids[1]}").json()["terms"]
    assert [trip["name"] for trip in terms["trips"]] == ["Over the hill", "To the mill"]
    assert terms["trips"][0]["length_m"] == pytest.approx(18_000, rel=0.001)
    # Nor is a plan of laps.
    laps = {key: value for key, value in plan.items() if key not in ("legs", "and_back")}
    laps |= {"route_id": lap_id, "title": "Round and round"}
    assert ines.put(f"/plans/{uuid4()}", laps).status_code == 200
    terms = ines.get(f"/compare?first={ids[0]}&second={ids[1]}").json()["terms"]
    assert [trip["name"] for trip in terms["trips"]] == ["Over the hill", "To the mill"]
    Plan.objects.filter(pk=plan_id).update(test=ids[0])
    terms = ines.get(f"/compare?first={ids[0]}&second={ids[1]}").json()["terms"]
    assert [trip["name"] for trip in terms["trips"]] == ["To the mill"]


def test_earlier_rides_of_the_vehicle_teach_how_its_runs_differ(ines, kit):
    for day in range(1, 7):
        rides(ines, kit, f"Before {day}", started=f"2026-04-{day:02}T09:12:00+00:00", ah=13.5)
    ids = [
        rides(ines, kit, title, started=f"2026-05-{day}T09:12:00+00:00", ah=13.5)
        for title, day in (("One", 14), ("Other", 16))
    ]
    look_once()
    told = ines.get(f"/compare?first={ids[0]}&second={ids[1]}").json()
    assert (told["judged_by"], told["learned_runs"]) == ("interval", 6)
    assert "compare_single_learned" in [notice["code"] for notice in told["warnings"]]
    # They went alike: the next ride differs by less than is assumed of one that was never ridden before.
    evidence = [core_test(RangeTest.objects.get(pk=test_id)) for test_id in ids]
    seen = [comparand_of(test, analyse(test), key) for test, key in zip(evidence, ids, strict=True)]
    assumed, taught = terms_of(seen[:1], seen[1:]).first, told["terms"]["first"]
    assert taught["floor_m"] / taught["range_m"] > 1.01 * assumed.floor_m / assumed.range_m


def test_a_way_is_kept_apart_and_laid_over_the_others(ines, kit):
    """Ten entries each: energy is known along the way, and the second uses half as much again."""
    ids = []
    for title, per_km in (("Calm", 10), ("Windy", 15)):
        test_id = str(uuid4())
        body = {**kit, "title": title, "started_at": "2026-05-14T09:00:00+02:00"}
        assert ines.put(f"/tests/{test_id}", body).status_code == 200
        for k in range(11):
            kind = "start" if k == 0 else "end" if k == 10 else "checkpoint"
            note(ines, test_id, 300 * k, kind, trip_m=f"{k} km", energy_wh=per_km * k)
        ids.append(test_id)
    along = ines.get(f"/compare?first={ids[0]}&second={ids[1]}").json()["along"]
    assert (along["by"], along["height_m"]) == ("distance", None)
    assert along["more_wh"][-1] == pytest.approx(50, rel=0.05)
    assert along["more_wh"][len(along["at_m"]) // 2] == pytest.approx(25, rel=0.08)
    kept = TestResult.objects.get(test_id=ids[0])
    assert kept.seen["value"]["way"] is None
    TestResult.objects.filter(test_id=ids[0]).update(way={"version": 0, "value": {"at_m": "none"}})
    without = ines.get(f"/compare?first={ids[0]}&second={ids[1]}").json()
    assert without["along"] is None
    assert without["quantity"] == "wh_per_km"


def test_tests_that_can_tell_are_offered_to_their_owner(ines, tobias, two, kit):
    look_once()
    assert ines.get("/compare/offers?question=vehicle").json() == []
    other = {**kit, "vehicle_id": str(uuid4())}
    made = ines.put(f"/vehicles/{other['vehicle_id']}", {"name": "Ruff", "kind": "bicycle"})
    assert made.status_code == 200, made.content
    test_id = str(uuid4())
    body = {**other, "title": "Third", "started_at": "2026-05-15T09:00:00+02:00"}
    assert ines.put(f"/tests/{test_id}", body).status_code == 200
    note(ines, test_id, 0, "start", voltage_rest_v=54.4, trip_m=0, energy_wh=0)
    note(ines, test_id, 1800, "end", voltage_rest_v=51.4, trip_m="6 mi", energy_wh=130)
    for one in (*two, test_id):
        assert ines.put(f"/tests/{one}/ending", {"reason": "home"}).status_code == 200
    look_once()
    (offer,) = ines.get("/compare/offers?question=vehicle").json()
    sides = {
        offer["first_name"]: set(offer["first"]),
        offer["second_name"]: set(offer["second"]),
    }
    assert sides == {"Sandpiper": set(two), "Ruff": {test_id}}
    assert tobias.get("/compare/offers?question=vehicle").json() == []
    assert ines.get("/compare/offers?question=luck").status_code == 422


def test_a_series_is_ridden_as_the_newest_test_of_each_side_was(ines, two, kit):
    test_id = str(uuid4())
    body = {**kit, "title": "Later", "started_at": "2026-05-20T09:00:00+02:00"}
    assert ines.put(f"/tests/{test_id}", body).status_code == 200
    note(ines, test_id, 0, "start", voltage_rest_v=54.4, trip_m=0, energy_wh=0)
    note(ines, test_id, 3600, "end", voltage_rest_v=49.0, trip_m="12 mi", energy_wh=260)
    series = ines.put(
        f"/plans/series/{uuid4()}", {"first": [test_id, two[0]], "second": two[1:], "runs": 1}
    ).json()
    plan = ines.get(f"/plans/{series['rides'][0]['plan_id']}").json()
    assert plan["asked"]["legs"][0]["length_m"] == pytest.approx(12 * 1609.344, rel=0.05)


def test_what_is_looked_at_over_many_tests_are_the_newest_in_their_order(ines, kit):
    ids = [
        rides(ines, kit, f"Day {day}", started=f"2026-05-{day}T09:12:00+00:00")
        for day in (14, 12, 16)
    ]
    look_once()
    mine = RangeTest.objects.all()
    assert [seen.key for seen in newest_seen(mine, 9)] == [ids[1], ids[0], ids[2]]
    assert [seen.key for seen in newest_seen(mine, 2)] == [ids[0], ids[2]]
