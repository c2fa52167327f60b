"""Where an account is signed in, and that it is told of a device that was not there before."""

from __future__ import annotations

import re
from datetime import timedelta
from typing import Any
from uuid import UUID

from django.contrib.auth.models import User
from django.contrib.sessions.models import Session
from django.db import transaction
from django.http import HttpRequest
from django.utils import timezone

from server.accounts.models import SignedIn

#: How often it is written down that a session was seen; and of how many sessions is kept.
SEEN_EVERY, MOST_SIGNED_IN = timedelta(minutes=10), 100
_PHONE = re.compile(r"Mobi|Android|iPhone|iPad", re.IGNORECASE)


def note(sender: Any, request: HttpRequest | None, user: User, **more: Any) -> None:
    """Somebody has signed in: a receiver of Django's signal."""
    if request is None or not hasattr(request, "session"):
        return
    if not request.session.session_key:
        request.session.save()
    agent = request.META.get("HTTP_USER_AGENT", "")
    known = SignedIn.objects.filter(owner=user)
    with transaction.atomic():
        row, _ = SignedIn.objects.update_or_create(
            session_key=request.session.session_key,
            defaults={
                "owner": user,
                "kind": SignedIn.Kind.PHONE if _PHONE.search(agent) else SignedIn.Kind.COMPUTER,
                # The first one of an account is nobody's surprise, and neither is one's own.
                "told": not known.exists() or known.filter(agent=agent[:200]).exists(),
                "agent": agent[:200],
            },
        )
        beyond = known.order_by("-seen_at").values_list("pk", flat=True)[MOST_SIGNED_IN:]
        SignedIn.objects.filter(pk__in=list(beyond)).exclude(pk=row.pk).delete()


def forget(sender: Any, request: HttpRequest, user: User | None, **more: Any) -> None:
    """Somebody signs out: a receiver of Django's signal, sent before the session ends."""
    SignedIn.objects.filter(session_key=request.session.session_key or "").delete()


def moved(before: str | None, request: HttpRequest) -> None:
    """The session has another key: with a new password it gets one."""
    SignedIn.objects.filter(session_key=before or "").update(
        session_key=request.session.session_key
    )


def seen(request: HttpRequest) -> None:
    """Note that a session is used, now and then. One that nobody noted yet is noted."""
    user, key = request.user, request.session.session_key
    if not isinstance(user, User) or not key:
        return
    row = SignedIn.objects.filter(session_key=key).first()
    if row is None:
        note(None, request, user)
    elif row.seen_at < timezone.now() - SEEN_EVERY:
        row.save(update_fields=["seen_at"])


def signed_in(user: User) -> list[SignedIn]:
    """Where an account is signed in, the one that was used last first; what has lapsed is left out."""
    rows = list(SignedIn.objects.filter(owner=user).order_by("-seen_at")[:MOST_SIGNED_IN])
    keys = [row.session_key for row in rows]
    alive = set(
        Session.objects.filter(session_key__in=keys, expire_date__gt=timezone.now()).values_list(
            "session_key", flat=True
        )
    )
    return [row for row in rows if row.session_key in alive]


def untold(request: HttpRequest) -> list[SignedIn]:
    """Devices that are new since this account was told of them last, but for the one that asks."""
    user = request.user
    if not isinstance(user, User):
        return []
    rows = SignedIn.objects.filter(owner=user, told=False)
    return list(rows.exclude(session_key=request.session.session_key).order_by("-made_at")[:10])


def tell(user: User) -> None:
    """The account has read of its new devices."""
    SignedIn.objects.filter(owner=user, told=False).update(told=True)


def sign_out_there(user: User, row_id: UUID) -> None:
    """End one session of an account. DoesNotExist when it has none such."""
    with transaction.atomic():
        row = SignedIn.objects.get(owner=user, pk=row_id)
        Session.objects.filter(session_key=row.session_key).delete()
        row.delete()
