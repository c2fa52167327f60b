"""Whether the server lives, and whether it can work; asked by whoever watches it."""

from __future__ import annotations

from ipaddress import ip_address
from typing import Any

from django.db import connection
from django.db.utils import DatabaseError
from django.http import Http404, HttpRequest, HttpResponse, JsonResponse
from django.utils import timezone

from server.kit.models import Vehicle
from server.logbook.models import Stream
from server.results.models import Looked, TestResult
from server.results.queries import due


def alive(request: HttpRequest) -> HttpResponse:
    """This process answers."""
    return JsonResponse({"alive": True})


def ready(request: HttpRequest) -> HttpResponse:
    """The database answers too; 503 when it does not. When results were last looked after is told beside it."""
    try:
        with connection.cursor() as cursor:
            cursor.execute("SELECT 1")
        results = _results()
    except DatabaseError:
        return JsonResponse({"ready": False, "waits_for": "database"}, status=503)
    return JsonResponse({"ready": True, "results": results})


def metrics(request: HttpRequest) -> HttpResponse:
    """Numbers for whoever watches the server, as lines of a name and a number; for this machine alone.

    Raises
    ------
    Http404
        For callers from elsewhere.
    """
    passed_on = "HTTP_X_FORWARDED_FOR" in request.META or "HTTP_FORWARDED" in request.META
    if passed_on or not ip_address(request.META.get("REMOTE_ADDR") or "0.0.0.0").is_loopback:
        raise Http404
    numbers = {
        "limpet_results_looked_seconds_ago": _results()["looked_s_ago"],
        "limpet_results_due": due().count(),
        "limpet_results_failed": TestResult.objects.filter(tries__gt=0).count(),
        "limpet_streams_failed": Stream.objects.filter(tries__gt=0).count(),
        "limpet_fits_failed": Vehicle.objects.filter(tries__gt=0).count(),
    }
    lines = (f"{name} {number}" for name, number in numbers.items() if number is not None)
    return HttpResponse("\n".join(lines) + "\n", content_type="text/plain; charset=utf-8")


def _results() -> dict[str, Any]:
    """When results were last looked after, and what went wrong then."""
    last = Looked.objects.first()
    if last is None:
        return {"looked_s_ago": None, "trouble": ""}
    ago_s = round((timezone.now() - last.looked_at).total_seconds(), 1)
    # Its words may name a row; they stand in the log and are for the administrator.
    return {"looked_s_ago": ago_s, "trouble": last.trouble.partition(":")[0]}
