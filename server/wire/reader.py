"""In whose units the answer to the request in hand is worded."""

from __future__ import annotations

from collections.abc import Callable
from contextvars import ContextVar

from limpet.notices import METRIC, ReaderUnits

_asked: ContextVar[Callable[[], ReaderUnits] | None] = ContextVar("reader_units", default=None)


def read_in(units: Callable[[], ReaderUnits]) -> None:
    """Say, at the start of a request, how to find the units of who asks; nobody asks in vain."""
    found: list[ReaderUnits] = []

    def once() -> ReaderUnits:
        if not found:
            found.append(units())
        return found[0]

    _asked.set(once)


def reader_units() -> ReaderUnits:
    """The units of who asks; metric where nobody does."""
    asked = _asked.get()
    return METRIC if asked is None else asked()
