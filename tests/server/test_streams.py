"""Samples that arrive in batches: once, in order, checked, drawn together, joined and summed."""

from __future__ import annotations

from io import StringIO
from uuid import uuid4

import polars as pl
import pytest
from django.core.management import call_command
from django.db import connection
from django.test.utils import CaptureQueriesContext

from limpet.evidence.reduction import reduced
from limpet.tell import analyse
from server.logbook import streams
from server.logbook.models import RangeTest, SampleChunk, Stream
from server.logbook.rows import core_test
from server.results import figures, worker
from server.results.models import TestResult
from tests.server.conftest import note

METER = {"instrument": "meter"}


def batch(start, rows=60, **columns):
    """A minute of a meter, at one a second."""
    return {
        "time_s": [float(start + k) for k in range(rows)],
        "voltage_v": [54.0 - (start + k) / 600 for k in range(rows)],
        "current_a": [6.0 + (k % 5) for k in range(rows)],
        "speed_mps": [5.0] * rows,
        "distance_m": [5.0 * (start + k) for k in range(rows)],
    } | columns


@pytest.fixture
def stream(ines, ride):
    stream_id = uuid4()
    assert ines.put(f"/tests/{ride}/streams/{stream_id}", METER).status_code == 200
    return f"/tests/{ride}/streams/{stream_id}"


def send(api, stream, count, first=0):
    for k in range(first, first + count):
        answer = api.put(f"{stream}/batches/{k}", batch(60 * k))
        assert answer.status_code == 200, answer.content
    return answer.json()


def test_batches_become_the_samples_of_the_test_and_their_sums_go_on(ines, ride, stream):
    told = send(ines, stream, 5)
    assert (told["rows"], told["next_sequence"]) == (300, 5)
    samples = core_test(RangeTest.objects.get()).samples
    assert samples["time_s"].to_list() == [float(k) for k in range(300)]
    whole = reduced(samples)
    assert told["sums"]["energy_wh"] == pytest.approx(whole.energy_wh, rel=1e-12)
    assert told["sums"]["counted_m"] == pytest.approx(1495.0)
    assert told["sums"]["gaps"] == 0
    energy = ines.get(f"/tests/{ride}").json()["result"]["energy"]["value"]
    assert energy == pytest.approx(whole.energy_wh, rel=1e-9)
    assert [item["rows"] for item in ines.get(f"/tests/{ride}/streams").json()] == [300]


def test_a_batch_sent_again_changes_nothing(ines, stream):
    send(ines, stream, 2)
    revision = RangeTest.objects.get().revision
    again = ines.put(f"{stream}/batches/0", batch(0, voltage_v=[1.0] * 60))
    assert (again.status_code, again.json()["rows"]) == (200, 120)
    assert RangeTest.objects.get().revision == revision
    assert SampleChunk.objects.count() == 2


def test_a_batch_out_of_order_says_which_is_missing(ines, stream):
    send(ines, stream, 1)
    answer = ines.put(f"{stream}/batches/2", batch(120))
    assert answer.status_code == 409
    assert "Batch 1 is missing" in answer.json()["message"]


@pytest.mark.parametrize(
    ("columns", "field", "words"),
    [
        ({"voltage_v": [54_000.0] * 60}, "voltage_v", "is 54000; expected volts of 13 cells, not millivolts (row 1)"),
        ({"current_a": [6.0] * 59 + [9e9]}, "current_a", "expected amperes, not milliamperes (row 60)"),
        ({"current_a": [6.0]}, "current_a", "has 1 values, time_s 60"),
        ({"time_s": [1.0, 1.0]}, "voltage_v", "has 60 values, time_s 2"),
        ({"time_s": [float(k % 30) for k in range(60)]}, "time_s", "is 0 after 29; time must increase (row 31)"),
        ({"time_s": []}, "time_s", "at least 1"),
        ({"gauge": [True] * 60}, "gauge", "number"),
        ({"mood": [1.0] * 60}, "mood", "is not a field here"),
        ({"speed_mps": [1.0] * 3601}, "speed_mps", "3600"),
    ],
)  # fmt: skip
def test_a_faulty_batch_is_refused_in_a_files_words_and_nothing_is_stored(
    ines, stream, columns, field, words
):
    answer = ines.put(f"{stream}/batches/0", batch(0, **columns))
    assert answer.status_code == 422
    told = answer.json()["fields"]
    assert words in next(said for name, said in told.items() if name.startswith(field)), told
    assert not SampleChunk.objects.exists()
    assert Stream.objects.get().rows == 0


def test_a_batch_that_goes_back_in_time_is_refused(ines, stream):
    send(ines, stream, 2)
    answer = ines.put(f"{stream}/batches/2", batch(100))
    assert answer.status_code == 422
    assert answer.json()["fields"]["time_s"] == "is 100 after 119; time must increase"


