"""Heavy work by turns. Who is riding has turns of their own; everything else waits for one of the machine's.

Each server process has a few turns for rides under way, given in the order of asking. All processes on one
machine share the turns for other work (forecasts, sizes, imports): each is a file that its holder locks, and the
kernel lets go of the lock when a process is killed.
"""

from __future__ import annotations

import fcntl
import os
import random
import threading
import time
from collections.abc import Callable, Iterator
from contextlib import ExitStack, contextmanager
from functools import wraps
from pathlib import Path
from typing import ParamSpec, TypeVar

from django.conf import settings

from limpet.errors import LimpetError

P = ParamSpec("P")
R = TypeVar("R")

#: How long a request waits for its turn [s]; a forecast takes under two.
PATIENCE_S = 20.0
#: How often it is looked whether one of the machine's turns is free [s]: others do not tell when they let go.
LOOK_S = 0.02

_cores = os.cpu_count() or 1
#: Of this process: what one interpreter can compute at once is little more than one.
_for_rides = threading.BoundedSemaphore(max(1, -(-_cores // settings.WORKERS)))
#: Of this process, for what instruments send: they send again, and a rider at the roadside waits.
_for_samples = threading.BoundedSemaphore(1)
#: So many requests of a process may be in line for a turn, and so many of instruments for theirs: an eighth of
#: its threads and more answer what needs none.
_in_line = threading.BoundedSemaphore(settings.THREADS * 3 // 8)
_samples_in_line = threading.BoundedSemaphore(settings.THREADS // 2)
#: Of the machine.
SEATS = max(_cores, 2)


#: An instrument lets rides go first for so long [s]. It sends again; a rider waits at the roadside.
GIVE_WAY_S = 2.0


class _UnderWay:
    """How many rides a process is answering, and a wait until there are none."""

    def __init__(self) -> None:
        self._changed = threading.Condition()
        self._count = 0

    @contextmanager
    def one_more(self) -> Iterator[None]:
        """Count one in until it is answered."""
        with self._changed:
            self._count += 1
        try:
            yield
        finally:
            with self._changed:
                self._count -= 1
                self._changed.notify_all()

    def give_way(self, patience_s: float) -> None:
        """Wait until no ride is being answered, or so long [s]."""
        with self._changed:
            self._changed.wait_for(lambda: self._count == 0, patience_s)


_under_way = _UnderWay()


class BusyError(LimpetError):
    """Everybody is computing; this one did not get its turn."""

    def __init__(self, text: str = "Limpet is busy just now. Try again in a moment.") -> None:
        super().__init__(text)


@contextmanager
def in_line() -> Iterator[None]:
    """Be in line for a turn, or have it.

    Raises
    ------
    BusyError
        At once, when the line is too long: who waited at its end would keep the others from storing an entry.
    """
    with _one_of(_in_line, 0):
        yield


@contextmanager
def ride_turn(patience_s: float = PATIENCE_S) -> Iterator[None]:
    """A turn at an answer for a ride under way, for who is in line.

    Raises
    ------
    BusyError
        When none came in time.
    """
    with _one_of(_for_rides, patience_s), _under_way.one_more():
        yield


@contextmanager
def sample_turn(patience_s: float = PATIENCE_S) -> Iterator[None]:
    """A turn at storing what an instrument sent, after the rides that are being answered.

    Raises
    ------
    BusyError
        When none came in time.
    """
    with _one_of(_samples_in_line, 0), _one_of(_for_samples, patience_s):
        _under_way.give_way(GIVE_WAY_S)
        yield


@contextmanager
def _one_of(seats: threading.Semaphore, patience_s: float) -> Iterator[None]:
    if not seats.acquire(timeout=max(patience_s, 0)):
        raise BusyError
    try:
        yield
    finally:
        seats.release()


@contextmanager
def turn(patience_s: float = PATIENCE_S) -> Iterator[None]:
    """A turn at other heavy work, of those that all processes of this machine share.

    Raises
    ------
    BusyError
        When none came in time.
    """
    until = time.monotonic() + patience_s
    with in_line(), ExitStack() as held:
        while not any(_sit_down(held, number) for number in range(SEATS)):
            if time.monotonic() >= until:
                raise BusyError
            time.sleep(LOOK_S * random.uniform(0.5, 1.5))
        yield


def _sit_down(held: ExitStack, number: int) -> bool:
    """Lock the file of a turn until `held` ends; False where somebody has it."""
    folder = Path(settings.TURNS_FOLDER)
    folder.mkdir(mode=0o700, parents=True, exist_ok=True)
    seat = (folder / f"{number}.lock").open("a")
    try:
        fcntl.flock(seat, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except BlockingIOError:
        seat.close()
        return False
    held.callback(seat.close)
    return True


def by_turns(work: Callable[P, R]) -> Callable[P, R]:
    """Do some work only when it is its turn."""

    @wraps(work)
    def waiting(*arguments: P.args, **named: P.kwargs) -> R:
        with turn():
            return work(*arguments, **named)

    return waiting
