"""Bytes of a text file as UTF-8, whatever they were written in."""

from __future__ import annotations

import codecs
from typing import Final

#: Bytes that are looked at to tell an encoding.
_LOOKED_AT: Final = 64 * 1024
#: A text of two bytes a character has this share of zero bytes on one side at least.
_ZEROS: Final = 0.3


def as_utf8(data: bytes) -> tuple[bytes, str]:
    """A text as UTF-8 without a mark of its byte order, and the encoding that it had.

    Parameters
    ----------
    data : the file, or its beginning: a character that is cut off at the end does no harm

    Returns
    -------
    (text, "utf-8", "utf-16" or "latin-1"); Latin-1 is read with the additions of Windows-1252
    """
    if data.startswith(codecs.BOM_UTF8):
        return data[3:], "utf-8"
    wide = _wide(data)
    if wide is not None:
        text = data.decode(wide, errors="replace").lstrip("\ufeff")
        return text.encode("utf-8", errors="replace"), "utf-16"
    if data.isascii() or _is_utf8(data):
        return data, "utf-8"
    return data.decode("cp1252", errors="replace").encode("utf-8"), "latin-1"


def _wide(data: bytes) -> str | None:
    """The name of a two-byte encoding, by its mark or by where its zeros stand."""
    if data.startswith(codecs.BOM_UTF16_LE):
        return "utf-16-le"
    if data.startswith(codecs.BOM_UTF16_BE):
        return "utf-16-be"
    head = data[:_LOOKED_AT]
    pairs = max(len(head) // 2, 1)
    if head[1::2].count(0) > _ZEROS * pairs and head[::2].count(0) < 0.01 * pairs:
        return "utf-16-le"
    if head[::2].count(0) > _ZEROS * pairs and head[1::2].count(0) < 0.01 * pairs:
        return "utf-16-be"
    return None


def _is_utf8(data: bytes) -> bool:
    try:
        data.decode("utf-8")
    except UnicodeDecodeError as error:
        # Only the last character may be broken off.
        return error.start >= len(data) - 3 and error.reason == "unexpected end of data"
    return True
