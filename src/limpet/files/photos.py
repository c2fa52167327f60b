"""Pictures of a display in a bundle: JPEG files in `photos/`, without place, device or thumbnail.

A JPEG file is a row of segments, each a marker and, but for a few, its length (ITU-T T.81, annex B).
What a camera knows beside the picture lies in application segments (Exif in APP1) and comments; the
picture is whole without them.
"""

from __future__ import annotations

import re
from typing import Final

#: What one picture may hold, and how many a test may have.
MOST_PHOTO_BYTES, MOST_PHOTOS = 2 * 2**20, 200
_NAME: Final = re.compile(r"photos/[\w. -]{1,80}\.jpe?g", re.IGNORECASE | re.ASCII)
#: Markers that stand alone, and the application segments that say how the picture is coded.
_ALONE: Final = frozenset({0x01, *range(0xD0, 0xD8)})
_START, _SCAN, _END, _COMMENT = 0xD8, 0xDA, 0xD9, 0xFE
_OF_THE_PICTURE: Final = frozenset({0xE0, 0xEE})


def is_photo(name: str) -> bool:
    """Whether a file of a bundle is called as a picture is."""
    return _NAME.fullmatch(name) is not None


def plain_jpeg(data: bytes) -> bytes:
    """A JPEG picture without what its camera said of place, time and device.

    Raises
    ------
    ValueError
        Saying what is wrong: no JPEG, broken off, or too large.
    """
    if len(data) > MOST_PHOTO_BYTES:
        raise ValueError(f"is over {MOST_PHOTO_BYTES >> 20} MiB; scale it down")
    if data[:2] != bytes((0xFF, _START)):
        raise ValueError("is no JPEG picture; save it as one")
    kept, at = [data[:2]], 2
    while True:
        while data[at : at + 2] == b"\xff\xff":
            at += 1
        if at + 4 > len(data) or data[at] != 0xFF:
            raise ValueError("is broken off; take it again")
        marker = data[at + 1]
        if marker == _SCAN:
            # From here on it is the picture itself; what lies behind its end is no part of it.
            end = data.rfind(bytes((0xFF, _END)))
            if end < at:
                raise ValueError("is broken off; take it again")
            return b"".join([*kept, data[at : end + 2]])
        if marker in _ALONE:
            kept.append(data[at : at + 2])
            at += 2
            continue
        length = int.from_bytes(data[at + 2 : at + 4], "big")
        if length < 2 or at + 2 + length > len(data):
            raise ValueError("is broken off; take it again")
        aside = marker == _COMMENT or (0xE0 <= marker <= 0xEF and marker not in _OF_THE_PICTURE)
        if not aside:
            kept.append(data[at : at + 2 + length])
        at += 2 + length
