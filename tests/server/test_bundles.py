"""Import and export over HTTP: the same numbers as the command line, or nothing stored."""

import io
import json
import os
import signal
import zipfile
from datetime import datetime, timedelta, timezone
from urllib.parse import quote
from uuid import uuid4

import pytest

from demo.skerrow import ridden
from limpet.errors import BundleError
from limpet.files import bundle_files, read_files, write_zip
from limpet.files.archive import files_of_zip
from limpet.tell import analyse
from server.logbook import intake
from server.logbook.models import Entry, RangeTest, SampleChunk
from server.results import figures, listing, queries, worker
from server.results.models import TestResult
from server.wire import apart
from server.wire.turns import BusyError
from tests.core.files.test_round_trip import same
from tests.strategies import minimal


@pytest.mark.parametrize("slug", ["turnstone-frost", "sandpiper-quay-gentle"])
def test_a_zip_comes_in_gives_the_cores_result_and_goes_out_the_same(ines, slug):
    test = ridden(slug)
    row = ines.import_files({"ride.zip": write_zip(test)})
    assert row.status_code == 201
    test_id = row.json()["id"]
    assert ines.get(f"/tests/{test_id}/result.json").json() == json.loads(
        json.dumps(analyse(test).to_json())
    )
    out = ines.get(f"/tests/{test_id}/bundle.zip")
    assert out["Content-Disposition"].endswith('.limpet.zip"')
    same(read_files(files_of_zip(out.content)), test)


def test_loose_files_are_a_bundle_too(ines):
    answer = ines.import_files(bundle_files(ridden("sandpiper-quay-gentle")))
    assert answer.status_code == 201
    assert answer.json()["title"] == "Quay loop, ridden gently"


def test_what_the_reader_warned_about_is_kept_with_the_test(ines):
    files = {"test.json": minimal(mood="fine"), "samples.csv": b"time_s;voltage_v\n0;54,5\n1;54\n"}
    test_id = ines.import_files(files).json()["id"]
    found = ines.get(f"/tests/{test_id}/result.json").json()
    assert {"semicolons", "unknown_fields"} <= {warning["code"] for warning in found["warnings"]}
    assert found == json.loads(json.dumps(analyse(read_files(files)).to_json()))
    again = files_of_zip(ines.get(f"/tests/{test_id}/bundle.zip").content)
    assert json.loads(again["test.json"])["mood"] == "fine"


def test_a_refused_bundle_names_every_fault_and_stores_nothing(ines):
    files = {
        "test.json": minimal(vehicle={"kind": "boat"}),
        "samples.csv": b"time_s,voltage_v\n0,x\n1,y\n",
    }
    answer = ines.import_files(files)
    assert answer.status_code == 422
    problem = answer.json()
    assert problem["code"] == "bundle_refused"
    places = [(fault["file"], fault["line"], fault["column"]) for fault in problem["faults"]]
    assert places[0] == ("samples.csv", 2, 2)
    assert len(places) == 3
    assert "Nothing was stored" in problem["message"]
    for model in (RangeTest, Entry, SampleChunk, TestResult):
        assert not model.objects.exists()


def test_a_hostile_zip_is_refused(ines):
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w") as archive:
        archive.writestr("../test.json", "{}")
    answer = ines.import_files({"ride.zip": buffer.getvalue()})
    assert answer.status_code == 422
    assert "outside the zip's folder" in answer.json()["faults"][0]["message"]


def test_an_import_sent_again_is_stored_once(ines):
    files, test_id = bundle_files(ridden("sandpiper-quay-gentle")), uuid4()
    first, again = (ines.import_files(files, test_id) for _ in range(2))
    assert first.json() == again.json()
    assert RangeTest.objects.count() == 1


def test_import_needs_files_and_somebody(ines, nobody):
    assert ines.client.post("/api/tests/import", {"id": str(uuid4())}).status_code == 422
    assert nobody.import_files({"test.json": minimal()}).status_code == 401


def test_samples_are_kept_in_chunks_in_order(ines, monkeypatch):
    monkeypatch.setattr("server.logbook.chunks.CHUNK_ROWS", 1000)
    test = ridden("turnstone-frost")
    test_id = ines.import_files(bundle_files(test)).json()["id"]
    chunks = list(
        SampleChunk.objects.values_list("sequence", "count", "first_time_s", "last_time_s")
    )
    assert [count for _, count, _, _ in chunks[:-1]] == [1000] * (len(chunks) - 1)
    assert chunks[1][2] > chunks[0][3]
    same(read_files(files_of_zip(ines.get(f"/tests/{test_id}/bundle.zip").content)), test)


