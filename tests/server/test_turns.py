"""Who is on the road is answered first, each answer is computed once, and results have a process of their own."""

from __future__ import annotations

import json
import os
import subprocess
import sys
import threading
from contextlib import ExitStack
from datetime import timedelta
from uuid import uuid4

import pytest
from django.http import HttpResponse
from django.test import RequestFactory
from django.utils import timezone

from server.logbook import streams
from server.logbook.models import RangeTest
from server.plans import following, riding
from server.plans.models import Followed
from server.removed import FOLLOWED_FOR, tidy
from server.results import queries, worker
from server.results.models import TestResult
from server.wire import turns
from server.wire.instruments import InstrumentsInLine
from server.wire.turns import BusyError, ride_turn, sample_turn, turn
from tests.server.conftest import note
from tests.server.test_concurrency import at_once

HOLDS = """
import fcntl, sys, time
seats = [open(f"{sys.argv[1]}/{number}.lock", "a") for number in range(int(sys.argv[2]))]
for seat in seats:
    fcntl.flock(seat, fcntl.LOCK_EX)
print("held", flush=True)
sys.stdin.read()
"""


@pytest.fixture
def folder(settings, tmp_path):
    settings.TURNS_FOLDER = str(tmp_path / "turns")
    return tmp_path / "turns"


def test_all_turns_taken_a_rider_is_answered_and_others_are_told(folder):
    with ExitStack() as taken:
        for _ in range(turns.SEATS):
            taken.enter_context(turn(0))
        with pytest.raises(BusyError, match="Limpet is busy just now"), turn(0):
            pass
        with sample_turn(0), ride_turn(0):
            pass
    with turn(0):
        pass


def test_turns_are_the_machines_and_go_with_a_process_that_is_killed(folder):
    folder.mkdir()
    command = [sys.executable, "-c", HOLDS, str(folder), str(turns.SEATS)]
    other = subprocess.Popen(command, stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True)
    assert other.stdout.readline() == "held\n"
    with pytest.raises(BusyError), turn(0):
        pass
    other.kill()
    other.communicate()
    with turn(0):
        pass


def test_rides_wait_for_each_other_and_no_longer_than_they_are_told(folder):
    with ExitStack() as taken:
        while turns._for_rides._value:
            taken.enter_context(ride_turn(0))
        with pytest.raises(BusyError), ride_turn(0.01):
            pass


def test_a_line_that_is_too_long_refuses_at_once_what_others_would_wait_behind(ines, ride, folder):
    note(ines, ride, 0, "start", voltage_rest_v=54.4)
    with ExitStack() as waiting:
        while turns._in_line._value:
            waiting.enter_context(turns.in_line())
        while turns._samples_in_line._value:
            waiting.enter_context(turns._one_of(turns._samples_in_line, 0))
        assert ines.get(f"/tests/{ride}/follow").status_code == 503
        stream = f"/tests/{ride}/streams/4b1c7a52-8f54-4d0f-8dd0-30b8f9a1f0ac"
        assert ines.put(stream, {"instrument": "meter"}).status_code == 200
        assert ines.put(f"{stream}/batches/0", {"time_s": [1.0]}).status_code == 503
        # What needs no turn is saved.
        assert note(ines, ride, 60, voltage_rest_v=54.2).status_code == 201
    assert ines.get(f"/tests/{ride}/follow").status_code == 200
    assert ines.put(f"{stream}/batches/0", {"time_s": [1.0]}).status_code == 200


def test_an_instrument_lets_rides_go_first_but_not_for_ever(monkeypatch):
    order = []

    def instrument():
        with sample_turn():
            order.append("instrument")

    sends = threading.Thread(target=instrument)
    with ride_turn(0):
        sends.start()
        # It is in its turn, and waits there for the ride.
        while turns._for_samples._value and not order:
            pass
        order.append("ride")
    sends.join()
    assert order == ["ride", "instrument"]
    monkeypatch.setattr(turns, "GIVE_WAY_S", 0.0)
    with ride_turn(0), sample_turn(0):
        pass


