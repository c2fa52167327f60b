"""Pictures in a bundle: without place and device, there and back without loss, hostile ones left aside."""

from __future__ import annotations

import contextlib
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from limpet.files import read_bundle, read_files, write_folder, write_zip
from limpet.files.archive import files_of_zip
from limpet.files.photos import MOST_PHOTO_BYTES, is_photo, plain_jpeg
from limpet.files.write import bundle_files
from tests.core.follow.test_follow import entry
from tests.strategies import range_test


def segment(marker: int, data: bytes) -> bytes:
    return bytes((0xFF, marker)) + (len(data) + 2).to_bytes(2, "big") + data


JFIF = segment(0xE0, b"JFIF\0\x01\x02\0\0\x01\0\x01\0\0")
EXIF = segment(0xE1, b"Exif\0\0II*\0GPSLatitude 57.2 Device 4711")
TABLES = segment(0xDB, bytes(65)) + segment(0xC0, bytes(15))
SCAN = segment(0xDA, bytes(10)) + b"\x12\x34\xff\x00\x56" + b"\xff\xd9"
#: As ITU-T T.81 (annex B) orders a file; the picture in it means nothing.
PLAIN = b"\xff\xd8" + JFIF + TABLES + SCAN
CAMERA = b"\xff\xd8" + JFIF + EXIF + segment(0xED, b"8BIM") + segment(0xFE, b"at the pier") + TABLES + SCAN  # fmt: skip


def test_what_a_camera_says_of_place_and_device_goes():
    assert plain_jpeg(CAMERA) == PLAIN
    assert plain_jpeg(CAMERA + b"a second picture or a secret") == PLAIN
    assert plain_jpeg(PLAIN) == PLAIN


@pytest.mark.parametrize(
    ("data", "said"),
    [
        (b"", "no JPEG"),
        (b"\x89PNG\r\n", "no JPEG"),
        (b"\xff\xd8", "broken off"),
        (CAMERA[:40], "broken off"),
        (PLAIN[:-2], "broken off"),
        (b"\xff\xd8\xff\xe0\x00\x01", "broken off"),
        (b"\xff\xd8" + bytes(MOST_PHOTO_BYTES), "over 2 MiB"),
    ],
)
def test_what_is_no_picture_is_said(data, said):
    with pytest.raises(ValueError, match=said):
        plain_jpeg(data)


@given(st.binary(max_size=300))
def test_no_bytes_break_the_reader(tail):
    for data in (tail, b"\xff\xd8" + tail, PLAIN[:20] + tail):
        with contextlib.suppress(ValueError):
            assert plain_jpeg(data)[:2] == b"\xff\xd8"


@pytest.mark.parametrize(
    ("name", "is_one"),
    [
        ("photos/display.jpg", True),
        ("photos/12 km.JPEG", True),
        ("display.jpg", False),
        ("photos/../test.json", False),
        ("photos/a/b.jpg", False),
        ("photos/x.png", False),
        ("photos/" + 90 * "x" + ".jpg", False),
    ],
)
def test_a_picture_lies_in_its_folder(name, is_one):
    assert is_photo(name) is is_one


def test_pictures_go_out_and_come_back_in_a_folder_and_a_zip(tmp_path):
    test = range_test(
        entry(0, "start", voltage_rest_v=54.0, photo="photos/one.jpg"),
        entry(900, trip_m=4000.0, photo="photos/two.jpg"),
    )
    test = replace(test, photos={"photos/one.jpg": PLAIN, "photos/two.jpg": PLAIN})
    write_folder(test, tmp_path / "ride")
    for back in (read_bundle(tmp_path / "ride"), read_files(files_of_zip(write_zip(test)))):
        assert back.photos == test.photos
        assert [item.photo for item in back.entries] == ["photos/one.jpg", "photos/two.jpg"]
        assert back.notices == ()


def test_a_picture_that_is_none_is_left_aside_and_named():
    files = {**bundle_files(range_test(entry(0, "start", trip_m=0.0)))}
    files["photos/bad.jpg"] = b"not a picture"
    found = read_files(files)
    assert found.photos == {}
    assert [notice.message for notice in found.notices] == [
        "The picture photos/bad.jpg is left aside: it is no JPEG picture; save it as one."
    ]
