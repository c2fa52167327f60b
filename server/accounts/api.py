"""Signing in and out, passwords, and the units an account reads in."""

from __future__ import annotations

import json
from dataclasses import asdict
from typing import Annotated, Literal

from django.conf import settings
from django.contrib.auth import logout
from django.contrib.auth.models import User
from django.db import transaction
from django.http import HttpRequest, HttpResponse
from django.middleware.csrf import get_token
from ninja import Path, Router
from ninja.errors import HttpError
from ninja.security import django_auth
from ninja.utils import check_csrf

from limpet.assumptions import RESERVE, as_assumed, assumptions
from server.accounts import phones, services, sessions
from server.accounts.assumed import assume, assumed_by, forget
from server.accounts.devices import device_of, remember
from server.accounts.models import Account, Preferences
from server.accounts.names import folded
from server.accounts.rates import Rate, Throttle, account_of, address_of
from server.accounts.reader import units_of
from server.accounts.schemas import (
    MOST_USERNAME,
    AssumptionIn,
    AssumptionOut,
    CodeIn,
    CurrentIn,
    PasswordIn,
    PhoneCodeOut,
    PhoneOut,
    SessionOut,
    SignIn,
    Units,
    WhoseOut,
    signed_in_of,
)
from server.lan.secure import is_at_home
from server.lan.square import square
from server.wire.owned import owner_of
from server.wire.problems import ConflictError, Problem

router = Router(tags=["account"])


def _device_or_address(request: HttpRequest) -> str:
    """A device that signed in to the account before, else the address.

    Who guesses at a rider's password from the rider's own address, a household's or a club's, must not keep the
    rider's own device from signing in.
    """
    try:
        name = str(json.loads(request.body)["username"])[:MOST_USERNAME]
    except (ValueError, KeyError, TypeError, OSError):
        return address_of(request)
    device = device_of(request, folded(name))
    return address_of(request) if device is None else f"device {device}"


_SIGN_IN_RATE = Rate("sign in", *settings.SIGN_INS_PER_ADDRESS)
#: What one address may try: a person mistypes a few times, a program tries all day.
SIGN_INS = Throttle(_SIGN_IN_RATE, address_of)
PASSWORD_SIGN_INS = Throttle(_SIGN_IN_RATE, _device_or_address)
SIGN_UPS = Throttle(Rate("sign up", *settings.SIGN_UPS_PER_ADDRESS), address_of)
DEMOS = Throttle(Rate("demo", *settings.DEMOS_PER_ADDRESS), address_of)
#: Somebody with a session that is not theirs guesses at its password.
PASSWORDS = Throttle(Rate("password", *settings.PASSWORDS_PER_ACCOUNT), account_of)


def _opens_here(request: HttpRequest) -> bool:
    """From the local network nobody comes in without a password or a code, unless that was asked for."""
    return is_at_home(request) or settings.LAN_SIGN_UP


def _sign_up_open(request: HttpRequest) -> bool:
    return settings.SIGN_UP_OPEN and _opens_here(request)


def _session(request: HttpRequest) -> SessionOut:
    user = request.user
    demo = False
    if user.is_authenticated:
        demo = services.is_demo(user)
    weather: Literal["none", "made_up", "service"] = "service" if settings.WEATHER_URL else "none"
    if demo and settings.DEMO_WEATHER_URL:
        weather = "made_up"
    return SessionOut(
        username=user.get_username() if user.is_authenticated else None,
        demo=demo,
        demo_offered=settings.DEMO_OFFERED
        and _opens_here(request)
        and Account.objects.filter(is_demo=True).exists(),
        sign_up_open=_sign_up_open(request),
        weather=weather,
        tiles=settings.TILES_URL,
        tiles_credit=settings.TILES_CREDIT,
        csrf_token=get_token(request),
        new_devices=[signed_in_of(row, None) for row in ([] if demo else sessions.untold(request))],
        goes_at=services.goes_at(user) if isinstance(user, User) else None,
        seal=services.seal_of(user) if isinstance(user, User) else None,
        units=Units(**asdict(units_of(user))),
        reserve=RESERVE.value,
    )


