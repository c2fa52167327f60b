"""Pictures of a display in a bundle: JPEG files in `photos/`, without place, device or thumbnail.

A JPEG file is a row of segments, each a marker and, but for a few, its length (ITU-T T.81, annex B). One
that holds nothing but what its picture is made of passes as it is, byte for byte, so that what goes out
comes back. Every other is decoded and encoded anew by Pillow: what a camera says beside the picture lies
in a dozen places (Exif, comments, thumbnails, further pictures behind the end), and nothing is carried over.
"""

from __future__ import annotations

import re
from io import BytesIO
from typing import Final

#: What one picture may hold, and how many a test may have.
MOST_PHOTO_BYTES, MOST_PHOTOS = 2 * 2**20, 200
#: What one picture may measure: decoded, it takes three bytes a pixel.
MOST_PIXELS: Final = 40_000_000
#: Scans of a progressive picture; encoders make some ten, and each takes a pass over all pixels.
MOST_SCANS: Final = 40
_NAME: Final = re.compile(r"photos/[\w. -]{1,80}\.jpe?g", re.IGNORECASE | re.ASCII)
_START, _SCAN, _END = 0xD8, 0xDA, 0xD9
#: Markers of frames (SOF0 to SOF15 less DHT, JPG and DAC), and all that a plain picture is made of.
_FRAMES: Final = frozenset({*range(0xC0, 0xD0)} - {0xC4, 0xC8, 0xCC})
_TABLES: Final = frozenset({0xC4, 0xDB, 0xDD})
#: JFIF without a thumbnail, and how the colours are coded (Adobe): both of one length.
_JFIF, _JFIF_BYTES, _ADOBE, _ADOBE_BYTES = 0xE0, 16, 0xEE, 14
#: Tried one after the other until the picture is small enough.
_QUALITIES: Final = (88, 75, 55)


def is_photo(name: str) -> bool:
    """Whether a file of a bundle is called as a picture is."""
    return _NAME.fullmatch(name) is not None


def plain_jpeg(data: bytes) -> bytes:
    """A JPEG picture without what its camera said of place, time and device, turned as it was held.

    Parameters
    ----------
    data : the file

    Raises
    ------
    ValueError
        Saying what is wrong: no JPEG, broken off, or too large.
    """
    if len(data) > MOST_PHOTO_BYTES:
        raise ValueError(f"is over {MOST_PHOTO_BYTES >> 20} MiB; scale it down")
    if data[:2] != bytes((0xFF, _START)):
        raise ValueError("is no JPEG picture; save it as one")
    if data.count(bytes((0xFF, _SCAN))) > MOST_SCANS:
        raise ValueError(f"is coded in over {MOST_SCANS} passes; save it anew")
    # Only pictures need it, and it takes a while to load.
    from PIL import Image, ImageOps

    try:
        picture = Image.open(BytesIO(data), formats=("JPEG",))
    except Image.DecompressionBombError as cause:
        raise ValueError("says that it has more pixels than any camera; save it anew") from cause
    except Exception as cause:  # whatever bytes do to the decoder, they are no picture
        raise ValueError("is no JPEG picture that can be read; save it anew") from cause
    with picture:
        width, height = picture.size
        if width * height > MOST_PIXELS:
            raise ValueError(
                f"has {width:,} × {height:,} pixels, over {MOST_PIXELS // 10**6} million; scale it down"
            )
        try:
            if _is_plain(data):
                # Looked at small: whether there is a whole picture in it.
                picture.draft("L", (max(width // 8, 1), max(height // 8, 1)))
                picture.load()
                return data
            turned = ImageOps.exif_transpose(picture)
            turned = turned if turned.mode == "L" else turned.convert("RGB")
        except Exception as cause:
            raise ValueError("is broken off; take it again") from cause
    # A new picture of these pixels: `info` and all that was read beside them stays behind.
    bare = Image.frombytes(turned.mode, turned.size, turned.tobytes())
    for quality in _QUALITIES:
        out = BytesIO()
        bare.save(out, "JPEG", quality=quality)
        if out.tell() <= MOST_PHOTO_BYTES:
            return out.getvalue()
    raise ValueError(f"is over {MOST_PHOTO_BYTES >> 20} MiB; scale it down")


def _is_plain(data: bytes) -> bool:
    """Whether a file holds nothing beside its picture, from its first byte to its last."""
    at, framed = 2, False
    while at + 4 <= len(data) and data[at] == 0xFF:
        marker = data[at + 1]
        length = int.from_bytes(data[at + 2 : at + 4], "big")
        known = (
            marker in _TABLES
            or (marker in _FRAMES and not framed)
            or (marker == _SCAN and framed)
            or (marker == _JFIF and at == 2 and length == _JFIF_BYTES)
            or (marker == _ADOBE and not framed and length == _ADOBE_BYTES)
        )
        if not known:
            return False
        framed = framed or marker in _FRAMES
        at += 2 + length
        if marker == _SCAN:
            at = _after_scan(data, at)
            if data[at:] == bytes((0xFF, _END)):
                return True
    return False


def _after_scan(data: bytes, at: int) -> int:
    """Where the coded pixels of a scan end: at the first marker that is no restart."""
    while (at := data.find(b"\xff", at)) >= 0 and at + 1 < len(data):
        if data[at + 1] != 0 and not 0xD0 <= data[at + 1] <= 0xD7:
            return at
        at += 2
    return len(data)
