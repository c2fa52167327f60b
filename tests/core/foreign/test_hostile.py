"""What no logger wrote: broken, odd and hostile files end in one sentence, and in no time."""

import gzip
import io
import zipfile

import numpy as np
import polars as pl
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from limpet.errors import BundleError, LimpetError
from limpet.foreign.dropped import opened
from limpet.foreign.guess import look_at
from limpet.foreign.kinds import told
from limpet.foreign.mapping_file import read_mapping, write_mapping
from limpet.foreign.raw import read_raw
from limpet.foreign.records import looks_like_records, record_columns, records_of
from limpet.foreign.rests import rides_of
from limpet.foreign.stranger import sheet_for
from limpet.foreign.taken import taken
from limpet.foreign.tracks import read_track
from limpet.foreign.workbook import sheets_of
from tests.core.foreign.strangers import SHAPES, ride
from tests.core.foreign.test_tracks import MADE

LOGS = [shape.data()[:4000] for shape in SHAPES]


def all_of(name, data):
    """Everything that is done with a dropped file until it would be stored."""
    for part in opened({name: data}):
        if part.fault is not None or part.told.what not in ("table", "track"):
            continue
        if part.told.what == "track":
            read_track(part.name, part.data, part.told.form)
            continue
        raw = read_raw(part.name, part.data, sample=True)
        if looks_like_records(raw):
            records_of(raw, record_columns(raw), sheet_for("x"))
        look = look_at(raw)
        taken(read_raw(part.name, part.data), look.mapping("x", raw))


def said(error):
    """A refusal says something."""
    assert str(error)


