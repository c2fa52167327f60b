"""Pictures in a bundle: without place and device, there and back without loss, hostile ones left aside."""

from __future__ import annotations

import contextlib
from dataclasses import replace
from io import BytesIO

import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

from limpet.files import read_bundle, read_files, write_folder, write_zip
from limpet.files.archive import files_of_zip
from limpet.files.photos import MOST_PHOTO_BYTES, MOST_SCANS, is_photo, plain_jpeg
from limpet.files.write import bundle_files
from tests.core.under_way.test_follow import entry
from tests.strategies import range_test


def segment(marker: int, data: bytes) -> bytes:
    return bytes((0xFF, marker)) + (len(data) + 2).to_bytes(2, "big") + data


def picture(width=24, height=16, **more) -> bytes:
    """A picture whose upper left quarter is dark, as Pillow writes it."""
    made = Image.new(more.pop("mode", "RGB"), (width, height), "white")
    made.paste(0, (0, 0, width // 2, height // 2))
    out = BytesIO()
    made.save(out, "JPEG", quality=90, **more)
    return out.getvalue()


def after(data: bytes, marker: int) -> int:
    """Behind the first segment of a kind."""
    at = data.index(bytes((0xFF, marker)))
    return at + 2 + int.from_bytes(data[at + 2 : at + 4], "big")


def camera(plain: bytes, **tags) -> bytes:
    """What a camera makes of a picture: turned, with its place, device and time beside it."""
    exif = Image.Exif()
    exif[0x0110] = "Device 4711"
    exif[0x0112] = tags.get("orientation", 1)
    exif.get_ifd(0x8825)[1] = "SECRET N 57.2"
    with Image.open(BytesIO(plain)) as opened:
        out = BytesIO()
        opened.save(out, "JPEG", quality=95, exif=exif, comment=b"SECRET pier")
        return out.getvalue()


PLAIN = picture()
#: Where a place was found kept: an added picture, a segment between the scans, a thumbnail (JFXX), a profile.
TWO_SCANS = picture(progressive=True)
SECRET = b"SECRET 57.2 N"
BETWEEN = TWO_SCANS.index(b"\xff\xda", TWO_SCANS.index(b"\xff\xda") + 2)
HIDDEN = {
    "exif": camera(PLAIN),
    "behind the end": PLAIN + camera(PLAIN),
    "a second picture whose end is the last": PLAIN + SECRET + b"\xff\xd9",
    "between the scans": TWO_SCANS[:BETWEEN] + segment(0xE1, b"Exif\0\0" + SECRET) + TWO_SCANS[BETWEEN:],
    "in a thumbnail": PLAIN[:2] + segment(0xE0, b"JFXX\0\x10" + SECRET) + PLAIN[2:],
    "in a longer first segment": PLAIN[:2] + segment(0xE0, b"JFIF\0\x01\x02\0\0\x01\0\x01\x02\x02" + SECRET) + PLAIN[20:],
    "in a comment": PLAIN[:2] + segment(0xFE, SECRET) + PLAIN[2:],
    "in a profile": picture(icc_profile=SECRET * 20),
    "between the end of the pixels and the end": PLAIN[:-2] + segment(0xED, SECRET) + PLAIN[-2:],
}  # fmt: skip


@pytest.mark.parametrize("where", HIDDEN)
def test_what_a_camera_says_of_place_and_device_goes(where):
    found = plain_jpeg(HIDDEN[where])
    assert b"SECRET" not in found
    assert b"4711" not in found
    with Image.open(BytesIO(found)) as kept:
        assert kept.size == (24, 16)
        assert not kept.getexif()
        assert kept.convert("L").getpixel((3, 3)) < 40
        assert kept.convert("L").getpixel((20, 12)) > 215
    assert plain_jpeg(found) == found, "what is plain stays as it is"


@pytest.mark.parametrize(
    "plain", [PLAIN, TWO_SCANS, picture(mode="L"), picture(restart_marker_blocks=1)]
)
def test_what_is_plain_passes_byte_for_byte(plain):
    assert plain_jpeg(plain) == plain


def test_a_picture_is_turned_as_it_was_held():
    """Orientation 6: the camera was turned to the right (Exif 2.32, table of Orientation, from memory)."""
    with Image.open(BytesIO(plain_jpeg(camera(PLAIN, orientation=6)))) as turned:
        assert turned.size == (16, 24)
        # What was the upper left is the upper right now.
        assert turned.convert("L").getpixel((12, 3)) < 40
        assert turned.convert("L").getpixel((3, 3)) > 215


def enlarged(data: bytes, width: int, height: int) -> bytes:
    """A picture that says to be of another size than it is."""
    at = data.index(b"\xff\xc0") + 5
    return data[:at] + height.to_bytes(2, "big") + width.to_bytes(2, "big") + data[at + 4 :]


FRAME = PLAIN.index(b"\xff\xc0")


@pytest.mark.parametrize(
    ("data", "said"),
    [
        (b"", "no JPEG"),
        (b"\x89PNG\r\n", "no JPEG"),
        (b"\xff\xd8", "no JPEG picture that can be read"),
        (HIDDEN["exif"][:40], "no JPEG picture that can be read|broken off"),
        (PLAIN[:-10], "broken off"),
        (PLAIN[:FRAME] + PLAIN[after(PLAIN, 0xC0) :], "no JPEG picture|broken off"),
        (b"\xff\xd8\xff\xe0\x00\x01", "no JPEG picture|broken off"),
        (b"\xff\xd8" + bytes(MOST_PHOTO_BYTES), "over 2 MiB"),
        (enlarged(PLAIN, 65535, 65535), "more pixels than any camera"),
        (enlarged(PLAIN, 8000, 5001), "8,000 × 5,001 pixels, over 40 million"),
        (PLAIN[:-2] + (MOST_SCANS + 1) * b"\xff\xda\0\x08\x01\x01\0\0\x3f\0" + PLAIN[-2:], "in over 40 passes"),
    ],
)  # fmt: skip
def test_what_is_no_picture_is_said(data, said):
    with pytest.raises(ValueError, match=said):
        plain_jpeg(data)


@given(st.integers(0, len(TWO_SCANS) - 1), st.binary(min_size=1, max_size=20))
def test_no_change_of_bytes_breaks_the_reader(at, by):
    for whole in (TWO_SCANS, HIDDEN["exif"]):
        with contextlib.suppress(ValueError):
            found = plain_jpeg(whole[:at] + by + whole[at + len(by) :])
            assert plain_jpeg(found) == found


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
        "The picture photos/bad.jpg was left out: it is no JPEG picture; save it as one."
    ]
