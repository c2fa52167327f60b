"""One odd row stops nobody else's results: its failure is its own, kept with why, and tried again later."""

from __future__ import annotations

from datetime import timedelta
from uuid import uuid4

import pytest
from django.db import OperationalError
from django.test import Client
from django.utils import timezone

from limpet.errors import LimpetError
from server.kit.models import Vehicle
from server.logbook import streams
from server.logbook.models import RangeTest, SampleChunk, Stream
from server.plans import fits
from server.results import services, worker
from server.results.models import Looked, TestResult
from server.results.queries import claim, due
from server.wire import trying
from tests.server.conftest import note
from tests.server.test_streams import METER, send


def a_ride_with_samples(api, title, kit):
    """An ended ride of one instrument; its id and its stream's."""
    test, stream = uuid4(), uuid4()
    begun = {"title": title, "started_at": "2026-05-14T09:12:00+02:00", **kit}
    assert api.put(f"/tests/{test}", begun).status_code == 200
    assert api.put(f"/tests/{test}/streams/{stream}", METER).status_code == 200
    send(api, f"/tests/{test}/streams/{stream}", 3)
    assert api.put(f"/tests/{test}/ending", {"reason": "home"}).status_code == 200
    return test, stream


def spoil(stream_id, data=b"no table at all"):
    SampleChunk.objects.filter(stream=stream_id, sequence=1).update(data=data)


def long_ago(model, **which):
    model.objects.filter(**which).update(again_at=timezone.now() - timedelta(seconds=1))


@pytest.mark.django_db
def test_samples_that_cannot_be_read_are_their_own_rides_trouble(ines, kit):
    odd, odd_stream = a_ride_with_samples(ines, "Odd", kit)
    whole, _ = a_ride_with_samples(ines, "Whole", kit)
    kept = bytes(SampleChunk.objects.get(stream=odd_stream, sequence=1).data)
    spoil(odd_stream)
    worker.look_once()
    results = {row.test_id: row for row in TestResult.objects.all()}
    assert results[whole].fault == ""
    assert "Samples of meter cannot be read any more" in results[odd].fault
    # Told to its rider, and what was written down is still there.
    shown = ines.get(f"/tests/{odd}").json()
    assert shown["computed"] == "failed"
    assert "damaged" in shown["trouble"]
    stream = Stream.objects.get(pk=odd_stream)
    assert stream.tries == 1
    assert "damaged" in stream.trouble

    # Not at every look, but later, and later each time.
    assert worker.compute_due() == 0
    assert streams.compact_due() == 0
    first = results[odd].again_at - timezone.now()
    long_ago(TestResult, test=odd)
    assert worker.compute_due() == 1
    again = TestResult.objects.get(test=odd)
    assert again.tries == 2
    assert again.again_at - timezone.now() > 3 * first

    # And is well again by itself when it can be read.
    SampleChunk.objects.filter(stream=odd_stream, sequence=1).update(data=kept)
    long_ago(TestResult, test=odd)
    long_ago(Stream, pk=odd_stream)
    worker.look_once()
    well = TestResult.objects.get(test=odd)
    assert (well.fault, well.tries, well.again_at) == ("", 0, None)
    healed = Stream.objects.get(pk=odd_stream)
    assert (healed.trouble, healed.tries, healed.again_at, healed.short) == ("", 0, None, 0)


@pytest.mark.django_db
@pytest.mark.parametrize("ask", ["traces", "bundle.zip"])
def test_who_asks_for_samples_that_cannot_be_read_is_told_so(ines, kit, ask):
    test, stream = a_ride_with_samples(ines, "Odd", kit)
    for data in (b"", b"PAR1" + b"\x00" * 60 + b"PAR1"):
        spoil(stream, data)
        answer = ines.get(f"/tests/{test}/{ask}")
        assert answer.status_code == 409, answer.content
        assert "Samples of meter cannot be read any more" in answer.json()["message"]


@pytest.mark.django_db
def test_new_evidence_is_computed_at_once_whatever_failed_before(ines, ride, monkeypatch):
    note(ines, ride, 0, "start", voltage_rest_v=54.4, trip_m=0)

    def broken(*arguments):
        raise RuntimeError("the core fell over")

    with monkeypatch.context() as broke:
        broke.setattr(services, "derived", broken)
        worker.compute_due()
    failed = TestResult.objects.get()
    assert (failed.trouble, failed.tries) == ("RuntimeError", 1)
    assert worker.compute_due() == 0
    note(ines, ride, 600, voltage_rest_v=52.4, trip_m="3 km")
    assert worker.compute_due() == 1
    assert TestResult.objects.get().fault == ""


@pytest.mark.django_db
def test_a_database_that_is_away_is_nobodys_fault(ines, ride, monkeypatch):
    note(ines, ride, 0, "start", voltage_rest_v=54.4, trip_m=0)

    def away(*arguments):
        raise OperationalError(2013, "Lost connection to server during query")

    monkeypatch.setattr(services, "derived", away)
    with pytest.raises(OperationalError):
        worker.compute_due()
    assert TestResult.objects.get().fault == ""


