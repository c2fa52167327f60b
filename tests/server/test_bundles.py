"""Import and export over HTTP: the same numbers as the command line, or nothing stored."""

import io
import json
import zipfile
from uuid import uuid4

import pytest

from demo.skerrow import ridden
from limpet.bundle import bundle_files, read_files, write_zip
from limpet.bundle.archive import files_of_zip
from limpet.result import analyse
from server.logbook.models import CachedResult, Entry, RangeTest, SampleChunk
from tests.core.bundle.test_round_trip import same
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
    for model in (RangeTest, Entry, SampleChunk, CachedResult):
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
    monkeypatch.setattr("server.logbook.evidence.CHUNK_ROWS", 1000)
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
    with django_assert_num_queries(3):  # session, account, tests with their results
        assert len(ines.get("/tests").json()) == 1
    for _ in range(4):
        ines.import_files(files)
    with django_assert_num_queries(3):
        assert len(ines.get("/tests").json()) == 5


def test_a_result_is_computed_once_and_again_when_the_evidence_or_the_core_changes(
    ines, monkeypatch
):
    test_id = ines.import_files(bundle_files(ridden("sandpiper-quay-gentle"))).json()["id"]
    calls = []
    from server.logbook import results

    real = results.analyse
    monkeypatch.setattr(results, "analyse", lambda test: calls.append(1) or real(test))
    ines.get(f"/tests/{test_id}")
    ines.get("/tests")
    assert calls == []
    entry = ines.get(f"/tests/{test_id}").json()["entries"][1]["id"]
    ines.delete(f"/tests/{test_id}/entries/{entry}")
    ines.get(f"/tests/{test_id}")
    assert len(calls) == 1
    monkeypatch.setattr(results, "CORE_VERSION", "next")
    ines.get("/tests")
    assert len(calls) == 2


def test_names_of_any_script_are_kept(ines):
    files = {
        "test.json": minimal(title="Leuchtturm 灯台 🛵 " + "x" * 250),
        "entries.csv": b"time_s,kind\n0,start\n9,end\n",
    }
    assert ines.import_files(files).json()["title"].startswith("Leuchtturm 灯台 🛵")
