"""Whether the server lives, and whether it can work; asked by whoever watches it."""

from __future__ import annotations

from django.db import connection
from django.db.utils import DatabaseError
from django.http import HttpRequest, HttpResponse, JsonResponse


def alive(request: HttpRequest) -> HttpResponse:
    """This process answers."""
    return JsonResponse({"alive": True})


def ready(request: HttpRequest) -> HttpResponse:
    """The database answers too; 503 when it does not."""
    try:
        with connection.cursor() as cursor:
            cursor.execute("SELECT 1")
    except DatabaseError:
        return JsonResponse({"ready": False, "waits_for": "database"}, status=503)
    return JsonResponse({"ready": True})
