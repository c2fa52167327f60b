"""Over TLS every cookie is a secure one; over this machine's own loopback there is no TLS."""

from __future__ import annotations

from collections.abc import Callable

from django.conf import settings
from django.http import HttpRequest, HttpResponse


def is_at_home(request: HttpRequest) -> bool:
    """Whether a request is made on this machine, and not from the local network.

    The network is served over TLS alone, and loopback without it: a stated host name decides nothing.
    """
    return not (settings.LAN_ADDRESS and request.is_secure())


class SecureCookies:
    """Marks the cookies of an answer over TLS as secure."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        response = self.get_response(request)
        if request.is_secure():
            for cookie in response.cookies.values():
                cookie["secure"] = True
        return response
