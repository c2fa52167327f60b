"""Signing a phone in by a code that the laptop shows: once, and for a few minutes."""

from __future__ import annotations

import secrets
from datetime import timedelta

from django.conf import settings
from django.contrib.auth import login
from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import QuerySet
from django.http import HttpRequest
from django.utils import timezone
from django.utils.crypto import salted_hmac

from limpet.errors import LimpetError
from server.accounts.models import PhoneCode
from server.accounts.services import BACKEND
from server.lan.authority import Certificates

#: What is not mistaken for something else when it is read aloud.
ALPHABET = "23456789ABCDEFGHJKMNPQRSTUVWXYZ"
LENGTH = 8
VALID = timedelta(minutes=10)


class WrongCodeError(LimpetError):
    """A code that was used, is too old, or was never given out."""


def new_code(owner: User) -> tuple[str, PhoneCode]:
    """A code for an account; the ones before it are void."""
    code = "".join(secrets.choice(ALPHABET) for _ in range(LENGTH))
    with transaction.atomic():
        PhoneCode.objects.filter(owner=owner).delete()
        kept = PhoneCode.objects.create(
            owner=owner, digest=_digest(code), valid_until=timezone.now() + VALID
        )
    return code, kept


def whose(code: str) -> User:
    """The account that a code signs in to; it is not used up.

    Raises
    ------
    WrongCodeError
    """
    return _kept(code, PhoneCode.objects.all()).owner


def enter_by_code(request: HttpRequest, code: str) -> None:
    """Sign in by a code, which is used up by it.

    Raises
    ------
    WrongCodeError
    """
    with transaction.atomic():
        kept = _kept(code, PhoneCode.objects.select_for_update())
        owner = kept.owner
        kept.delete()
    login(request, owner, backend=BACKEND)


def _kept(code: str, codes: QuerySet[PhoneCode]) -> PhoneCode:
    digest = _digest(code.strip().upper().replace("-", "").replace(" ", ""))
    valid = codes.filter(digest=digest, valid_until__gt=timezone.now(), owner__is_active=True)
    kept = valid.select_related("owner").first()
    if kept is None:
        raise WrongCodeError(
            "That code was used already, or is older than ten minutes. Show a new one on the laptop."
        )
    return kept


def _digest(code: str) -> str:
    return salted_hmac("limpet.phone", code, algorithm="sha256").hexdigest()


def way_in() -> tuple[str, str, str]:
    """Where a phone finds this Limpet, where it gets the certificate, and the certificate's fingerprint;
    empty where there is no such thing."""
    if settings.LAN_ADDRESS:
        folder = settings.LAN_FOLDER
        files = Certificates(folder / "authority.crt", folder / "server.crt", folder / "server.key")
        return settings.LAN_ORIGIN, settings.LAN_DOORSTEP, files.fingerprint
    return settings.PUBLIC_ORIGIN, "", ""