@pytest.mark.django_db
def test_a_fit_that_failed_is_due_again(ines, kit, monkeypatch):
    vehicle = Vehicle.objects.get(pk=kit["vehicle_id"])
    Vehicle.objects.filter(pk=vehicle.pk).update(fit_due=True)

    def broken(*arguments, **more):
        raise LimpetError("no road at all")

    with monkeypatch.context() as broke:
        broke.setattr(fits, "_road", broken)
        fits.fit_due()
    failed = Vehicle.objects.get(pk=vehicle.pk)
    assert failed.fit_due
    assert failed.tries == 1
    assert "could not be learned" in failed.trouble
    told = {row["id"]: row for row in ines.get("/vehicles").json()}[str(vehicle.pk)]
    assert "could not be learned" in told["fit_trouble"]
    assert fits.fit_due() == 0, "not at every look"
    long_ago(Vehicle, pk=vehicle.pk)
    assert fits.fit_due() == 1
    well = Vehicle.objects.get(pk=vehicle.pk)
    assert (well.fit_due, well.tries, well.trouble) == (False, 0, "")


def test_the_pauses_grow_to_a_day():
    now = timezone.now()
    pauses = [(trying.next_try(tries) - now).total_seconds() for tries in (1, 2, 3, 9, 900)]
    assert pauses == pytest.approx([60, 240, 960, 86400, 86400], abs=5)


@pytest.mark.django_db
def test_a_list_of_a_minute_ago_computes_nothing_twice(ines, ride):
    """Found: 19 computations for 13 that were due, with two workers."""
    note(ines, ride, 0, "start", voltage_rest_v=54.4, trip_m=0)
    note(ines, ride, 600, voltage_rest_v=52.4, trip_m="3 km")
    mine, other = list(due()), list(due())
    assert claim(mine[0].pk)
    assert not claim(other[0].pk), "somebody is at it"
    services.compute(mine[0])
    assert not claim(other[0].pk), "somebody has done it"
    note(ines, ride, 900, voltage_rest_v=51.4, trip_m="4 km")
    assert claim(other[0].pk), "of new evidence it is due again"


@pytest.mark.django_db
def test_what_is_claimed_is_read_anew(ines, ride, monkeypatch):
    note(ines, ride, 0, "start", voltage_rest_v=54.4, trip_m=0)
    asked = worker.claim

    def after_an_entry(test_id):
        note(ines, ride, 600, voltage_rest_v=52.4, trip_m="3 km")
        return asked(test_id)

    with monkeypatch.context() as meanwhile:
        meanwhile.setattr(worker, "claim", after_an_entry)
        worker.compute_due()
    assert TestResult.objects.get().revision == RangeTest.objects.get().revision
    assert worker.compute_due() == 0


@pytest.mark.django_db
def test_a_look_that_fails_ends_no_worker_and_is_told(monkeypatch):
    looks = []

    def look():
        looks.append(1)
        if len(looks) == 1:
            raise MemoryError("a row too large")
        runner.stop()
        worker._looked("")

    monkeypatch.setattr(worker, "look_once", look)
    monkeypatch.setattr(worker, "close_old_connections", lambda: None)
    monkeypatch.setattr(worker._called, "wait", lambda pause_s: told.append(pause_s))
    told = []
    runner = worker.Worker()
    seen = []
    monkeypatch.setattr(
        runner, "_leave_word", lambda error: (worker._looked(f"MemoryError: {error}"), seen.append(Client().get("/readyz").json()))
    )  # fmt: skip
    runner.run()
    assert len(looks) == 2
    assert told[0] > worker.EVERY_S, "later after a failure"
    assert seen[0]["results"]["trouble"] == "MemoryError"
    assert seen[0]["results"]["looked_s_ago"] >= 0
    assert Client().get("/readyz").json()["results"]["trouble"] == ""


@pytest.mark.django_db
def test_numbers_for_whoever_watches_are_for_this_machine_alone(ines, ride):
    note(ines, ride, 0, "start", voltage_rest_v=54.4, trip_m=0)
    assert "limpet_results_due 1" in Client().get("/metrics").content.decode()
    worker.look_once()
    TestResult.objects.update(tries=3)
    text = Client().get("/metrics").content.decode()
    lines = dict(line.split() for line in text.splitlines())
    assert float(lines["limpet_results_looked_seconds_ago"]) < 60
    assert lines["limpet_results_due"] == "0"
    assert lines["limpet_results_failed"] == "1"
    assert Looked.objects.count() == 1
    for elsewhere in ({"REMOTE_ADDR": "192.0.2.4"}, {"HTTP_X_FORWARDED_FOR": "192.0.2.4"}, {"HTTP_FORWARDED": "for=192.0.2.4"}):  # fmt: skip
        assert Client().get("/metrics", **elsewhere).status_code == 404
