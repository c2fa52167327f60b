"""Accounts: made, entered, changed; the demo set back to new."""

from __future__ import annotations

from base64 import b64encode
from datetime import datetime, timedelta

from axes.handlers.proxy import AxesProxyHandler
from django.conf import settings
from django.contrib.auth import (
    authenticate,
    login,
    password_validation,
    update_session_auth_hash,
)
from django.contrib.auth.models import User
from django.contrib.sessions.models import Session
from django.core.exceptions import ValidationError
from django.core.management import call_command
from django.db import IntegrityError, transaction
from django.http import HttpRequest
from django.utils import timezone
from django.utils.crypto import salted_hmac

from limpet.errors import LimpetError
from server.accounts import sessions
from server.accounts.backend import NameBackend
from server.accounts.devices import device_of
from server.accounts.models import Account, SignedIn
from server.accounts.names import folded, normalised
from server.accounts.rates import Rate
from server.wire.problems import FieldError

BACKEND = "server.accounts.backend.NameBackend"
#: Wrong passwords for one account: from all unknown devices together, and from one that is known.
WRONG_ELSEWHERE = Rate("wrong password elsewhere", settings.WRONG_PASSWORDS_ELSEWHERE, 600)
WRONG_ON_DEVICE = Rate("wrong password on a device", settings.AXES_FAILURE_LIMIT, 600)


class LockedError(LimpetError):
    """Too many wrong passwords; the account waits."""


class NoSuchSignInError(LimpetError):
    """A name and a password that do not match."""


def enter(request: HttpRequest, name: str, password: str) -> None:
    """Sign in with a name and a password.

    Notes
    -----
    Wrong passwords are counted for each name at each address (django-axes), and for each name over all
    addresses, so that nobody guesses from many. A device that signed in to the account before is not
    locked out by either, but counted by itself: who guesses at a rider's password locks no rider out.

    Raises
    ------
    LockedError
        After too many wrong passwords; nothing was tried.
    NoSuchSignInError
        When they do not match.
    """
    who = folded(name)
    device = device_of(request, who)
    if device is not None:
        if WRONG_ON_DEVICE.reached(device + who):
            raise LockedError(_LOCKED)
        user = NameBackend().authenticate(request, who, password)
    else:
        if WRONG_ELSEWHERE.reached(who) or not AxesProxyHandler.is_allowed(
            request, {"username": who}
        ):
            raise LockedError(_LOCKED)
        user = authenticate(request, username=who, password=password)
    if user is None:
        rate, whose = (WRONG_ELSEWHERE, who) if device is None else (WRONG_ON_DEVICE, device + who)
        rate.taken(whose)
        raise NoSuchSignInError("That name and password do not match. Check both and try again.")
    login(request, user, backend=BACKEND)


_LOCKED = "Too many wrong passwords for this account. Wait ten minutes, then try again."


def enter_demo(request: HttpRequest) -> bool:
    """Sign in as the demo's rider; says whether there is one."""
    account = Account.objects.filter(is_demo=True, owner__is_active=True).first()
    if account is None or not settings.DEMO_OFFERED:
        return False
    login(request, account.owner, backend=BACKEND)
    return True


def create(request: HttpRequest, name: str, password: str) -> None:
    """Make an account and sign in to it.

    Raises
    ------
    FieldError
        For a name that is taken or looks like one that is, and for a weak password.
    """
    user = User(username=normalised(name))
    try:
        user.clean_fields(exclude=["password"])
        password_validation.validate_password(password, user)
    except ValidationError as cause:
        named = getattr(cause, "message_dict", {"password": cause.messages})
        raise FieldError({field: " ".join(texts) for field, texts in named.items()}) from cause
    user.set_password(password)
    store(user)
    login(request, user, backend=BACKEND)


def store(user: User, *, is_demo: bool = False) -> None:
    """Store a new user with its account. Two at once are decided by the constraints."""
    try:
        with transaction.atomic():
            # Saving a user makes its account (`apps`), whose names must be nobody else's.
            user.save(force_insert=True)
            if is_demo:
                Account.objects.filter(owner=user).update(is_demo=True)
    except IntegrityError as cause:
        raise FieldError(
            {"username": "is taken, or looks too much like another name; choose another"}
        ) from cause


def change_password(request: HttpRequest, user: User, current: str, wanted: str) -> None:
    """Change a password; every other session of the account is signed out by it.

    Raises
    ------
    FieldError
        When the current one is wrong or the new one is weak.
    """
    if not user.check_password(current):
        raise FieldError({"current": "is not your password"})
    try:
        password_validation.validate_password(wanted, user)
    except ValidationError as cause:
        raise FieldError({"wanted": " ".join(cause.messages)}) from cause
    _set_password(request, user, wanted)


def sign_out_elsewhere(request: HttpRequest, user: User, current: str) -> None:
    """Sign out every other session: the same password under a new salt."""
    if not user.check_password(current):
        raise FieldError({"current": "is not your password"})
    _set_password(request, user, current)


def _set_password(request: HttpRequest, user: User, password: str) -> None:
    before = request.session.session_key
    user.set_password(password)
    user.save(update_fields=["password"])
    # Sessions carry a digest of the stored password: this one takes the new one along.
    update_session_auth_hash(request, user)
    sessions.moved(before, request)
    for row in sessions.signed_in(user):
        if row.session_key != request.session.session_key:
            sessions.sign_out_there(user, row.pk)


def renew_demo(request: HttpRequest) -> None:
    """Set the demo back to new and sign in to it again. All or nothing."""
    with transaction.atomic():
        call_command("load_demo", renew=True, verbosity=0)
    account = Account.objects.get(is_demo=True)
    login(request, account.owner, backend=BACKEND)


def is_demo(user: User) -> bool:
    """Whether an account is the demo's."""
    return Account.objects.filter(owner=user, is_demo=True).exists()


def seal_of(user: User) -> str:
    """The key with which a device seals what this account noted and has not sent: always the same, and told
    to nobody else."""
    found = salted_hmac("limpet.seal", str(user.pk), algorithm="sha256").digest()
    return b64encode(found).decode()


#: How long an account can be had back after its rider asked for its end.
KEPT_LEAVING = timedelta(days=7)


def leave(request: HttpRequest, user: User, current: str) -> None:
    """Have an account deleted with all that is its own, after a week; other sessions are signed out.

    Raises
    ------
    FieldError
        When the password is wrong, and for the demo, which is everybody's.
    """
    if is_demo(user):
        raise FieldError(
            {"current": "is the demo’s, which everybody shares, so it can’t be changed"}
        )
    sign_out_elsewhere(request, user, current)
    Account.objects.filter(owner=user).update(goes_at=timezone.now() + KEPT_LEAVING)


def stay(user: User) -> None:
    """Keep an account after all."""
    Account.objects.filter(owner=user).update(goes_at=None)


def goes_at(user: User) -> datetime | None:
    """When an account goes; None for one that stays."""
    account = Account.objects.filter(owner=user).first()
    return account.goes_at if account is not None else None


def delete_due() -> int:
    """Delete the accounts whose week is over, with all that is theirs; says how many."""
    due = User.objects.filter(account__goes_at__lte=timezone.now(), account__is_demo=False)
    found = list(due[:20])
    for user in found:
        with transaction.atomic():
            for row in SignedIn.objects.filter(owner=user):
                Session.objects.filter(session_key=row.session_key).delete()
            user.delete()
    return len(found)
