"""Whether there is room on the disk: told before it is full, and as that when it is."""

from __future__ import annotations

import shutil
from typing import Final

from django.conf import settings

from server.wire.problems import NoRoomError

#: MariaDB's own words for it: disk full, table full; and the system's, which it passes on.
_FULL_CODES: Final = frozenset({1021, 1114})
_FULL_WORDS: Final = ("No space left on device", "Errcode: 28", "error 28 ")


def check_disk() -> None:
    """See that the database has room to write.

    Raises
    ------
    NoRoomError
    """
    folder = settings.DATABASE_FOLDER
    if folder and shutil.disk_usage(folder).free < settings.LEAST_FREE_BYTES:
        raise NoRoomError


def is_full(error: Exception) -> bool:
    """Whether a failure of the database is that its disk is full."""
    code = error.args[0] if error.args else None
    return code in _FULL_CODES or any(words in str(error) for words in _FULL_WORDS)