def test_a_batch_is_refused_before_anything_is_looked_up(ines, ride, django_assert_num_queries):
    with ExitStack() as waiting, django_assert_num_queries(0):
        while turns._samples_in_line._value:
            waiting.enter_context(turns._one_of(turns._samples_in_line, 0))
        answer = ines.put(f"/tests/{ride}/streams/{ride}/batches/0", {"time_s": [1.0]})
    assert answer.status_code == 503
    assert answer.json()["code"] == "busy"


def test_a_batch_that_comes_slowly_has_no_turn_meanwhile():
    class Slow:
        """A body that is not whole; notes whether a turn was taken for it."""

        def read(self, *size):
            free.append(turns._for_samples._value)
            raise OSError("it has gone")

        def close(self):
            pass

    free = []
    path = "/api/tests/1/streams/2/batches/0"
    request = RequestFactory().put(path, b"{}", content_type="application/json")
    request._stream = Slow()
    answer = InstrumentsInLine(lambda request: HttpResponse("taken"))(request)
    assert answer.status_code == 400
    assert json.loads(answer.content)["code"] == "bad_request"
    assert free == [1]


def test_a_batch_alone_calls_nobody_to_compute(ines, ride, monkeypatch, django_capture_on_commit_callbacks):  # fmt: skip
    stream = f"/tests/{ride}/streams/{uuid4()}"
    ines.put(stream, {"instrument": "meter"})
    called = []
    monkeypatch.setattr(worker, "call", lambda: called.append(1))
    with django_capture_on_commit_callbacks(execute=True):
        assert ines.put(f"{stream}/batches/0", {"time_s": [1.0]}).status_code == 200
    assert called == []
    with django_capture_on_commit_callbacks(execute=True):
        note(ines, ride, 0, "start", voltage_rest_v=54.4)
    assert called


@pytest.fixture
def counted(monkeypatch):
    """How often the core is asked for advice; it is asked."""
    asked = []

    def advise(*arguments, **named):
        asked.append(named["ahead"])
        return real(*arguments, **named)

    real = riding.advise
    monkeypatch.setattr(riding, "advise", advise)
    return asked


@pytest.fixture
def out(ines, ride):
    note(ines, ride, 0, "start", voltage_rest_v=54.4, trip_m=0)
    note(ines, ride, 1800, voltage_rest_v=51.4, trip_m="6 mi")
    return ride


def test_of_the_same_evidence_an_answer_is_computed_once(ines, out, counted):
    first = ines.get(f"/tests/{out}/follow").json()
    assert first["table"] is None
    whole = ines.get(f"/tests/{out}/follow?table=true").json()
    assert len(counted) == 1
    assert {**whole, "table": None} == first
    assert len(whole["table"]["left_wh"]) == 499
    # Computed anew it is the same, to the last digit.
    Followed.objects.all().delete()
    assert ines.get(f"/tests/{out}/follow?table=true").json() == whole
    assert len(counted) == 2


@pytest.mark.parametrize("what", ["entry", "correction", "way", "assumption", "stream"])
def test_whatever_an_answer_rests_on_makes_a_new_one(ines, out, counted, what):
    ines.get(f"/tests/{out}/follow")
    way = ""
    if what == "entry":
        note(ines, out, 2400, voltage_rest_v=50.4, trip_m="8 mi")
    elif what == "correction":
        last = ines.get(f"/tests/{out}").json()["entries"][-1]
        note(ines, out, 1800, entry_id=last["id"], voltage_rest_v=51.2, trip_m="6 mi", from_changes=0)  # fmt: skip
    elif what == "way":
        way = "?way=given&from_m=9656&until_m=20000"
    elif what == "assumption":
        name = ines.get("/assumptions").json()[0]
        said = {"value": name["value"] * 1.01, "std": name["std"]}
        assert ines.put(f"/assumptions/{name['name']}", said).status_code == 200
    else:
        stream = f"/tests/{out}/streams/4b1c7a52-8f54-4d0f-8dd0-30b8f9a1f0aa"
        ines.put(stream, {"instrument": "meter"})
        rows = {"time_s": [1801.0, 1802.0], "voltage_v": [51.0, 51.0], "current_a": [5.0, 5.0]}
        assert ines.put(f"{stream}/batches/0", rows).status_code == 200
    ines.get(f"/tests/{out}/follow{way}")
    assert len(counted) == 2


