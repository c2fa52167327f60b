"""Work in a process of its own: it gives its memory back when it ends, and its limits stop what would take too much."""

from __future__ import annotations

import multiprocessing
import os
import resource
import signal
from collections.abc import Callable
from multiprocessing.connection import Connection
from typing import Any, NamedTuple, TypeVar, cast

from limpet.errors import BundleError, Fault
from server.wire.problems import CancelledError
from server.wire.turns import BusyError

T = TypeVar("T")
#: Whether to go on, given the stage that was told last.
Watch = Callable[[str], bool]
#: What the process may take: memory beyond what its libraries reserve, and processor time [s].
MOST_MEMORY_BYTES = 6 * 2**30
MOST_CPU_S = 120
#: How often it is asked whether to go on [s].
WATCH_S = 0.1


class Stage(NamedTuple):
    """How far a process is."""

    name: str


_telling: Connection | None = None


def _limited() -> None:
    """Limits of the process that reads; beyond them it ends and the rest of Limpet goes on."""
    resource.setrlimit(resource.RLIMIT_DATA, (MOST_MEMORY_BYTES, MOST_MEMORY_BYTES))
    resource.setrlimit(resource.RLIMIT_CPU, (MOST_CPU_S, MOST_CPU_S))
    os.nice(5)


def apart(read: Callable[..., T], *arguments: Any, watch: Watch | None = None) -> T:
    """What a function of a module gives, computed in a process of its own that has limits.

    Parameters
    ----------
    read : the function, and its arguments: all of them are sent
    watch : called some times a second with the stage that was told last; where it says no, the process is
        ended and nothing of it is left

    Raises
    ------
    BundleError
        When it takes more memory or time than it may; else whatever the function raises.
    CancelledError
        When `watch` said no.
    """
    context = multiprocessing.get_context("spawn")
    here, there = context.Pipe(duplex=False)
    process = context.Process(target=_read_apart, args=(there, read, arguments), daemon=True)
    process.start()
    there.close()
    try:
        found = _received(here, process, watch)
    except EOFError:
        # It ended without a word; how, it says at once.
        process.join()
        if process.exitcode == -signal.SIGKILL:
            raise BusyError(
                "Reading this was stopped, perhaps because memory ran out; nothing was stored. "
                "Try again in a moment."
            ) from None
        if process.exitcode != -signal.SIGXCPU:
            raise RuntimeError(f"a reader ended with {process.exitcode}") from None
        found = MemoryError()
    finally:
        here.close()
        process.join()
    if isinstance(found, MemoryError):
        message = "takes more memory or time to read than any ride does; thin it out"
        raise BundleError([Fault("file", 0, 0, message)])
    if isinstance(found, Exception):
        raise found
    return cast(T, found)


def _received(here: Connection, process: Any, watch: Watch | None) -> Any:
    stage = ""
    while True:
        if watch is not None and not here.poll(WATCH_S):
            if not watch(stage):
                process.kill()
                raise CancelledError
            continue
        found = here.recv()
        if not isinstance(found, Stage):
            return found
        stage = found.name


def tell(stage: str) -> None:
    """Say from within a process apart how far it is."""
    if _telling is not None:
        _telling.send(Stage(stage))


def _read_apart(there: Connection, read: Any, arguments: tuple[Any, ...]) -> None:
    """What the process does: it reads, and sends what it found or what was wrong."""
    global _telling
    _limited()
    _telling = there
    try:
        found = read(*arguments)
    except Exception as error:  # raised again where it was asked for
        found = error
    there.send(found)
    there.close()