def test_traces_come_binned_whole_and_in_part(ines):
    test_id = ines.import_files(bundle_files(ridden("turnstone-frost"))).json()["id"]
    whole = ines.get(f"/tests/{test_id}/traces").json()
    part = ines.get(f"/tests/{test_id}/traces?from_s=600&to_s=900").json()
    assert [channel["name"] for channel in whole["channels"]] == [
        "voltage",
        "power",
        "speed",
        "height",
    ]
    assert part["time_s"][0] >= 600
    assert part["time_s"][-1] <= 900
    assert ines.get(f"/tests/{uuid4()}/traces").status_code == 404


def test_a_list_takes_as_many_queries_for_five_tests_as_for_one(ines, django_assert_num_queries):
    files = bundle_files(ridden("sandpiper-quay-gentle"))
    ines.import_files(files)
    with django_assert_num_queries(9):  # session, account; rows, count; sums, vehicles
        assert len(ines.get("/tests").json()["items"]) == 1
    for _ in range(4):
        ines.import_files(files)
    with django_assert_num_queries(9):
        assert len(ines.get("/tests").json()["items"]) == 5


def test_a_result_is_computed_once_and_again_when_the_evidence_or_the_core_changes(
    ines, monkeypatch
):
    test_id = ines.import_files(bundle_files(ridden("sandpiper-quay-gentle"))).json()["id"]
    calls = []
    from server.results import services as results

    real = figures.analyse
    monkeypatch.setattr(figures, "analyse", lambda test: calls.append(1) or real(test))
    ines.get(f"/tests/{test_id}")
    assert ines.get("/tests").json()["items"][0]["computed"] == "fresh"
    assert worker.compute_due() == 0
    assert calls == []
    entry = ines.get(f"/tests/{test_id}").json()["entries"][1]["id"]
    ines.delete(f"/tests/{test_id}/entries/{entry}")
    # A list computes nothing: the row says that it waits, and the worker computes it.
    row = ines.get("/tests").json()["items"][0]
    assert (row["computed"], calls) == ("waiting", [])
    assert row["figures"]["wh_per_km"] is not None
    assert worker.compute_due() == 1
    assert ines.get("/tests").json()["items"][0]["computed"] == "fresh"
    ines.get(f"/tests/{test_id}")
    assert len(calls) == 1
    for module in (results, queries, listing):
        monkeypatch.setattr(module, "core_digest", lambda: "another core")
    assert ines.get("/tests").json()["summary"]["waiting"] == 1
    assert len(calls) == 1
    assert worker.compute_due() == 1
    assert len(calls) == 2


def test_a_test_that_cannot_be_computed_is_marked_and_the_others_are_not(ines, monkeypatch):

    files = bundle_files(ridden("sandpiper-quay-gentle"))
    bad, good = (ines.import_files(files).json()["id"] for _ in range(2))
    RangeTest.objects.update(revision=9)
    real = figures.analyse
    seen = []

    def fails_once(test):
        seen.append(1)
        return real(test) if len(seen) > 1 else 1 / 0

    monkeypatch.setattr(figures, "analyse", fails_once)
    assert worker.compute_due() == 2
    states = {row["id"]: row["computed"] for row in ines.get("/tests").json()["items"]}
    assert sorted(states.values()) == ["failed", "fresh"]
    failed = next(key for key, state in states.items() if state == "failed")
    shown = ines.get(f"/tests/{failed}").json()
    assert "couldn’t be worked out" in shown["trouble"]
    assert shown["entries"]
    assert ines.get(f"/tests/{failed}/result.json").status_code == 409
    assert worker.compute_due() == 0
    assert {bad, good} == set(states)


