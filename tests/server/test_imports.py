"""Files of strangers over HTTP: dropped, looked at, taken, undone; nothing is stored before it is accepted."""

import io
import json
import zipfile
from datetime import timedelta
from uuid import uuid4

import numpy as np
import polars as pl
import pytest

from limpet.files import read_files
from limpet.files.archive import files_of_zip
from server.imports import held
from server.imports.models import Brought, KeptMapping
from server.kit.models import Route
from server.logbook.models import Entry, RangeTest, SampleChunk, Stream
from tests.core.foreign.strangers import BEGAN, ride
from tests.server.letting_in import OF, RIDES, drop, gpx, log_part, look, take


@pytest.fixture(autouse=True)
def _held_here(settings, tmp_path):
    settings.HELD_FOLDER = tmp_path / "held"


def test_a_strangers_log_is_looked_at_and_then_taken(ines):
    shape = OF["unit row, semicolons, decimal commas"]
    dropped = drop(ines, {"ride 12.csv": shape.data()}).json()
    assert [(part["what"], part["fault"]) for part in dropped["parts"]] == [("table", "")]
    looked = look(ines, dropped)
    assert not looked["unsure"]
    assert not looked["faults"]
    taken_for = {column["source"]: column["quantity"] for column in looked["columns"]}
    assert taken_for == {
        "Zeit": None, "Spannung": "voltage_v", "Strom": "current_a", "Leistung": "power_w",
        "Geschwindigkeit": "speed_mps", "Strecke": "distance_m",
    }  # fmt: skip
    assert all(column["why"] for column in looked["columns"] if column["quantity"])
    truth = shape.truth()
    assert looked["drawing"]["sums"]["energy_wh"] == pytest.approx(truth["energy_wh"][-1], rel=0.01)
    assert len(looked["drawing"]["time_s"]) == len(looked["drawing"]["channels"]["voltage_v"])
    for model in (RangeTest, Stream, Brought, KeptMapping):
        assert not model.objects.exists()
    brought = take(ines, dropped, [log_part(looked)], full=True)
    assert brought.status_code == 200, brought.content
    [test_id] = brought.json()["tests"]
    found = ines.get(f"/tests/{test_id}/result.json").json()
    assert found["energy"]["value"] == pytest.approx(truth["energy_wh"][-1], rel=0.01)
    assert found["distance"]["value"] == pytest.approx(truth["distance_m"][-1], rel=0.01)
    assert Stream.objects.get().instrument == "ride 12"


def test_a_change_of_a_guess_is_answered_and_a_wrong_one_says_so(ines):
    dropped = drop(ines, {"log.csv": OF["plain names"].data()}).json()
    looked = look(ines, dropped)
    mapping = looked["mapping"]
    speed = next(c for c in mapping["columns"] if c["quantity"] == "speed_mps")
    speed["unit"] = "mph"
    changed = look(ines, dropped, mapping=mapping)
    before, after = (max(x["drawing"]["channels"]["speed_mps"]) for x in (looked, changed))
    assert after == pytest.approx(before * 1.609344, rel=1e-3)
    speed["unit"] = "V"
    assert (
        ines.post(f"/imports/{dropped['id']}/parts/0/look", {"mapping": mapping}).status_code == 422
    )
    speed["unit"], speed["source"] = "km/h", "Nowhere"
    refused = look(ines, dropped, mapping=mapping)
    assert refused["drawing"] is None
    assert "Nowhere" in refused["faults"][0]


@pytest.mark.parametrize(
    "called", ["milli-units that are not named", "unit row, semicolons, decimal commas"]
)
def test_the_second_log_of_an_instrument_is_read_as_the_first(ines, called):
    shape = OF[called]
    dropped = drop(ines, {"a.csv": shape.data()}).json()
    looked = look(ines, dropped)
    assert not looked["kept"]
    looked["mapping"]["instrument"] = "Blue meter"
    assert take(ines, dropped, [log_part(looked)]).status_code == 200
    again = look(ines, drop(ines, {"b.csv": shape.data()}).json())
    assert again["kept"]
    assert again["mapping"]["instrument"] == "Blue meter"
    assert again["drawing"]["sums"] == looked["drawing"]["sums"]


