"""Computes results that are due, in a thread beside the server or a process of its own.

Lists read what it left. A row is claimed before it is computed, so any number of workers may run.
"""

from __future__ import annotations

import logging
import os
import threading
from contextlib import suppress
from uuid import UUID

from django.conf import settings
from django.db import close_old_connections
from django.db.utils import DatabaseError
from django.utils import timezone

from server.logbook import streams
from server.logbook.models import RangeTest
from server.results import services
from server.results.models import Looked
from server.results.queries import claim, due
from server.results.signals import all_computed

logger = logging.getLogger(__name__)

#: Tests whose results are looked up at once.
AT_ONCE = 20
#: How often a look is taken when nobody has called [s].
EVERY_S = 15.0
#: The shortest pause between two looks [s].
REST_S = 0.3
#: The longest pause after looks that failed one after the other [s]; a call ends it.
LONGEST_PAUSE_S = 240.0

_called = threading.Event()


def call() -> None:
    """Say that a result may be due, to this process's worker or to the one beside it."""
    _called.set()
    if settings.CALLS is not None:
        # A pipe that is full has called often enough; one that nobody reads is read by the next worker.
        with suppress(BlockingIOError, BrokenPipeError):
            os.write(settings.CALLS, b"1")


def hear(calls: int) -> None:
    """Be called by other processes through a pipe, in a thread of its own."""

    def listen() -> None:
        while os.read(calls, 4096):
            _called.set()

    threading.Thread(target=listen, name="calls", daemon=True).start()


def compute_due() -> int:
    """Compute every result that is due now; says how many."""
    done = 0
    tried: set[UUID] = set()
    while True:
        tests = list(due().exclude(pk__in=tried)[:AT_ONCE])
        if not tests:
            return done
        for test in tests:
            tried.add(test.pk)
            # Another server, or the page of this test, may have been quicker.
            if not claim(test.pk):
                continue
            # Read when it is claimed: the list is as old as the computations before this one.
            claimed = RangeTest.objects.filter(pk=test.pk).first()
            if claimed is not None:
                services.compute(claimed)
                done += 1


def look_once() -> int:
    """Do all that is due now; says how many results were computed."""
    streams.compact_due()
    done = compute_due()
    all_computed.send(Worker)
    _looked("")
    return done


def _looked(trouble: str) -> None:
    """Leave word that results were looked after, for whoever watches the server."""
    said = {"looked_at": timezone.now(), "trouble": trouble}
    Looked.objects.update_or_create(pk=1, defaults=said)


class Worker(threading.Thread):
    """Waits to be called, computes, and waits again, until it is stopped."""

    def __init__(self) -> None:
        super().__init__(name="results", daemon=True)
        self._stopped = threading.Event()

    def stop(self) -> None:
        """End after the test in hand."""
        self._stopped.set()
        _called.set()

    def run(self) -> None:
        """The thread's own loop."""
        pause_s = EVERY_S
        while not self._stopped.is_set():
            try:
                look_once()
                pause_s = EVERY_S
            except DatabaseError as error:
                logger.warning("results wait for the database: %s", error)
            except Exception as error:  # no row may end the work on all the others
                logger.exception("results could not be looked after")
                self._leave_word(error)
                pause_s = min(2 * pause_s, LONGEST_PAUSE_S)
            finally:
                close_old_connections()
            # Instruments call every second, each: they are looked after together.
            self._stopped.wait(REST_S)
            _called.wait(pause_s)
            _called.clear()

    def _leave_word(self, error: Exception) -> None:
        try:
            _looked(f"{type(error).__name__}: {error}"[:500])
        except DatabaseError as none:
            logger.warning("nor could that be kept: %s", none)
