"""The practice ride over HTTP: what is played, what a log so far is told, and how it is judged."""

from __future__ import annotations

import pytest

from limpet.practice import MOST_ENTRIES, PracticeLog, practice_ride, review
from limpet.under_way import advise
from server.logbook.models import RangeTest
from tests.core.practice.rides import rehearsed


def sent(log: PracticeLog) -> dict[str, object]:
    """The log as the page sends it."""
    names = ("time_s", "kind", "trip_m", "voltage_rest_v", "voltage_load_v", "gauge")
    return {
        "entries": [
            {name: getattr(one, name) for name in names if getattr(one, name) is not None}
            for one in log.entries
        ]
    }


def test_the_ride_goes_out_whole(ines):
    told = ines.get("/practice").json()
    assert told["ways"] == practice_ride().said["ways"]
    assert told["out"] == practice_ride().said["out"]
    assert told["pack"]["rated_ah"] == practice_ride().pack.rated_ah


def test_a_log_so_far_is_told_what_a_ride_would_be(ines):
    log = rehearsed(8000.0)
    so_far = PracticeLog(log.ride, log.entries[:4])
    answer = ines.post("/practice/follow", sent(so_far)).json()
    found = advise(so_far.test)
    assert answer["matter"]["code"] == found.matter.code == "turn_by"
    assert answer["matter"]["values"] == pytest.approx(dict(found.matter.values))


def test_a_log_is_judged_as_the_core_judges_it_and_nothing_is_kept(ines):
    before = RangeTest.objects.count()
    log = rehearsed(9000.0, waits_s=15.0)
    answer = ines.post("/practice/review", sent(log)).json()
    found = review(log)
    assert answer["home"] is True
    assert answer["turn"]["turned_m"] == 9000.0
    assert [one["code"] for one in answer["costs"]] == [one.code for one in found.costs]
    assert [one["with_half"] for one in answer["costs"]] == pytest.approx(
        [one.with_half for one in found.costs]
    )
    assert [(one["code"], one["state"]) for one in answer["lessons"]] == [
        (one.code, one.state) for one in found.lessons
    ]
    assert answer["range_to_cutoff"]["value"] == pytest.approx(found.range_to_cutoff.value)
    assert RangeTest.objects.count() == before


def test_readings_are_typed_as_everywhere(ines):
    start = {"time_s": 0, "kind": "start", "voltage_rest_v": "41.9 V", "trip_m": "0 mi"}
    rest = {"time_s": 600, "kind": "checkpoint", "voltage_rest_v": "41.0 V", "trip_m": "2.2 mi"}
    answer = ines.post("/practice/review", {"entries": [start, rest]}).json()
    assert answer["told"][1]["distance_m"] == pytest.approx(
        practice_ride().out.at(600.0).distance_m
    )


@pytest.mark.parametrize(
    ("entries", "field", "words"),
    [
        ([], "entries", "at least 1"),
        ([{"time_s": 0, "kind": "start"}] * (MOST_ENTRIES + 1), "entries", "at most"),
        ([{"time_s": 0, "kind": "start", "voltage_rest_v": 420}], "entries.0.voltage_rest_v", "420"),
        ([{"time_s": 9e5, "kind": "start"}], "entries.0.time_s", "expected 0 to"),
        (
            [{"time_s": 60, "kind": "stop"}, {"time_s": 50, "kind": "resume"}],
            "entries.1.time_s",
            "in the order",
        ),
    ],
)  # fmt: skip
def test_what_no_practice_can_have_is_refused_beside_its_field(ines, entries, field, words):
    for address in ("/practice/follow", "/practice/review"):
        answer = ines.post(address, {"entries": entries})
        assert answer.status_code == 422
        (told,) = [fault for name, fault in answer.json()["fields"].items() if name == field]
        assert words in told


def test_nobody_is_told_nothing(nobody):
    assert nobody.get("/practice").status_code == 401
    assert nobody.post("/practice/review", {"entries": []}).status_code == 401
