"""Devices that signed in before: whoever guesses at an account from elsewhere does not lock them out."""

from __future__ import annotations

import secrets

from django.conf import settings
from django.core import signing
from django.http import HttpRequest, HttpResponse
from django.utils.crypto import salted_hmac

#: The cookie lasts as long as a device is used at least once a year, and knows so many accounts.
COOKIE, KEPT_S, MOST_NAMES = "limpet_device", 365 * 24 * 3600, 5
_SALT = "limpet.device"


def device_of(request: HttpRequest, folded: str) -> str | None:
    """The device, where it has signed in to an account before; else None."""
    device, names = _read(request)
    return device if _digest(folded) in names else None


def remember(request: HttpRequest, response: HttpResponse, folded: str) -> None:
    """Note that an account was signed in to here."""
    device, names = _read(request)
    mine = _digest(folded)
    kept = [mine, *(name for name in names if name != mine)][:MOST_NAMES]
    response.set_cookie(
        COOKIE + settings.COOKIE_SUFFIX,
        signing.dumps([device or secrets.token_urlsafe(12), *kept], salt=_SALT),
        max_age=KEPT_S,
        httponly=True,
        samesite="Lax",
        secure=request.is_secure(),
    )


def _read(request: HttpRequest) -> tuple[str | None, list[str]]:
    said = request.COOKIES.get(COOKIE + settings.COOKIE_SUFFIX, "")
    try:
        device, *names = signing.loads(said, salt=_SALT, max_age=KEPT_S)
    except (signing.BadSignature, ValueError):
        return None, []
    return device, names


def _digest(folded: str) -> str:
    """What stands for an account in the cookie: whoever reads it learns no name."""
    return salted_hmac(_SALT, folded, algorithm="sha256").hexdigest()[:16]