@router.get("/session", operation_id="getSession", response=SessionOut, auth=None)
def get_session(request: HttpRequest) -> SessionOut:
    """Who is signed in here, and what this installation offers."""
    sessions.seen(request)
    return _session(request)


@router.post(
    "/session",
    operation_id="signIn",
    response={200: SessionOut, 403: Problem, 429: Problem},
    auth=None,
    throttle=[PASSWORD_SIGN_INS],
)
def sign_in(request: HttpRequest, response: HttpResponse, payload: SignIn) -> SessionOut:
    """Sign in with a name and a password."""
    _require_csrf(request)
    try:
        services.enter(request, payload.username, payload.password)
    except services.LockedError as error:
        raise HttpError(429, str(error)) from error
    except services.NoSuchSignInError as error:
        raise HttpError(403, str(error)) from error
    remember(request, response, folded(payload.username))
    return _session(request)


@router.post(
    "/session/demo",
    operation_id="signInToDemo",
    response={200: SessionOut, 404: Problem, 429: Problem},
    auth=None,
    throttle=[DEMOS],
)
def sign_in_to_demo(request: HttpRequest) -> SessionOut:
    """Open a demo account of its own, with the made-up island."""
    _require_csrf(request)
    if not _opens_here(request) or not services.enter_demo(request):
        raise HttpError(404, "There is no demo here. Start Limpet without --no-demo.")
    return _session(request)


@router.post(
    "/session/demo/renew",
    operation_id="renewDemo",
    response={200: SessionOut, 403: Problem},
    auth=django_auth,
)
def renew_demo(request: HttpRequest) -> SessionOut:
    """Set the demo back to new: whatever was changed in it goes."""
    if not services.is_demo(owner_of(request)):
        raise HttpError(403, "Only the demo can be reset.")
    if not settings.WITH_DEMO:
        raise HttpError(403, "The demo’s island is missing. Start Limpet without --no-demo.")
    services.renew_demo(request)
    return _session(request)


@router.post(
    "/accounts",
    operation_id="createAccount",
    response={200: SessionOut, 403: Problem, 422: Problem, 429: Problem},
    auth=None,
    throttle=[SIGN_UPS],
)
def create_account(request: HttpRequest, response: HttpResponse, payload: SignIn) -> SessionOut:
    """Make an account and sign in to it."""
    _require_csrf(request)
    if not _sign_up_open(request):
        raise HttpError(403, "Ask whoever runs this Limpet: only they can make accounts.")
    services.create(request, payload.username, payload.password)
    remember(request, response, folded(payload.username))
    return _session(request)


@router.delete("/session", operation_id="signOut", response=SessionOut, auth=django_auth)
def sign_out(request: HttpRequest) -> SessionOut:
    """Sign out; this device forgets the account."""
    logout(request)
    return _session(request)


@router.put(
    "/password",
    operation_id="changePassword",
    response={200: SessionOut, 422: Problem, 429: Problem},
    auth=django_auth,
    throttle=[SIGN_INS, PASSWORDS],
)
def change_password(request: HttpRequest, payload: PasswordIn) -> SessionOut:
    """Change the password; other sessions are signed out by it."""
    services.change_password(request, owner_of(request), payload.current, payload.wanted)
    return _session(request)


@router.post(
    "/password/elsewhere",
    operation_id="signOutElsewhere",
    response={200: SessionOut, 422: Problem, 429: Problem},
    auth=django_auth,
    throttle=[SIGN_INS, PASSWORDS],
)
def sign_out_elsewhere(request: HttpRequest, payload: CurrentIn) -> SessionOut:
    """Sign out every other session of this account."""
    services.sign_out_elsewhere(request, owner_of(request), payload.current)
    return _session(request)


@router.put("/units", operation_id="putUnits", response=Units, auth=django_auth)
def put_units(request: HttpRequest, payload: Units) -> Units:
    """Keep the units in which this account reads and types."""
    with transaction.atomic():
        Preferences.objects.update_or_create(owner=owner_of(request), defaults=payload.model_dump())
    return payload


