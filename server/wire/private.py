"""What the API answers is its rider's: no cache on the way keeps it."""

from __future__ import annotations

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse


class Private:
    """Says so on every answer of the API that says nothing else of it."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        response = self.get_response(request)
        if request.path.startswith("/api/"):
            response.headers.setdefault("Cache-Control", "private, no-store")
        return response
