"""Tests side by side over HTTP: the core's own answer out of what is kept, owners apart, bounds first."""

from __future__ import annotations

from uuid import uuid4

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext

from limpet.judge import compare, seen_of
from limpet.result import analyse
from server.logbook.models import RangeTest
from server.logbook.rows import core_test
from server.results.models import TestResult
from tests.server.conftest import note


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
        seen.append(seen_of(evidence, analyse(evidence), test_id))
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
    assert told["reasons"][0]["message"].startswith("“A calm day” tells nothing")