def test_the_same_headings_with_other_units_are_looked_at_anew(ines):
    volts = OF["unit row, semicolons, decimal commas"].data()
    mine = drop(ines, {"a.csv": volts}).json()
    assert take(ines, mine, [log_part(look(ines, mine))]).status_code == 200
    miles = volts.replace(b";km\n", b";mi\n").replace(b";km\r\n", b";mi\r\n")
    assert miles != volts
    looked = look(ines, drop(ines, {"b.csv": miles}).json())
    assert not looked["kept"]
    assert "mi" in [c["unit"] for c in looked["mapping"]["columns"]]


def test_a_track_and_a_meters_log_are_joined_and_leave_apart(ines):
    shape = OF["ISO clock in UTC with milliseconds"]
    dropped = drop(ines, {"meter.csv": shape.data(), "watch.gpx": gpx(700, shift_s=97.0)}).json()
    assert [part["what"] for part in dropped["parts"]] == ["table", "track"]
    looked = look(ines, dropped)
    track = look(ines, dropped, 1)
    assert track["kind"] == "track"
    assert track["fixes"] == 700
    parts = [log_part(looked), {"key": 1, "use": "track"}]
    assert ines.post(
        f"/imports/{dropped['id']}/rides", {"id": str(uuid4()), "parts": parts}
    ).json() == [[0, 1]]
    match = ines.post(
        f"/imports/{dropped['id']}/match", {"first": parts[0], "second": parts[1]}
    ).json()
    assert match["sure"], match
    assert match["by_clocks_s"] == pytest.approx(97.0)
    # The watch was set late by so much: its track is of the first 700 seconds.
    assert match["offset_s"] == pytest.approx(-97.0, abs=1.5)
    parts[1]["offset_s"] = match["offset_s"]
    [test_id] = take(ines, dropped, parts).json()["tests"]
    assert sorted(Stream.objects.values_list("instrument", flat=True)) == ["meter", "watch"]
    out = files_of_zip(ines.get(f"/tests/{test_id}/bundle.zip").content)
    assert {"samples.csv", "samples-watch.csv"} <= out.keys()
    test = read_files(out)
    assert [stream.name for stream in test.streams] == ["meter", "watch"]
    assert test.streams[1].clock_offset_s == pytest.approx(97.0 + match["offset_s"])
    assert {"voltage_v", "latitude_deg"} <= set(test.samples.columns)
    again = ines.import_files(out)
    assert again.status_code == 201
    back = ines.get(f"/tests/{again.json()['id']}/result.json").json()
    assert back["energy"] == ines.get(f"/tests/{test_id}/result.json").json()["energy"]


def test_last_years_spreadsheet_is_in_the_logbook_in_one_go(ines, kit):
    dropped = drop(ines, {"rides.csv": RIDES.encode()}).json()
    looked = look(ines, dropped)
    assert looked["kind"] == "records"
    assert [record["row"] for record in looked["records"] if record["faults"]] == [3]
    assert "Distance (km) is 'twelve'" in looked["records"][2]["faults"][0]
    assert looked["records"][0]["distance_m"] == pytest.approx(12_400)
    part = {"key": 0, "use": "records", "record_columns": looked["record_columns"], "skip": [4]}
    answer = take(ines, dropped, [part], vehicle_id=kit["vehicle_id"], pack_id=kit["pack_id"])
    assert answer.status_code == 200, answer.content
    tests = RangeTest.objects.filter(pk__in=answer.json()["tests"]).order_by("started_at")
    assert [test.title for test in tests] == ["Quay loop", "To the light"]
    assert str(tests[0].started_at.date()) == "2025-05-03"
    first = Entry.objects.filter(test=tests[0]).order_by("time_s")
    assert [entry.voltage_rest_v for entry in first] == [54.4, 49.8]
    assert first[1].energy_wh == 142
    assert tests[0].sheet["conditions"]["temp_start_c"] == 14


