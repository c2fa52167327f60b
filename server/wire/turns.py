"""Heavy work by turns: as many at once as there are processors, the others wait a while."""

from __future__ import annotations

import os
import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from functools import wraps
from typing import ParamSpec, TypeVar

from limpet.errors import LimpetError

P = ParamSpec("P")
R = TypeVar("R")

#: How long a request waits for its turn [s]; a forecast takes under two.
PATIENCE_S = 20.0

_seats = threading.BoundedSemaphore(max(os.cpu_count() or 1, 2))


class BusyError(LimpetError):
    """Everybody is computing; this one did not get its turn."""


@contextmanager
def turn(patience_s: float = PATIENCE_S) -> Iterator[None]:
    """A turn at heavy work.

    Raises
    ------
    BusyError
        When none came in time.
    """
    if not _seats.acquire(timeout=patience_s):
        raise BusyError("Limpet is busy with other computations just now. Try again in a moment.")
    try:
        yield
    finally:
        _seats.release()


def by_turns(work: Callable[P, R]) -> Callable[P, R]:
    """Do some work only when it is its turn."""

    @wraps(work)
    def waiting(*arguments: P.args, **named: P.kwargs) -> R:
        with turn():
            return work(*arguments, **named)

    return waiting