@router.get("/phone", operation_id="getPhone", response=PhoneOut)
def get_phone(request: HttpRequest) -> PhoneOut:
    """How this Limpet is reached from a phone, or what is missing for that."""
    owner_of(request)
    address, doorstep, fingerprint = phones.way_in()
    return PhoneOut(
        address=address,
        missing="" if address else _MISSING,
        doorstep=doorstep,
        fingerprint=fingerprint,
        doorstep_qr=square(doorstep) if doorstep else "",
    )


_MISSING = (
    "This Limpet serves this machine alone: a phone can’t reach it. Start it again with ./limpet start "
    "--lan. Behind a proxy of your own that speaks https, set LIMPET_HOSTS and LIMPET_SCHEME=https instead."
)


@router.post("/phone/code", operation_id="newPhoneCode", response={200: PhoneCodeOut, 409: Problem})
def new_phone_code(request: HttpRequest) -> PhoneCodeOut:
    """A code that signs a phone in, once and within ten minutes."""
    address, _, _ = phones.way_in()
    if not address:
        raise ConflictError(_MISSING)
    code, kept = phones.new_code(owner_of(request))
    way = f"{address}/phone/in#{code}"
    return PhoneCodeOut(code=code, address=way, qr=square(way), valid_until=kept.valid_until)


@router.post(
    "/session/phone/whose",
    operation_id="whoseCode",
    response={200: WhoseOut, 403: Problem, 429: Problem},
    auth=None,
    throttle=[SIGN_INS],
)
def whose_code(request: HttpRequest, payload: CodeIn) -> WhoseOut:
    """Whose account a code signs in to: who follows a link sees it before it is done. It uses nothing up."""
    _require_csrf(request)
    try:
        return WhoseOut(username=phones.whose(payload.code).get_username())
    except phones.WrongCodeError as error:
        raise HttpError(403, str(error)) from error


@router.post(
    "/session/phone",
    operation_id="signInByCode",
    response={200: SessionOut, 403: Problem, 429: Problem},
    auth=None,
    throttle=[SIGN_INS],
)
def sign_in_by_code(request: HttpRequest, payload: CodeIn) -> SessionOut:
    """Sign a phone in by the code that the laptop shows."""
    _require_csrf(request)
    try:
        phones.enter_by_code(request, payload.code)
    except phones.WrongCodeError as error:
        raise HttpError(403, str(error)) from error
    return _session(request)


def _require_csrf(request: HttpRequest) -> None:
    """Signing in changes state too; Ninja checks the token only where a session is required."""
    if check_csrf(request):
        raise HttpError(403, "This page is out of date. Load it again and sign in.")


@router.get("/assumptions", operation_id="listAssumptions", response=list[AssumptionOut])
def list_assumptions(request: HttpRequest) -> list[AssumptionOut]:
    """What is taken where nobody says, as this account takes it."""
    owner_of(request)
    return [AssumptionOut.of(item) for item in assumptions()]


@router.put(
    "/assumptions/{name}",
    operation_id="putAssumption",
    response={200: AssumptionOut, 404: Problem, 422: Problem},
)
def put_assumption(
    request: HttpRequest, name: Annotated[str, Path(max_length=60)], payload: AssumptionIn
) -> AssumptionOut:
    """Assume otherwise; the account's results and forecasts say so and follow."""
    item = assume(owner_of(request), name, payload.value, payload.std)
    with as_assumed(lambda: assumed_by(request.user)):
        return AssumptionOut.of(item)


@router.delete(
    "/assumptions/{name}",
    operation_id="deleteAssumption",
    response={200: AssumptionOut, 404: Problem},
)
def delete_assumption(
    request: HttpRequest, name: Annotated[str, Path(max_length=60)]
) -> AssumptionOut:
    """Assume the default again."""
    item = forget(owner_of(request), name)
    with as_assumed(lambda: assumed_by(request.user)):
        return AssumptionOut.of(item)