def test_the_same_again_is_noticed_by_its_bytes_and_by_its_readings(ines):
    shape = OF["tabs, ISO clock with offset"]
    dropped = drop(ines, {"log.tsv": shape.data()}).json()
    looked = look(ines, dropped)
    assert take(ines, dropped, [log_part(looked)]).status_code == 200
    again = drop(ines, {"copy.tsv": shape.data()}).json()
    assert again["parts"][0]["seen"]["name"] == "A stranger’s ride"
    # The same readings with other line ends are other bytes.
    other = drop(ines, {"log.tsv": shape.data().replace(b"\n", b"\r\n")}).json()
    assert other["parts"][0]["seen"] is None
    refused = take(ines, other, [log_part(look(ines, other))])
    assert refused.status_code == 409
    assert "already" in refused.json()["message"]
    assert RangeTest.objects.count() == 1
    assert take(ines, other, [log_part(look(ines, other))], again=True).status_code == 200
    assert RangeTest.objects.count() == 2


def test_what_another_rider_brought_is_no_business_of_ones_own(ines, tobias):
    data = OF["plain names"].data()
    mine = drop(ines, {"log.csv": data}).json()
    assert take(ines, mine, [log_part(look(ines, mine))]).status_code == 200
    theirs = drop(tobias, {"log.csv": data}).json()
    assert theirs["parts"][0]["seen"] is None
    looked = look(tobias, theirs)
    assert not looked["kept"]
    assert take(tobias, theirs, [log_part(looked)]).status_code == 200


def test_an_import_is_undone_whole(ines):
    dropped = drop(ines, {"log.csv": OF["plain names"].data()}).json()
    brought = take(ines, dropped, [log_part(look(ines, dropped))]).json()
    assert [each["id"] for each in ines.get("/imports").json()] == [brought["id"]]
    assert ines.post(f"/imports/{brought['id']}/undo").status_code == 204
    assert ines.get(f"/tests/{brought['tests'][0]}").status_code == 404
    assert ines.get("/imports").json() == []
    assert ines.post(f"/imports/{brought['id']}/undo").status_code == 204
    # What was undone is not there any more: the same may come again.
    assert take(ines, dropped, [log_part(look(ines, dropped))]).status_code == 200


def test_a_second_instrument_is_added_to_a_test_and_taken_off_again(ines):
    shape = OF["ISO clock in UTC with milliseconds"]
    dropped = drop(ines, {"meter.csv": shape.data()}).json()
    [test_id] = take(ines, dropped, [log_part(look(ines, dropped))]).json()["tests"]
    before = ines.get(f"/tests/{test_id}/result.json").json()
    track = drop(ines, {"watch.gpx": gpx(700)}).json()
    added = take(ines, track, [{"key": 0, "use": "track"}], test_id=test_id)
    assert added.status_code == 200, added.content
    assert added.json()["streams"] == 1
    with_track = ines.get(f"/tests/{test_id}/result.json").json()
    assert "gps" in {method["method"] for method in with_track["distance_methods"]}
    assert ines.post(f"/imports/{added.json()['id']}/undo").status_code == 204
    assert ines.get(f"/tests/{test_id}/result.json").json() == before


def test_a_sent_again_store_changes_nothing(ines):
    dropped = drop(ines, {"log.csv": OF["plain names"].data()}).json()
    body = {"id": str(uuid4()), "title": "Once", "parts": [log_part(look(ines, dropped))]}
    one, two = (ines.post(f"/imports/{dropped['id']}/store", body).json() for _ in range(2))
    assert one == two
    assert RangeTest.objects.count() == 1


