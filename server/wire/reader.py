"""In whose units the answer to the request in hand is worded."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar

from limpet.readers import METRIC, ReaderUnits

_asked: ContextVar[Callable[[], ReaderUnits] | None] = ContextVar("reader_units", default=None)


@contextmanager
def read_in(units: Callable[[], ReaderUnits]) -> Iterator[None]:
    """For the time of a request: how to find the units of who asks, looked up once if at all."""
    found: list[ReaderUnits] = []

    def once() -> ReaderUnits:
        if not found:
            found.append(units())
        return found[0]

    token = _asked.set(once)
    try:
        yield
    finally:
        _asked.reset(token)


def reader_units() -> ReaderUnits:
    """The units of who asks; metric where nobody does."""
    asked = _asked.get()
    return METRIC if asked is None else asked()
