"""What a spreadsheet would run is made harmless on the way out, and is itself again on the way in."""

from __future__ import annotations

import csv
import io
from dataclasses import replace

import polars as pl
import pytest
from hypothesis import given
from hypothesis import strategies as st

from limpet.evidence.model import Entry
from limpet.files.read import read_files
from limpet.files.shielded import shielded, shielded_frame, unshielded, unshielded_frame
from limpet.files.write import bundle_files
from tests.strategies import range_test

#: As a spreadsheet begins a formula (OWASP, from memory).
FORMULAS = [
    '=HYPERLINK("http://bank.example")',
    "+1+cmd|' /C calc'!A0",
    "-2+3",
    "@SUM(A1)",
    "\tx",
    "\r=1",
]
HARMLESS = ["-12", "+1.5", "-0,25", "1e-5", "a=b", "", "'", "it's =1", "−5"]


@pytest.mark.parametrize("text", FORMULAS)
def test_a_formula_goes_out_as_text(text):
    assert shielded(text) == f"'{text}"
    assert unshielded(shielded(text)) == text
    # One that was shielded before, by us or by whoever wrote it, keeps its own quote.
    assert unshielded(shielded(f"'{text}")) == f"'{text}"


@pytest.mark.parametrize("text", HARMLESS)
def test_what_runs_nothing_stays_as_it_is(text):
    assert shielded(text) == text == unshielded(text)


@given(st.text(alphabet="=+-@'\t\r1a,. ", max_size=8))
def test_any_text_comes_back_the_same(text):
    assert unshielded(shielded(text)) == text
    frame = pl.DataFrame({"note": [text, None], "time_s": [0.0, 1.0]})
    out = shielded_frame(frame)
    assert out["note"][0] == shielded(text)
    assert unshielded_frame(out).equals(frame)


def test_a_bundle_carries_no_formula_and_loses_none():
    test = range_test(
        Entry(time_s=0.0, kind="start", trip_m=0.0, note=FORMULAS[0], place="@home"),
        Entry(time_s=600.0, kind="end", trip_m=2500.0, extra={"=own": "+1+1", "wind": "-3"}),
    )
    test = replace(
        test,
        samples=pl.DataFrame(
            {"time_s": [0.0, 1.0], "speed_mps": [5.0, 5.0], "remark": ["=1+1", "-7"]}
        ),
    )
    files = bundle_files(test)
    for name in ("entries.csv", "samples.csv"):
        for row in csv.reader(io.StringIO(files[name].decode(), newline="")):
            for cell in row:
                assert not cell.startswith(("=", "+", "@", "\t", "\r")), cell
    back = read_files(files)
    assert back.entries == test.entries
    assert back.samples is not None
    assert back.samples["remark"].to_list() == ["=1+1", "-7"]