def test_home_and_the_ends_of_a_track_are_cut_before_anything_is_stored(ines):
    dropped = drop(ines, {"watch.gpx": gpx()}).json()
    whole = look(ines, dropped)
    cut = {"first_m": 300, "last_m": 300}
    shorter = look(ines, dropped, cut=cut)
    assert shorter["length_m"] == pytest.approx(whole["length_m"] - 600, abs=25)
    [test_id] = take(ines, dropped, [{"key": 0, "use": "track", "cut": cut}]).json()["tests"]
    out = read_files(files_of_zip(ines.get(f"/tests/{test_id}/bundle.zip").content))
    truth = ride()
    home = (truth["latitude_deg"][0], truth["longitude_deg"][0])
    north = (out.samples["latitude_deg"].to_numpy() - home[0]) * 111_200
    east = (out.samples["longitude_deg"].to_numpy() - home[1]) * 53_600
    assert np.hypot(north, east).min() > 250
    place = {"latitude_deg": home[0], "longitude_deg": home[1], "within_m": 500}
    assert look(ines, dropped, cut={"home": place})["fixes"] < whole["fixes"]


def test_a_home_is_kept_told_to_its_rider_alone_and_forgotten(ines, tobias):
    place = {"latitude_deg": 10.1, "longitude_deg": -30.2, "within_m": 300}
    assert ines.get("/imports/home").status_code == 204
    assert ines.put("/imports/home", place).json() == place
    assert ines.put("/imports/home", {**place, "within_m": 500}).status_code == 200
    assert ines.get("/imports/home").json() == {**place, "within_m": 500}
    assert tobias.get("/imports/home").status_code == 204
    assert tobias.delete("/imports/home").status_code == 204
    assert ines.get("/imports/home").status_code == 200
    assert ines.delete("/imports/home").status_code == 204
    assert ines.get("/imports/home").status_code == 204
    assert ines.put("/imports/home", {**place, "latitude_deg": 91}).status_code == 422


def test_a_track_becomes_a_route(ines):
    dropped = drop(ines, {"watch.gpx": gpx()}).json()
    brought = take(ines, dropped, [{"key": 0, "use": "route"}]).json()
    assert Route.objects.get(pk=brought["routes"][0]).name == "A stranger’s ride"
    assert ines.post(f"/imports/{brought['id']}/undo").status_code == 204
    assert [r for r in ines.get("/routes").json() if r["kind"] == "track"] == []


def test_several_files_in_a_zip_and_a_packed_one_are_opened(ines):
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("mine/log.csv", OF["plain names"].data())
        archive.writestr("mine/watch.gpx", gpx())
        archive.writestr("__MACOSX/._log.csv", b"nothing")
    dropped = drop(ines, {"all.zip": buffer.getvalue()}).json()
    assert [(part["name"], part["what"]) for part in dropped["parts"]] == [
        ("log.csv", "table"),
        ("watch.gpx", "track"),
    ]


@pytest.mark.parametrize(
    ("name", "data", "said"),
    [
        ("a.pdf", b"%PDF-1.7 nothing", "PDF"),
        ("a.csv", b"", "empty"),
        ("a.zip", b"PK\x03\x04 broken", "damaged zip"),
        ("a.csv", b"\x00\x01\x02" * 400, "maker"),
        ("a.html", b"<!doctype html><html><body>no</body></html>", "web page"),
    ],
)
def test_what_is_no_log_says_what_it_looks_like_and_what_to_do(ines, name, data, said):
    answer = drop(ines, {name: data})
    part = answer.json()["parts"][0]
    assert part["what"] == "unknown"
    assert said in part["fault"]
    assert ines.post(f"/imports/{answer.json()['id']}/parts/0/look", {}).status_code == 422


def test_a_table_without_times_is_refused_with_what_is_missing(ines):
    dropped = drop(ines, {"a.csv": b"name,colour\none,red\ntwo,blue\n"}).json()
    answer = ines.post(f"/imports/{dropped['id']}/parts/0/look", {})
    assert answer.status_code == 422
    assert "columns of figures" in answer.json()["faults"][0]["message"]


def test_what_is_held_is_its_owners_alone_and_is_let_go_of(ines, tobias):
    dropped = drop(ines, {"log.csv": OF["plain names"].data()}).json()
    assert tobias.get(f"/imports/{dropped['id']}").status_code == 404
    assert tobias.post(f"/imports/{dropped['id']}/parts/0/look", {}).status_code == 404
    assert tobias.delete(f"/imports/{dropped['id']}").status_code == 404
    assert ines.get(f"/imports/{dropped['id']}").status_code == 200
    assert ines.delete(f"/imports/{dropped['id']}").status_code == 204
    assert ines.get(f"/imports/{dropped['id']}").status_code == 404
    brought = take(ines, drop(ines, {"log.csv": OF["plain names"].data()}).json(), [])
    assert brought.status_code == 422


