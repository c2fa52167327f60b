"""Files out against other readers: GeoJSON by its standard's rules, Parquet by pyarrow, a workbook by a formula engine."""

import io
import json
import warnings
import zipfile

import numpy as np
import polars as pl
import pyarrow.parquet as pq
import pytest

from demo.skerrow import ridden
from limpet.evidence.model import Entry, RangeTest
from limpet.files.out import samples_csv, samples_parquet, track_geojson, track_gpx, track_segments
from limpet.foreign.stranger import sheet_for
from limpet.tell import analyse
from limpet.tell.workbook import workbook

SHEET = sheet_for("=HYPERLINK(1)")


def track(longitudes, times=None):
    count = len(longitudes)
    frame = pl.DataFrame(
        {
            "time_s": np.arange(count, dtype=float) if times is None else times,
            "latitude_deg": np.linspace(61.0, 61.01, count),
            "longitude_deg": longitudes,
        }
    )
    return RangeTest(sheet=SHEET, samples=frame)


def test_geojson_stands_as_its_standard_says():
    # RFC 7946: 3.1.1 longitude first, 3.1.9 parted at the antimeridian, 4 degrees of WGS 84.
    found = json.loads(track_geojson(track([179.98, 179.99, 180.0, 180.01, 180.02])))
    geometry = found["features"][0]["geometry"]
    assert geometry["type"] == "MultiLineString"
    assert all(
        -180 <= place[0] <= 180 and -90 <= place[1] <= 90
        for line in geometry["coordinates"]
        for place in line
    )
    for line in geometry["coordinates"]:
        assert len({place[0] > 0 for place in line}) == 1
    assert all(len(line) > 1 for line in geometry["coordinates"])
    assert (
        json.loads(track_geojson(track([-7.4, -7.39])))["features"][0]["geometry"]["type"]
        == "LineString"
    )


def test_a_break_in_the_fixes_parts_the_track():
    broken = track([-7.4, -7.39, -7.38, -7.37], times=[0.0, 1.0, 300.0, 301.0])
    assert [part.height for part in track_segments(broken)] == [2, 2]
    assert track_gpx(broken).count(b"<trkseg>") == 2
    assert track_gpx(RangeTest(sheet=SHEET, entries=(Entry(time_s=0, kind="start"),))) is None


def test_parquet_and_csv_hold_what_was_logged():
    test = ridden("turnstone-frost")
    by_arrow = pq.read_table(io.BytesIO(samples_parquet(test)))
    by_polars = pl.read_csv(io.BytesIO(samples_csv(test)))
    for name in test.samples.columns:
        ours = test.samples[name].to_numpy()
        assert by_arrow[name].to_numpy() == pytest.approx(ours, nan_ok=True, rel=1e-12)
        assert by_polars[name].cast(pl.Float64).to_numpy() == pytest.approx(
            ours, nan_ok=True, rel=1e-12
        )


def test_a_workbook_recalculated_by_another_engine_gives_the_pages_watt_hours_a_mile(tmp_path):
    import formulas

    test = ridden("turnstone-frost")
    result = analyse(test)
    path = tmp_path / "book.xlsx"
    path.write_bytes(workbook(test, result))
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        found = formulas.ExcelModel().loads(str(path)).finish().calculate()
    values = {
        str(key).rsplit("!", 1)[-1]: value.value
        for key, value in found.items()
        if "SUMS" in str(key) and ":" not in str(key)
    }
    assert float(values["B4"][0, 0]) == pytest.approx(result.energy.value, rel=1e-9)
    assert float(values["B7"][0, 0]) == pytest.approx(result.consumption.wh_per_mi.value, rel=1e-3)


def test_what_looks_like_a_formula_is_text_in_the_workbook():
    entries = (
        Entry(time_s=0, kind="start", trip_m=0.0),
        Entry(time_s=900, kind="end", trip_m=5000.0, note="=1+1", energy_wh=None),
    )
    test = RangeTest(sheet=SHEET, entries=entries)
    with zipfile.ZipFile(io.BytesIO(workbook(test, analyse(test)))) as book:
        sheets = b"".join(
            book.read(name) for name in book.namelist() if name.startswith("xl/worksheets/")
        )
        assert b"<f>1+1" not in sheets
        assert b"HYPERLINK" not in sheets
        texts = book.read("xl/sharedStrings.xml")
    assert b"=1+1" in texts
    assert b"=HYPERLINK(1)" in texts