@settings(max_examples=60, deadline=None)
@given(st.sampled_from(LOGS), st.data())
def test_a_log_with_any_bytes_changed_is_read_or_refused(log, data):
    broken = bytearray(log)
    for _ in range(data.draw(st.integers(1, 12))):
        broken[data.draw(st.integers(0, len(broken) - 1))] = data.draw(st.integers(0, 255))
    cut = data.draw(st.integers(len(broken) // 2, len(broken)))
    try:
        all_of("log.csv", bytes(broken[:cut]))
    except LimpetError as error:
        said(error)


@settings(max_examples=40, deadline=None)
@given(st.sampled_from(sorted(MADE.items())), st.data())
def test_a_track_with_any_bytes_changed_is_read_or_refused(track, data):
    form, good = track
    broken = bytearray(good)
    for _ in range(data.draw(st.integers(1, 8))):
        broken[data.draw(st.integers(0, len(broken) - 1))] = data.draw(st.integers(0, 255))
    try:
        read_track(f"way.{form}", bytes(broken), form)
    except LimpetError as error:
        said(error)


@settings(max_examples=60, deadline=None)
@given(
    st.binary(max_size=2000), st.sampled_from(["a.csv", "a.gpx", "a.zip", "a.xlsx", "a.fit", "a"])
)
def test_any_bytes_at_all_are_told_for_something(data, name):
    told(name, data)
    try:
        all_of(name, data)
    except LimpetError as error:
        said(error)


CELLS = st.one_of(
    st.floats(-1e6, 1e6),
    st.sampled_from(["", "n/a", "=1+1", "-", "1e400", "12:00", "2026-05-14", "'x", "\u2212 5"]),
)


@settings(max_examples=60, deadline=None)
@given(
    st.lists(st.lists(CELLS, min_size=3, max_size=3), min_size=2, max_size=30),
    st.sampled_from(",;\t"),
)
def test_any_table_is_read_or_refused(rows, mark):
    text = mark.join(("Time (s)", "Voltage (V)", "Current (A)")) + "\n"
    text += "\n".join(mark.join(str(cell) for cell in row) for row in rows)
    try:
        all_of("log.csv", text.encode())
    except LimpetError as error:
        said(error)


def test_bombs_and_too_much_of_anything_are_refused_before_they_are_unpacked():
    bomb = gzip.compress(b"1,2,3\n" * 40_000_000)
    with pytest.raises(BundleError, match="far more"):
        opened({"a.csv.gz": bomb})
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("a.csv", b"0" * 300_000_000)
    with pytest.raises(BundleError, match="far more"):
        opened({"a.zip": buffer.getvalue()})
    wide = ",".join(f"c{k}" for k in range(900)) + "\n" + ",".join("1" for _ in range(900)) + "\n"
    with pytest.raises(BundleError, match="900 columns"):
        read_raw("a.csv", wide.encode() * 3)


def book(sheet, extra=()):
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("xl/workbook.xml", "<workbook/>")
        archive.writestr("xl/worksheets/sheet1.xml", sheet)
        for name in extra:
            archive.writestr(name, "x")
    return buffer.getvalue()


@pytest.mark.parametrize(
    ("data", "said"),
    [
        (book('<worksheet><sheetData><row r="1048576"><c r="XFD1048576"><v>1</v></c></row></sheetData></worksheet>'), "columns"),
        (book('<!DOCTYPE a [<!ENTITY b "c">]><worksheet/>'), "entities"),
        (book("<worksheet/>", ["xl/externalLinks/externalLink1.xml"]), "other files"),
        (book("<worksheet/>", ["xl/vbaProject.bin"]), "runs a program"),
        (book("<worksheet>" + " " * 3_000_000 + "</worksheet>"), "far more"),
        (book("<worksheet/>"), "cannot be read"),
    ],
)  # fmt: skip
def test_a_workbook_with_a_trick_is_refused(data, said):
    with pytest.raises(BundleError, match=said):
        sheets_of("a.xlsx", data, "xlsx")


def test_a_workbook_and_an_open_one_give_the_same_log(tmp_path):
    import xlsxwriter

    truth = ride(300)
    names = ("time_s", "voltage_v", "current_a", "speed_mps")
    heads = ("Time (s)", "Voltage (V)", "Current (A)", "Speed (m/s)")
    table = np.round(np.column_stack([truth[name] for name in names]), 3)
    path = tmp_path / "a.xlsx"
    with xlsxwriter.Workbook(path) as made:
        sheet = made.add_worksheet()
        sheet.write_row(0, 0, heads)
        for row, values in enumerate(table, start=1):
            sheet.write_row(row, 0, [float(value) for value in values])
    rows = [heads, *[[str(float(value)) for value in values] for values in table]]

    def cell(text, is_text):
        kind = 'value-type="string"' if is_text else f'value-type="float" office:value="{text}"'
        return f"<table:table-cell office:{kind}><text:p>{text}</text:p></table:table-cell>"

    cells = "".join(
        f"<table:table-row>{''.join(cell(each, at == 0) for each in row)}</table:table-row>"
        for at, row in enumerate(rows)
    )
    urn = "urn:oasis:names:tc:opendocument:xmlns"
    content = (
        f'<?xml version="1.0"?><office:document-content xmlns:office="{urn}:office:1.0" xmlns:table="{urn}:table:1.0" xmlns:text="{urn}:text:1.0">'
        f'<office:body><office:spreadsheet><table:table table:name="One">{cells}</table:table></office:spreadsheet></office:body></office:document-content>'
    )
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w") as archive:
        archive.writestr("mimetype", "application/vnd.oasis.opendocument.spreadsheet")
        archive.writestr("content.xml", content)
        manifest = f'<manifest:manifest xmlns:manifest="{urn}:manifest:1.0"/>'
        archive.writestr("META-INF/manifest.xml", manifest)
    for name, data in (("a.xlsx", path.read_bytes()), ("a.ods", buffer.getvalue())):
        [part] = opened({name: data})
        assert part.fault is None, part.fault
        raw = read_raw(part.name, part.data)
        got = taken(raw, look_at(raw).mapping("x", raw)).samples
        for at, column in enumerate(names):
            assert got[column].to_numpy() == pytest.approx(table[:, at], abs=1e-9)


def test_a_mapping_goes_out_and_comes_back_and_an_odd_one_is_refused():
    raw = read_raw("a.csv", SHAPES[2].data())
    mapping = look_at(raw).mapping("Meter", raw)
    assert read_mapping("m.json", write_mapping(mapping)) == mapping
    twice = write_mapping(mapping).replace(b'"current_a"', b'"voltage_v"')
    with pytest.raises(BundleError, match="a second time"):
        read_mapping("m.json", twice)
    with pytest.raises(BundleError, match="no unit of voltage_v"):
        read_mapping("m.json", write_mapping(mapping).replace(b'"unit": "V"', b'"unit": "km"'))


def test_a_log_of_two_rides_is_parted_at_its_long_rest():
    truth = ride(600)
    still = np.zeros(2400)
    speed = np.concatenate([truth["speed_mps"], still, truth["speed_mps"]])
    frame = pl.DataFrame({"time_s": np.arange(len(speed), dtype=float), "speed_mps": speed})
    one, two = rides_of(frame)
    assert one.from_s == 0
    assert 600 < one.to_s == two.from_s < 3000
    assert len(rides_of(frame.filter((pl.col("time_s") < 600) | (pl.col("time_s") > 2990)))) == 2
    assert len(rides_of(frame.head(600))) == 1