def test_streams_belong_to_one_account_and_one_test(ines, tobias, ride, stream):
    assert tobias.put(stream, METER).status_code == 404
    assert tobias.put(f"{stream}/batches/0", batch(0)).status_code == 404
    assert tobias.get(stream.split("/streams")[0] + "/streams").status_code == 404
    other = uuid4()
    kit = {
        "vehicle_id": str(RangeTest.objects.get().vehicle_id),
        "pack_id": str(RangeTest.objects.get().pack_id),
    }
    ines.put(
        f"/tests/{other}", {"title": "Another", "started_at": "2026-05-15T09:00:00+02:00", **kit}
    )
    taken = ines.put(f"/tests/{other}/streams/{stream.rsplit('/', 1)[1]}", METER)
    assert taken.status_code == 409
    assert ines.put(f"/tests/{other}{stream.split(ride)[1]}/batches/0", batch(0)).status_code == 404


def test_a_test_has_a_bounded_number_of_streams_and_samples(ines, ride, stream, monkeypatch):
    for _ in range(streams.MOST_STREAMS - 1):
        assert ines.put(f"/tests/{ride}/streams/{uuid4()}", METER).status_code == 200
    assert ines.put(f"/tests/{ride}/streams/{uuid4()}", METER).status_code == 409
    monkeypatch.setattr(streams, "MOST_SAMPLES", 100)
    send(ines, stream, 1)
    assert ines.put(f"{stream}/batches/1", batch(60)).status_code == 409


def test_short_chunks_are_drawn_together_at_the_end_and_say_the_same(ines, ride, stream):
    send(ines, stream, 6)
    before = core_test(RangeTest.objects.get()).samples
    assert streams.compact_due() == 0
    ines.put(f"/tests/{ride}/ending", {"reason": "home"})
    assert streams.compact_due() == 1
    assert Stream.objects.get().short == 0
    (chunk,) = SampleChunk.objects.all()
    assert (chunk.sequence, chunk.through, chunk.count) == (0, 5, 360)
    assert core_test(RangeTest.objects.get()).samples.equals(before)
    assert streams.compact_due() == 0
    # What was on its way still comes in, and what was there is known.
    assert send(ines, stream, 2, first=5)["rows"] == 420
    assert SampleChunk.objects.count() == 2


def test_a_long_ride_is_drawn_together_on_the_way(ines, stream, monkeypatch):
    monkeypatch.setattr(streams, "MOST_SHORT", 3)
    monkeypatch.setattr(streams, "CHUNK_ROWS", 130)
    send(ines, stream, 5)
    assert streams.compact_due() == 1
    assert [(c.sequence, c.through) for c in SampleChunk.objects.all()] == [(0, 1), (2, 3), (4, 4)]
    assert send(ines, stream, 1, first=5)["rows"] == 360


@pytest.mark.parametrize("offset_s", [-3600.0, 3600.0])
def test_two_instruments_are_joined_as_of_their_times(ines, ride, stream, offset_s):
    send(ines, stream, 2)
    receiver = f"/tests/{ride}/streams/{uuid4()}"
    ines.put(receiver, {"instrument": "receiver", "clock_offset_s": offset_s})
    fixes = {
        "time_s": [2 * k - offset_s for k in range(60)],
        "altitude_m": [10.0 + k for k in range(60)],
    }
    assert ines.put(f"{receiver}/batches/0", fixes).status_code == 200
    samples = core_test(RangeTest.objects.get()).samples
    assert samples.height == 120
    assert samples.filter(pl.col("time_s") == 10)["altitude_m"].item() == 15.0
    part = ines.get(f"/tests/{ride}/traces?from_s=20&to_s=40").json()
    heights = next(channel for channel in part["channels"] if channel["name"] == "height")
    known = [value for value in heights["mean"] if value is not None]
    assert min(known) == pytest.approx(20.0, abs=1)
    assert max(known) == pytest.approx(30.0, abs=1)


def test_an_instrument_that_is_said_anew_changes_the_evidence(ines, ride, stream):
    told = send(ines, stream, 2)
    assert ines.get(f"/tests/{ride}").json()["result"]["energy"]["value"] > 0
    revision = RangeTest.objects.get().revision
    turned = ines.put(stream, {**METER, "sign": -1}).json()
    assert turned["sign"] == -1
    assert RangeTest.objects.get().revision == revision + 1
    assert core_test(RangeTest.objects.get()).samples["current_a"].max() < 0
    assert turned["sums"]["energy_wh"] == -told["sums"]["energy_wh"]
    assert turned["sums"]["returned_wh"] == pytest.approx(told["sums"]["energy_wh"])
    ines.put(stream, {**METER, "sign": -1})
    assert RangeTest.objects.get().revision == revision + 1


