"""Computes results that are due, in a thread beside the server or a process of its own.

Lists read what it left. A row is claimed before it is computed, so any number of workers may run.
"""

from __future__ import annotations

import logging
import threading
from uuid import UUID

from django.db import close_old_connections
from django.db.utils import DatabaseError

from server.logbook import streams
from server.results import services
from server.results.queries import claim, due
from server.results.signals import all_computed

logger = logging.getLogger(__name__)

#: Tests whose results are looked up at once.
AT_ONCE = 20
#: How often a look is taken when nobody has called [s].
EVERY_S = 15.0

_called = threading.Event()


def call() -> None:
    """Say that a result may be due."""
    _called.set()


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
            if claim(test.pk):
                services.compute(test)
                done += 1


def look_once() -> int:
    """Do all that is due now; says how many results were computed."""
    streams.compact_due()
    done = compute_due()
    all_computed.send(Worker)
    return done


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
        while not self._stopped.is_set():
            try:
                look_once()
            except DatabaseError as error:
                logger.warning("results wait for the database: %s", error)
            finally:
                close_old_connections()
            _called.wait(EVERY_S)
            _called.clear()
