"""A change is stored whole or not at all: what is refused was rolled back before it is answered."""

from __future__ import annotations

from collections.abc import Callable

from django.db import transaction
from django.db.utils import DatabaseError
from django.http import HttpRequest, HttpResponse

from server.wire.problems import unavailable

Answer = Callable[[HttpRequest], HttpResponse]

_READING = frozenset({"GET", "HEAD", "OPTIONS"})
#: Signing in writes down what it refuses: the count of wrong tries must not be rolled back.
_KEEPS_ITS_OWN = ("/api/session", "/api/accounts", "/api/password")


#: Set on a request whose refusal is itself something to keep.
KEEPS = "keeps_what_it_refused"


class WholeOrNothing:
    """One transaction around every change that the API is asked for."""

    def __init__(self, get_response: Answer) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if not request.path.startswith("/api/"):
            return self.get_response(request)
        try:
            if request.method in _READING or request.path.startswith(_KEEPS_ITS_OWN):
                return self.get_response(request)
            with transaction.atomic():
                response = self.get_response(request)
                if response.status_code >= 400 and not getattr(request, KEEPS, False):
                    transaction.set_rollback(True)
            return response
        except DatabaseError:
            # The commit itself did not come through: nothing of it is on disk.
            return unavailable()
