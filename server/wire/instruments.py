"""What instruments send waits in a line of its own, before anything is done for it.

Fifty instruments send fifty times a second. Threads that read, sign in and check for all of them at once would each
take a share of the one interpreter that a process has, and who is riding would get the share of one.
"""

from __future__ import annotations

import re
from collections.abc import Callable

from django.core.exceptions import SuspiciousOperation
from django.http import HttpRequest, HttpResponse, UnreadablePostError

from server.wire.problems import problem_response
from server.wire.turns import BusyError, sample_turn

_BATCH = re.compile(r"/api/tests/[^/]+/streams/[^/]+/batches/")


class InstrumentsInLine:
    """Lets one batch of samples at a time into each process."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if _BATCH.match(request.path) is None:
            return self.get_response(request)
        try:
            # All of it: a batch that comes slowly must not have the turn meanwhile.
            _ = request.body
            with sample_turn():
                return self.get_response(request)
        except BusyError as error:
            return problem_response(503, "busy", str(error))
        except (UnreadablePostError, SuspiciousOperation):
            return problem_response(
                400, "bad_request", "The batch did not come whole. Send it again."
            )