def test_the_logbook_comes_in_pages_and_can_be_searched(ines):
    start = datetime(2026, 5, 1, tzinfo=timezone.utc)
    for k in range(7):
        sheet = minimal(
            title=f"Ride {k}",
            started_at=(start + timedelta(days=k // 2)).isoformat(),
            vehicle={"kind": "moped", "name": "Whimbrel" if k % 2 else "Dunlin"},
            purpose="floor" if k == 3 else None,
        )
        ines.import_files({"test.json": sheet, "entries.csv": b"time_s,trip_m\n0,0\n9,90\n"})
    seen, after = [], ""
    for _ in range(4):
        page = ines.get(f"/tests?most=2&after={quote(after)}").json()
        assert page["count"] == 7
        seen += [row["title"] for row in page["items"]]
        after = page["next"] or ""
    assert page["next"] is None
    assert len(seen) == len(set(seen)) == 7
    assert seen[0] == "Ride 6"
    assert ines.get("/tests?vehicle=Dunlin").json()["count"] == 4
    assert [r["title"] for r in ines.get("/tests?purpose=floor").json()["items"]] == ["Ride 3"]
    assert ines.get("/tests?words=whim+2").json()["count"] == 0
    assert ines.get("/tests?words=whim+3").json()["count"] == 1
    assert [t["title"] for t in ines.get("/tests/find?words=ride+5").json()] == ["Ride 5"]
    summary = ines.get("/tests").json()["summary"]
    assert (summary["tests"], summary["vehicles"]) == (7, ["Dunlin", "Whimbrel"])
    assert summary["reach_m"] >= 90
    for bad in ("nonsense", "2026-05-01_x", "2026-05-01T00:00:00_" + str(uuid4())):
        assert ines.get(f"/tests?after={bad}").status_code == 422
    assert ines.get("/tests?most=101").status_code == 422


def test_a_list_row_holds_a_thin_strip_and_the_test_the_whole_one(ines):
    test_id = ines.import_files(bundle_files(ridden("turnstone-frost"))).json()["id"]
    row = ines.get("/tests").json()["items"][0]["strip"]
    whole = ines.get(f"/tests/{test_id}").json()["strip"]
    assert len(row["distance_m"]) <= 40 < len(whole["distance_m"])
    assert row["distance_m"][-1] == pytest.approx(whole["distance_m"][-1], abs=0.1)
    assert row["energy_left"][-1] == pytest.approx(whole["energy_left"][-1], abs=1e-3)


def test_now_tells_rides_under_way_and_the_newest_kit(ines, ride):
    found = ines.get("/tests/now").json()
    assert [test["id"] for test in found["under_way"]] == [ride]
    assert (found["vehicle_name"], found["pack_name"], found["tests"]) == (
        "Sandpiper",
        "Eider-2",
        1,
    )


@pytest.mark.parametrize("as_zip", [True, False])
def test_a_large_bundle_is_read_in_a_process_of_its_own(ines, as_zip, monkeypatch):
    rows = "".join(
        f"{k},{54 - k / 9000:.5f},{3 + k % 7}.25,{5.123456 + k % 3}\n" for k in range(60_000)
    )
    samples = ("time_s,voltage_v,current_a,speed_mps\n" + rows).encode()
    files = {"test.json": minimal(), "samples.csv": samples}
    here = []
    monkeypatch.setattr(intake, "intake_of", lambda test: here.append(1))
    sent = {"ride.zip": write_zip(read_files(files))} if as_zip else files
    assert sum(map(len, sent.values())) > 2**17
    answer = ines.import_files(sent)
    assert answer.status_code == 201, answer.json()
    assert here == []
    assert sum(chunk.count for chunk in SampleChunk.objects.all()) == 60_000
    # A refusal comes back from there with its places.
    files["samples.csv"] = samples + b"1,x,1,1\n"
    refused = ines.import_files(files)
    assert refused.status_code == 422
    assert ("samples.csv", 60_002) in {(f["file"], f["line"]) for f in refused.json()["faults"]}


def test_names_of_any_script_are_kept(ines):
    files = {
        "test.json": minimal(title="Leuchtturm 灯台 🛵 " + "x" * 250),
        "entries.csv": b"time_s,kind\n0,start\n9,end\n",
    }
    assert ines.import_files(files).json()["title"].startswith("Leuchtturm 灯台 🛵")


def test_a_reader_that_is_killed_is_told_apart_from_a_bundle_that_is_too_much():
    """Found by killing: who lost the reader's process was told that their bundle was at fault."""
    with pytest.raises(BusyError, match="Reading this was stopped"):
        apart.apart(signal.raise_signal, signal.SIGKILL)
    # Out of its time, and out of memory.
    for ended in ((signal.raise_signal, signal.SIGXCPU), (bytearray, 10**13)):
        with pytest.raises(BundleError, match="more memory or time"):
            apart.apart(*ended)
    # What is nobody's fault but ours is a failure.
    with pytest.raises(RuntimeError, match="ended with 3"):
        apart.apart(os._exit, 3)
