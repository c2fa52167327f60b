"""A warning over HTTP."""

from __future__ import annotations

from server.wire.schema import Schema


class NoticeOut(Schema):
    """A warning: a code for programs, a sentence for people."""

    code: str
    message: str
