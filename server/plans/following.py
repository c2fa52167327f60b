"""What was last told of a ride under way: asked again of the same evidence, it is told again.

Computed once and shared, by all processes: by phones that ask every minute, by the two requests of one page
(the table is made with the answer, for it costs a sixth of it), and by whoever waits for an answer that another
is at.
"""

from __future__ import annotations

import json
import pickle
import zlib
from collections.abc import Iterator
from contextlib import contextmanager
from hashlib import sha256
from typing import Any
from uuid import UUID

from django.db import connection

from server.plans.models import Followed
from server.wire.turns import PATIENCE_S, BusyError

#: Of the answers kept, those that are read are of this shape.
SHAPE = 1


def digest_of(*parts: Any) -> str:
    """A digest of all that an answer is made from; equal ones are of equal values."""
    return sha256(pickle.dumps((SHAPE, *parts))).hexdigest()


def kept_answer(test_id: UUID, digest: str, *, table: bool) -> dict[str, Any] | None:
    """What was told of this evidence, with the table or without; None where it was not told yet."""
    rows = Followed.objects.filter(test_id=test_id, digest=digest)
    row = (rows if table else rows.defer("table")).first()
    if row is None:
        return None
    answer: dict[str, Any] = json.loads(zlib.decompress(row.answer))
    made = json.loads(zlib.decompress(row.table)) if table and row.table else None
    return {**answer, "table": made}


def keep_answer(test_id: UUID, digest: str, answer: dict[str, Any]) -> None:
    """Keep what was told, in place of what was told before."""
    whole = {name: value for name, value in answer.items() if name != "table"}
    made = answer["table"]
    values = {"digest": digest, "answer": _packed(whole), "table": made and _packed(made)}
    Followed.objects.update_or_create(test_id=test_id, defaults=values)


def _packed(value: Any) -> bytes:
    # Quick rather than small: it is read again within a second, or never.
    return zlib.compress(json.dumps(value, separators=(",", ":"), default=str).encode(), 1)


@contextmanager
def one_at_a_time(test_id: UUID) -> Iterator[None]:
    """One answer of a ride after the other, whichever process is asked.

    Notes
    -----
    A named lock of the database: it goes with its connection, so a killed process holds none. Two nodes of a
    database that know nothing of each other's locks compute twice, and tell the same.

    Raises
    ------
    BusyError
        When the one before took too long.
    """
    name = f"limpet-follow-{test_id}"[:64]
    with connection.cursor() as cursor:
        cursor.execute("SELECT GET_LOCK(%s, %s)", (name, PATIENCE_S))
        if cursor.fetchone() != (1,):
            raise BusyError
    try:
        yield
    finally:
        with connection.cursor() as cursor:
            cursor.execute("SELECT RELEASE_LOCK(%s)", (name,))
