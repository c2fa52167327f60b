"""What a bundle may contain all the same: accepted, and warned about where the format says so."""

import polars as pl
import pytest

from limpet.files import read_files
from limpet.files.archive import files_of_zip
from tests.core.files.test_refusals import ENTRIES, SAMPLES, zip_of
from tests.strategies import minimal


def read(samples=None, entries=None, **changes):
    files = {"test.json": minimal(**changes)}
    if samples is not None:
        files["samples.csv"] = samples
    if entries is not None:
        files["entries.csv"] = entries
    return read_files(files)


def codes(test):
    return [notice.code for notice in test.notices]


def test_a_byte_order_mark_and_crlf_are_accepted_in_silence():
    test = read(samples=b"\xef\xbb\xbf" + SAMPLES.replace(b"\n", b"\r\n"))
    assert test.samples["voltage_v"].to_list() == [54.0, 53.9, 53.8]
    assert codes(test) == []


def test_quoted_newlines_and_formula_looking_notes_are_kept_as_they_are():
    table = b'time_s,kind,note\n0,start,"two\nlines, one comma"\n9,end,=SUM(A1)\n'
    assert [entry.note for entry in read(entries=table).entries] == [
        "two\nlines, one comma",
        "=SUM(A1)",
    ]


@pytest.mark.parametrize(
    "table",
    [b"time_s;voltage_v\n0;54,5\n1,5;54,25\n", b"time_s;voltage_v\n0;54.5\n1.5;54.25\n"],
)
def test_semicolons_are_read_with_a_warning(table):
    test = read(samples=table)
    assert test.samples["voltage_v"].to_list() == [54.5, 54.25]
    assert test.samples["time_s"].to_list() == [0.0, 1.5]
    assert codes(test) == ["semicolons"]


@pytest.mark.parametrize("quoted", [False, True])  # the fast reader and the careful one
def test_what_is_odd_is_counted(quoted):
    table = b"time_s,voltage_v,mood\n0,54,fine\n1,nan,\n1,nan,\n2,,x\n3,5"
    if quoted:
        table = table.replace(b"fine", b'"fine"')
    test = read(samples=table)
    messages = " ".join(notice.message for notice in test.notices)
    assert test.samples["voltage_v"].to_list() == [54.0, None, None]
    assert test.samples["mood"].to_list()[0] == "fine"
    assert "2 NaN cells taken as not known" in messages
    assert "1 exact duplicate row left out" in messages
    assert "the last line broke off and was left out" in messages
    assert "saved but not used: mood" in messages


def test_empty_cells_are_counted():
    test = read(samples=b"time_s,voltage_v\n0,54\n1,\n2,53\n")
    assert "1 empty cell taken as not known" in test.notices[0].message


def test_a_last_number_that_broke_off_is_left_out():
    test = read(samples=b"time_s,voltage_v\n0,54\n1,53\n2,-")
    assert test.samples.height == 2
    assert codes(test) == ["broken_last_line"]


def test_current_logged_the_other_way_is_turned_round():
    test = read(samples=b"time_s,voltage_v,current_a\n0,54,-5\n1,54,-6\n2,54,1\n")
    assert test.samples["current_a"].to_list() == [5.0, 6.0, -1.0]
    assert codes(test) == ["current_flipped"]


def test_regeneration_alone_does_not_turn_the_current_round():
    test = read(samples=b"time_s,current_a\n0,5\n1,5\n2,-5\n")
    assert test.samples["current_a"].to_list() == [5.0, 5.0, -5.0]


def test_unknown_fields_of_the_sheet_are_kept_and_listed():
    pack = {"chemistry": "nmc", "series": 13, "rated_ah": 14, "maker.name": "none"}
    test = read(samples=SAMPLES, pack=pack, mood={"a": [1]})
    assert test.extra == {"mood": {"a": [1]}, "pack": {"maker.name": "none"}}
    assert "mood, pack.maker.name" in test.notices[0].message


def test_an_entry_without_a_kind_is_a_checkpoint():
    test = read(entries=b"time_s,kind\n0,start\n5,\n")
    assert [entry.kind for entry in test.entries] == ["start", "checkpoint"]
    assert codes(test) == ["kind_missing"]


def test_two_entries_at_one_moment_are_accepted():
    assert len(read(entries=b"time_s,kind\n0,start\n5,lap\n5,stop\n").entries) == 3


def test_a_zip_may_hold_its_files_in_one_folder():
    files = files_of_zip(zip_of([("ride/test.json", minimal()), ("ride/entries.csv", ENTRIES)]))
    assert read_files(files).sheet.title == "Quay loop"


def test_other_files_are_left_aside_and_listed():
    test = read_files({"test.json": minimal(), "entries.csv": ENTRIES, "photo.png": b""})
    assert "photo.png" in test.notices[0].message


def test_ten_thousand_plain_rows_read_as_polars_reads_them():
    # The fast path against polars' own reader: the same table, cell for cell.
    table = pl.DataFrame(
        {"time_s": range(10_000), "voltage_v": [54 - k / 999 for k in range(10_000)]}
    )
    text = table.write_csv().encode()
    assert read(samples=text).samples.equals(
        pl.read_csv(text, schema_overrides={"time_s": pl.Float64})
    )
