"""The one page; its scripts and styles are served by WhiteNoise from web/dist."""

from __future__ import annotations

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.views.decorators.csrf import ensure_csrf_cookie


@ensure_csrf_cookie
def page(request: HttpRequest) -> HttpResponse:
    index = settings.WEB_DIST / "index.html"
    if not index.is_file():
        text = "The page is not built yet. Run ./limpet start, which builds it."
        return HttpResponse(text, status=503, content_type="text/plain; charset=utf-8")
    response = HttpResponse(index.read_bytes(), content_type="text/html; charset=utf-8")
    response["Cache-Control"] = "no-cache"
    return response
