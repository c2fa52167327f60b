"""The command line on strangers' files: one command from a log to watt-hours a mile, and out again."""

import json

import pyarrow.parquet as pq
import pytest

from limpet.cli import main
from limpet.files import read_bundle
from tests.core.foreign.strangers import SHAPES
from tests.core.foreign.test_tracks import gpx

OF = {shape.name: shape for shape in SHAPES}
PACK = ["--pack", "13s 10.4Ah NMC"]
RIDES = b"Date,Miles,Volts before,Volts after,Note\n2025-05-03,7.7,54.4,49.8,dry\n2025-05-10,eleven,54.3,47.2,\n2025-05-17,8.1,54.4,49.6,wet\n"


def test_one_command_from_a_log_to_watt_hours_a_mile(tmp_path, capsys):
    shape = OF["unit row, semicolons, decimal commas"]
    log, kept = tmp_path / "ride.csv", tmp_path / "map.json"
    log.write_bytes(shape.data())
    assert main(["analyse", str(log), *PACK, "--full", "--json", "--save-mapping", str(kept)]) == 0
    first = capsys.readouterr()
    found = json.loads(first.out)
    truth = shape.truth()
    assert found["energy"]["value"] == pytest.approx(truth["energy_wh"][-1], rel=0.01)
    assert "voltage_v: Spannung in V" in first.err
    assert main(["analyse", str(log), *PACK, "--full", "--json", "--mapping", str(kept)]) == 0
    assert json.loads(capsys.readouterr().out) == found


def test_a_track_beside_a_log_gives_it_its_distance(tmp_path, capsys):
    log, track = tmp_path / "ride.csv", tmp_path / "ride.gpx"
    log.write_bytes(OF["tabs, ISO clock with offset"].data())
    track.write_bytes(gpx())
    assert main(["analyse", str(log), *PACK, "--track", str(track), "--json"]) == 0
    assert [m["method"] for m in json.loads(capsys.readouterr().out)["distance_methods"]] == ["gps"]


@pytest.mark.parametrize(
    ("arguments", "said"),
    [
        (["--pack", "13q"], "not understood"),
        (["--mapping", "nowhere.json"], "no such file"),
        (["--zone", "Atlantis/Deep"], "no time zone"),
    ],
)
def test_what_cannot_be_is_refused_in_one_line(tmp_path, capsys, arguments, said):
    log = tmp_path / "ride.csv"
    log.write_bytes(
        OF["German words, Latin-1"].data() if "--pack" in arguments else OF["rows twice"].data()
    )
    assert main(["analyse", str(log), *arguments]) == 2
    assert said in capsys.readouterr().err


def test_files_become_a_bundle_and_leave_it_in_every_format(tmp_path, capsys):
    log, track, out = tmp_path / "meter.csv", tmp_path / "watch.gpx", tmp_path / "ride.zip"
    log.write_bytes(OF["ISO clock in UTC with milliseconds"].data())
    track.write_bytes(gpx())
    assert main(["import", str(log), str(track), *PACK, "--out", str(out)]) == 0
    test = read_bundle(out)
    assert [stream.name for stream in test.streams] == ["meter", "watch"]
    for form in ("csv", "parquet", "gpx", "geojson", "xlsx", "json"):
        assert main(["export", str(out), "--as", form, "--out", str(tmp_path / f"x.{form}")]) == 0
    assert pq.read_table(tmp_path / "x.parquet").num_rows == test.samples.height
    assert main(["export", str(out), "--as", "csv", "--out", str(tmp_path / "x.csv")]) == 2
    assert "is there already" in capsys.readouterr().err
    assert main(["import", str(log), "--out", str(out)]) == 2
    assert read_bundle(out).samples.equals(test.samples)


def test_a_table_with_a_ride_a_row_becomes_many_bundles(tmp_path, capsys):
    rides, out = tmp_path / "rides.csv", tmp_path / "all"
    rides.write_bytes(RIDES)
    assert main(["import", str(rides), *PACK, "--out", str(out)]) == 0
    said = capsys.readouterr()
    assert "2 of 3 rides" in said.out
    assert "row 2: Miles is 'eleven'" in said.err
    found = sorted(out.iterdir())
    assert [read_bundle(each).sheet.title for each in found] == [
        "Ride of 2025-05-03",
        "Ride of 2025-05-17",
    ]
    assert read_bundle(found[0]).entries[1].trip_m == pytest.approx(7.7 * 1609.344)


def test_what_is_no_log_is_refused_with_what_it_is(tmp_path, capsys):
    paper = tmp_path / "paper.pdf"
    paper.write_bytes(b"%PDF-1.7")
    assert main(["import", str(paper)]) == 2
    assert "PDF" in capsys.readouterr().err
    assert main(["import", str(tmp_path / "nothing.csv")]) == 2
    assert "no such file" in capsys.readouterr().err
