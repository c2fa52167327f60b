"""Truncated, mutated and foreign files: accepted or refused, never anything else."""

import json
import zipfile
from io import BytesIO

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from limpet.errors import BundleError
from limpet.evidence.model import RangeTest
from limpet.files import bundle_files, read_files, write_zip
from limpet.files.archive import files_of_zip
from limpet.tell import analyse
from tests.core.files.test_gpx import gpx
from tests.strategies import PACK, minimal, range_test

SAMPLES = (
    b"time_s,voltage_v,current_a,speed_mps,distance_m,mood\n"
    b"0,54.1,1.5,0,0,fine\n1.5,53.9,8.25,3,2.5,\n3,53.8,-2,4,8,\n4.5,53.7,8,4,14,wet\n"
)
ENTRIES = (
    b"time_s,kind,trip_m,voltage_rest_v,note\n"
    b'0,start,0,54.1,"one, two"\n600,checkpoint,3000,,\n1200,end,6000,52.0,"last\nline"\n'
)
ROUTE = gpx(
    '<trk><trkseg><trkpt lat="47.5" lon="-24.5"><ele>4</ele><time>2026-05-14T09:12:00Z</time></trkpt>'
    '<trkpt lat="47.51" lon="-24.5"><time>2026-05-14T09:13:00Z</time></trkpt></trkseg></trk>'
)
SHEET = minimal(
    started_at="2026-05-14T09:12:00+00:00", rider={"mass_kg": 70}, conditions={"temp_start_c": 9}
)
WHOLE = {"test.json": SHEET, "samples.csv": SAMPLES, "entries.csv": ENTRIES, "route.gpx": ROUTE}


def accepted_or_refused(files):
    """Read a bundle; what is accepted can be analysed, what is refused says where and why."""
    try:
        test = read_files(files)
    except BundleError as error:
        faults = error.faults
    else:
        analyse(test)
        return test
    assert faults
    assert all(fault.file and fault.message for fault in faults)
    assert str(faults[0]).startswith(faults[0].file)
    return None


def test_the_bundle_itself_is_accepted():
    test = accepted_or_refused(WHOLE)
    assert isinstance(test, RangeTest)
    assert len(test.entries) == 3


@pytest.mark.parametrize("name", sorted(WHOLE))
def test_a_file_cut_off_anywhere_is_accepted_or_refused(name):
    for end in range(0, len(WHOLE[name]), 3):
        accepted_or_refused({**WHOLE, name: WHOLE[name][:end]})


@given(st.sampled_from(sorted(WHOLE)), st.data())
@settings(max_examples=120)
def test_a_file_with_some_bytes_replaced_is_accepted_or_refused(name, data):
    content = bytearray(WHOLE[name])
    for _ in range(data.draw(st.integers(1, 4))):
        at = data.draw(st.integers(0, len(content) - 1))
        content[at] = data.draw(
            st.sampled_from(list(b'0189.,;:"{}[]<>&-+eE\n\r\t \x00\xff\xc3naif'))
        )
    accepted_or_refused({**WHOLE, name: bytes(content)})


@given(st.dictionaries(st.sampled_from(sorted(WHOLE)), st.binary(max_size=60)))
@settings(max_examples=70)
def test_files_of_anything_are_accepted_or_refused(files):
    accepted_or_refused(files)


VALUES = st.recursive(
    st.none()
    | st.booleans()
    | st.integers()
    | st.floats(allow_nan=False, allow_infinity=False)
    | st.text(max_size=5),
    lambda inner: (
        st.lists(inner, max_size=3) | st.dictionaries(st.text(max_size=5), inner, max_size=3)
    ),
    max_leaves=6,
)


@given(
    st.sampled_from(
        [
            "vehicle",
            "pack",
            "rider",
            "conditions",
            "protocol",
            "instruments",
            "ending",
            "started_at",
        ]
    ),
    VALUES,
)
@settings(max_examples=90)
def test_a_sheet_with_anything_in_a_field_is_accepted_or_refused(name, value):
    accepted_or_refused({"test.json": minimal(**{name: value}), "entries.csv": ENTRIES})


@given(st.integers(0, 2**20), st.integers(0, 255))
@settings(max_examples=70)
def test_a_damaged_zip_is_accepted_or_refused(at, byte):
    data = bytearray(write_zip(range_test(pack=PACK)))
    data[at % len(data)] = byte
    try:
        files = files_of_zip(bytes(data))
    except BundleError:
        return
    accepted_or_refused(files)


def test_a_zip_cut_off_anywhere_is_refused():
    data = write_zip(read_files(WHOLE))
    for end in range(0, len(data) - 1, 37):
        with pytest.raises(BundleError):
            files_of_zip(data[:end])


def test_an_empty_zip_and_one_of_strangers_are_refused():
    for members in ({}, {"photo.png": b"x", "readme.txt": b"y"}):
        buffer = BytesIO()
        with zipfile.ZipFile(buffer, "w") as archive:
            for name, content in members.items():
                archive.writestr(name, content)
        assert accepted_or_refused(files_of_zip(buffer.getvalue())) is None


def test_what_was_accepted_is_written_so_that_it_is_accepted_again():
    test = read_files(WHOLE)
    files = bundle_files(test)
    assert json.loads(files["test.json"])["started_at"] == "2026-05-14T09:12:00+00:00"
    assert accepted_or_refused(files).entries == test.entries
