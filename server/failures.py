"""What is answered when nothing else could answer: outside the API's own views."""

from __future__ import annotations

import sys

from django.db.utils import DatabaseError
from django.http import HttpRequest, HttpResponse

from server.wire.problems import problem_response, unavailable


def not_found(request: HttpRequest, exception: Exception | None = None) -> HttpResponse:
    """An address that there is nothing at."""
    return problem_response(404, "not_found", "There is nothing at this address.")


def server_error(request: HttpRequest) -> HttpResponse:
    """A failure of the page or of what stands around the API; Django has logged it."""
    if isinstance(sys.exc_info()[1], DatabaseError):
        return unavailable()
    return problem_response(
        500, "failed", "Something went wrong in Limpet. The server’s log says where."
    )