def test_what_is_overtaken_while_it_waits_is_not_computed(ines, out, counted, monkeypatch):
    late = {}

    def noted_meanwhile(test_id):
        """Somebody notes an entry between the asking and the turn."""
        if not late:
            late["entry"] = note(ines, out, 2400, voltage_rest_v=50.4, trip_m="8 mi").json()["entry"]  # fmt: skip
        return real(test_id)

    real = following.one_at_a_time
    monkeypatch.setattr(riding, "one_at_a_time", noted_meanwhile)
    told = ines.get(f"/tests/{out}/follow").json()["evidence"]["entries"]
    assert late["entry"]["id"] in [entry["id"] for entry in told]
    assert len(counted) == 1


@pytest.mark.django_db(transaction=True)
def test_two_who_ask_at_once_are_answered_by_one_computation(ines, out, counted):
    def ask():
        return ines.get(f"/tests/{out}/follow").json()["matter"]

    one, other = at_once(ask, ask)
    assert one == other
    assert len(counted) == 1


def test_an_answer_that_nobody_asks_for_any_more_goes(ines, out, monkeypatch):
    ines.get(f"/tests/{out}/follow")
    monkeypatch.setattr("server.removed._tidied_at", [])
    tidy()
    assert Followed.objects.count() == 1
    Followed.objects.update(made_at=timezone.now() - FOLLOWED_FOR - timedelta(minutes=1))
    monkeypatch.setattr("server.removed._tidied_at", [])
    tidy()
    assert not Followed.objects.exists()


def test_the_roadside_asks_for_a_test_without_waiting_for_its_result(ines, out):
    asked = ines.get(f"/tests/{out}?kept=true").json()
    assert (asked["computed"], asked["result"]) == ("waiting", None)
    assert len(asked["entries"]) == 2
    assert not TestResult.objects.exists()
    assert ines.get(f"/tests/{out}").json()["computed"] == "fresh"
    note(ines, out, 2400, voltage_rest_v=50.4, trip_m="8 mi")
    again = ines.get(f"/tests/{out}?kept=true").json()
    # Of the evidence before, and said to be.
    assert again["computed"] == "waiting"
    assert again["result"] is not None
    assert TestResult.objects.get().revision < again["revision"]


def test_a_ride_under_way_is_computed_for_the_lists_every_few_minutes(ines, out):
    test = RangeTest.objects.get()
    assert worker.compute_due() == 1
    note(ines, out, 2400, voltage_rest_v=50.4, trip_m="8 mi")
    assert list(queries.due()) == []
    long_ago = timezone.now() - queries.UNDER_WAY - timedelta(seconds=1)
    TestResult.objects.update(computed_at=long_ago)
    assert list(queries.due()) == [test]
    assert worker.compute_due() == 1
    note(ines, out, 2500, voltage_rest_v=50.2, trip_m="8.4 mi")
    ines.put(f"/tests/{out}/ending", {"reason": "home"})
    # At its end at once.
    assert list(queries.due()) == [test]


def test_a_call_goes_through_the_pipe_and_a_full_one_keeps_nobody(settings, monkeypatch):
    called, settings.CALLS = os.pipe()
    os.set_blocking(settings.CALLS, False)
    heard = threading.Event()
    monkeypatch.setattr(worker, "_called", heard)
    for _ in range(70_000):
        worker.call()
    heard.clear()
    worker.hear(called)
    assert heard.wait(20)
    os.close(settings.CALLS)


def test_short_batches_are_held_to_the_limit_every_sixteenth_time(ines, ride, monkeypatch):
    monkeypatch.setattr(streams, "MOST_SAMPLES", 30)
    at = f"/tests/{ride}/streams/4b1c7a52-8f54-4d0f-8dd0-30b8f9a1f0ab"
    ines.put(at, {"instrument": "meter"})
    codes = [
        ines.put(f"{at}/batches/{k}", {"time_s": [3.0 * k + j for j in range(3)]}).status_code
        for k in range(17)
    ]
    assert codes == [200] * 16 + [409]
    long = {"time_s": [100.0 + k for k in range(streams.LONG_BATCH)]}
    assert ines.put(f"{at}/batches/16", long).status_code == 409