def test_a_part_that_cannot_be_read_stores_nothing_of_the_others(ines):
    dropped = drop(ines, {"log.csv": OF["plain names"].data(), "watch.gpx": gpx()}).json()
    parts = [
        log_part(look(ines, dropped)),
        {"key": 1, "use": "track", "cut": {"first_m": 5000, "last_m": 5000}},
    ]
    assert take(ines, dropped, parts).status_code == 422
    for model in (RangeTest, Stream, SampleChunk, Brought, KeptMapping):
        assert not model.objects.exists()


def test_a_large_log_is_read_in_a_process_of_its_own_and_can_be_cancelled(ines, monkeypatch):
    monkeypatch.setattr("server.imports.storing.SMALL_BYTES", 1000)
    dropped = drop(ines, {"log.csv": OF["whole seconds, four rows each"].data()}).json()
    looked = look(ines, dropped)
    [test_id] = take(ines, dropped, [log_part(looked)]).json()["tests"]
    assert ines.get(f"/tests/{test_id}/result.json").status_code == 200
    other = drop(ines, {"log.csv": OF["rows twice"].data()}).json()
    looked = look(ines, other)
    (held.folder_of(other["id"]) / "cancelled").touch()
    answer = take(ines, other, [log_part(looked)])
    assert answer.status_code == 409
    assert "Cancelled" in answer.json()["message"]
    assert RangeTest.objects.count() == 1


def test_a_file_that_was_held_too_long_is_let_go_of(ines, monkeypatch):
    dropped = drop(ines, {"log.csv": OF["plain names"].data()}).json()
    monkeypatch.setattr(held, "HELD_S", -1)
    assert held.sweep() == 1
    assert ines.get(f"/imports/{dropped['id']}").status_code == 404


def test_a_workbook_of_rides_and_one_of_a_log(ines, tmp_path):
    import xlsxwriter

    path = tmp_path / "book.xlsx"
    with xlsxwriter.Workbook(path) as book:
        sheet = book.add_worksheet("May")
        truth = ride(400)
        sheet.write_row(0, 0, ["Time (s)", "Voltage (V)", "Current (A)", "Speed (km/h)"])
        for row in range(400):
            values = (
                truth["time_s"][row],
                truth["voltage_v"][row],
                truth["current_a"][row],
                truth["speed_mps"][row] * 3.6,
            )
            sheet.write_row(row + 1, 0, [round(float(value), 3) for value in values])
    dropped = drop(ines, {"book.xlsx": path.read_bytes()}).json()
    assert dropped["parts"][0]["what"] == "table"
    looked = look(ines, dropped)
    assert not looked["unsure"]
    [test_id] = take(ines, dropped, [log_part(looked)]).json()["tests"]
    kept = pl.read_csv(
        io.BytesIO(files_of_zip(ines.get(f"/tests/{test_id}/bundle.zip").content)["samples.csv"])
    )
    assert kept["voltage_v"].to_numpy() == pytest.approx(truth["voltage_v"].round(3), abs=1e-6)
    assert json.loads(json.dumps(looked["mapping"]))["limpet_mapping"] == 1