def test_sums_that_were_never_kept_are_made_when_asked_for(ines, stream):
    told = send(ines, stream, 3)
    Stream.objects.update(sums=None)
    SampleChunk.objects.filter(sequence=1).update(sums={"schema": 9, "core": "x", "value": {}})
    again = ines.put(stream, METER).json()
    assert again["sums"] == pytest.approx(told["sums"])
    assert send(ines, stream, 1, first=3)["sums"]["count"] == 240


def test_while_instruments_send_the_worker_leaves_the_ride_alone(ines, ride, stream):
    send(ines, stream, 1)
    assert worker.compute_due() == 0
    ines.put(f"/tests/{ride}/ending", {"reason": "home"})
    assert worker.compute_due() == 1


def test_traces_are_drawn_without_the_analysis(ines, ride, stream, monkeypatch):
    send(ines, stream, 3)
    shown = ines.get(f"/tests/{ride}").json()
    assert shown["computed"] == "fresh"

    def never(test):
        raise AssertionError("analysed again")

    monkeypatch.setattr(figures, "analyse", never)
    traces = ines.get(f"/tests/{ride}/traces").json()
    assert traces["distance_m"][-1] == pytest.approx(895.0, abs=5)
    # As long as the last result is there, of whatever evidence.
    TestResult.objects.update(detail=None)
    assert ines.get(f"/tests/{ride}/traces").json()["distance_m"] is None


def test_what_is_being_computed_says_so_and_is_not_computed_twice(ines, ridden, monkeypatch):
    from server.results.queries import CLAIM, claim

    ines.put(f"/tests/{ridden}/ending", {"reason": "home"})
    assert claim(ridden)
    assert not claim(ridden)
    assert ines.get("/tests").json()["items"][0]["computed"] == "computing"
    assert worker.compute_due() == 0
    assert ines.get(f"/tests/{ridden}").json()["computed"] == "computing"
    printed = ines.get(f"/tests/{ridden}/result.json")
    assert (printed.status_code, "being worked out" in printed.json()["message"]) == (409, True)
    # Whoever claimed it never came back.
    row = TestResult.objects.get()
    TestResult.objects.update(claimed_until=row.claimed_until - 2 * CLAIM)
    assert ines.get("/tests").json()["items"][0]["computed"] == "waiting"
    assert worker.compute_due() == 1
    assert ines.get(f"/tests/{ridden}").json()["computed"] == "fresh"
    assert TestResult.objects.get().claimed_until is None


def test_a_ride_that_is_noted_and_logged_counts_both(ines, ride, stream):
    send(ines, stream, 5)
    note(ines, ride, 0, trip_m=0)
    note(ines, ride, 299, trip_m=1495)
    test = core_test(RangeTest.objects.get())
    methods = {method.method for method in analyse(test).distance_methods}
    assert {"trip", "samples"} <= methods


def test_a_worker_of_its_own_does_what_is_due(ines, ridden, stream):
    send(ines, stream, 3)
    ines.put(f"/tests/{ridden}/ending", {"reason": "home"})
    said = StringIO()
    call_command("compute_results", "--once", stdout=said)
    assert said.getvalue() == "1 computed\n"
    assert SampleChunk.objects.count() == 1
    assert ines.get("/tests").json()["items"][0]["computed"] == "fresh"


def test_a_clock_that_puts_samples_outside_any_test_is_refused(ines, stream):
    send(ines, stream, 1)
    far = {**METER, "clock_offset_s": 34_560_000.0}
    told = ines.put(stream, far)
    assert told.status_code == 422
    assert "puts samples at 34,560,000 to 34,560,059 s" in told.json()["fields"]["clock_offset_s"]
    other = stream.rsplit("/", 1)[0] + f"/{uuid4()}"
    assert ines.put(other, far).status_code == 200
    refused = ines.put(f"{other}/batches/0", batch(60))
    assert (refused.status_code, list(refused.json()["fields"])) == (422, ["time_s"])
    exported = ines.get(f"{stream.split('/streams')[0]}/bundle.zip")
    assert ines.import_files({"ride.zip": exported.content}).status_code == 201


def test_a_batch_holds_its_test_until_it_is_stored(ines, stream):
    with CaptureQueriesContext(connection) as asked:
        answer = ines.put(f"{stream}/batches/0", batch(0))
    assert answer.status_code == 200, answer.content
    # Two that come at once are taken one after the other.
    first = next(item["sql"] for item in asked if "logbook_rangetest" in item["sql"])
    assert "FOR UPDATE" in first