def test_a_test_goes_out_in_the_formats_that_others_read(ines):
    import gpxpy
    import pyarrow.parquet as pq

    dropped = drop(
        ines, {"meter.csv": OF["ISO clock in UTC with milliseconds"].data(), "watch.gpx": gpx(700)}
    ).json()
    parts = [log_part(look(ines, dropped)), {"key": 1, "use": "track"}]
    [test_id] = take(ines, dropped, parts).json()["tests"]
    samples = read_files(files_of_zip(ines.get(f"/tests/{test_id}/bundle.zip").content)).samples
    by_arrow = pq.read_table(io.BytesIO(ines.get(f"/tests/{test_id}/file/parquet").content))
    assert by_arrow["voltage_v"].to_numpy() == pytest.approx(
        samples["voltage_v"].to_numpy(), nan_ok=True
    )
    csv = pl.read_csv(io.BytesIO(ines.get(f"/tests/{test_id}/file/csv").content))
    assert csv["current_a"].equals(samples["current_a"])
    track = gpxpy.parse(ines.get(f"/tests/{test_id}/file/gpx").content.decode())
    assert (
        sum(len(s.points) for t in track.tracks for s in t.segments)
        == samples["latitude_deg"].count()
    )
    line = json.loads(ines.get(f"/tests/{test_id}/file/geojson").content)["features"][0]["geometry"]
    place = line["coordinates"][0] if line["type"] == "LineString" else line["coordinates"][0][0]
    assert -180 <= place[0] <= 180
    assert place[1] == pytest.approx(61.2, abs=0.1)
    answer = ines.get(f"/tests/{test_id}/file/xlsx")
    assert answer["Content-Disposition"].endswith('.xlsx"')
    with zipfile.ZipFile(io.BytesIO(answer.content)) as book:
        assert b"SUMPRODUCT" in book.read("xl/worksheets/sheet1.xml")
    bare = drop(ines, {"log.csv": OF["plain names"].data()}).json()
    [without] = take(ines, bare, [log_part(look(ines, bare))]).json()["tests"]
    refused = ines.get(f"/tests/{without}/file/gpx")
    assert refused.status_code == 409
    assert "no places" in refused.json()["message"]


def test_a_log_of_two_rides_is_asked_about_and_one_of_them_is_taken(ines):
    truth = ride(600)
    rows = ["Time,Voltage (V),Current (A),Speed (km/h)"]
    for began in (0, 3600):
        for at in range(600):
            moment = (BEGAN + timedelta(seconds=began + at)).isoformat(" ")
            rows.append(
                f"{moment},{truth['voltage_v'][at]:.2f},{truth['current_a'][at]:.2f},{3.6 * truth['speed_mps'][at]:.2f}"
            )
    dropped = drop(ines, {"day.csv": "\n".join(rows).encode() + b"\n"}).json()
    looked = look(ines, dropped)
    assert len(looked["rides"]) == 2
    [test_id] = take(ines, dropped, [log_part(looked, span=looked["rides"][1])]).json()["tests"]
    found = ines.get(f"/tests/{test_id}").json()
    assert found["started_at"].startswith("2026-05-14T10:12:00")
    # A clock of a zone that the rider's device names is one with an offset.
    [again] = take(
        ines, dropped, [log_part(looked, span=looked["rides"][0])], zone="Europe/London"
    ).json()["tests"]
    assert ines.get(f"/tests/{again}").json()["started_at"].endswith("+01:00")
    result = ines.get(f"/tests/{test_id}/result.json").json()
    assert result["distance"]["value"] == pytest.approx(truth["distance_m"][-1], rel=0.01)


def test_volts_that_are_none_of_the_chosen_packs_are_asked_about(ines, kit):
    pack_id = str(uuid4())
    ines.put(
        f"/packs/{pack_id}", {"name": "Small", "chemistry": "nmc", "series": 7, "rated_ah": 10}
    )
    dropped = drop(ines, {"log.csv": OF["plain names"].data()}).json()
    assert not look(ines, dropped, pack_id=kit["pack_id"])["unsure"]
    asked = look(ines, dropped, pack_id=pack_id)
    assert "7 cells in series never show" in asked["unsure"][0]
    assert asked["drawing"] is not None


def test_what_was_left_lying_longest_gives_way_to_what_is_dropped_anew(ines, monkeypatch):
    monkeypatch.setattr(held, "MOST_DROPS", 2)
    log = OF["plain names"].data()
    ids = [drop(ines, {f"{k}.csv": log}).json()["id"] for k in range(3)]
    assert [ines.get(f"/imports/{each}").status_code for each in ids] == [404, 200, 200]
