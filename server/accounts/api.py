"""Signing in and out, and the units an account reads in."""

from __future__ import annotations

from typing import Literal

from django.conf import settings
from django.contrib.auth import authenticate, login, logout, password_validation
from django.contrib.auth.models import User
from django.core.exceptions import ValidationError
from django.db import transaction
from django.http import HttpRequest
from django.middleware.csrf import get_token
from ninja import Router, Schema
from ninja.errors import HttpError
from ninja.security import django_auth
from ninja.utils import check_csrf
from pydantic import ConfigDict, Field

from server.accounts.models import Preferences
from server.problems import FieldError, Problem

router = Router(tags=["account"])


class Units(Schema):
    """The units an account reads in."""

    model_config = ConfigDict(extra="forbid")
    distance: Literal["mi", "km"] = "mi"
    mass: Literal["kg", "lb", "st"] = "kg"
    temperature: Literal["°C", "°F"] = "°C"
    pressure: Literal["kPa", "psi", "bar"] = "kPa"


class SessionOut(Schema):
    """Who is signed in, if anybody; whether the demo can be."""

    username: str | None
    demo: bool
    demo_offered: bool
    csrf_token: str
    units: Units


class SignIn(Schema):
    """A name and a password."""

    model_config = ConfigDict(extra="forbid")
    username: str = Field(min_length=1, max_length=150)
    password: str = Field(min_length=1, max_length=200)


def _session(request: HttpRequest) -> SessionOut:
    user = request.user
    units = Units()
    if user.is_authenticated:
        stored = Preferences.objects.filter(owner=user).first()
        if stored is not None:
            units = Units(
                distance=stored.distance,
                mass=stored.mass,
                temperature=stored.temperature,
                pressure=stored.pressure,
            )
    return SessionOut(
        username=user.get_username() if user.is_authenticated else None,
        demo=user.is_authenticated and user.get_username() == settings.DEMO_USERNAME,
        demo_offered=User.objects.filter(username=settings.DEMO_USERNAME).exists(),
        csrf_token=get_token(request),
        units=units,
    )


@router.get("/session", operation_id="getSession", response=SessionOut, auth=None)
def get_session(request: HttpRequest) -> SessionOut:
    return _session(request)


@router.post("/session", operation_id="signIn", response={200: SessionOut, 403: Problem}, auth=None)
def sign_in(request: HttpRequest, payload: SignIn) -> SessionOut:
    _require_csrf(request)
    user = authenticate(request, username=payload.username, password=payload.password)
    if user is None:
        raise HttpError(403, "That name and password do not match. Check both and try again.")
    login(request, user)
    return _session(request)


@router.post(
    "/session/demo",
    operation_id="signInToDemo",
    response={200: SessionOut, 404: Problem},
    auth=None,
)
def sign_in_to_demo(request: HttpRequest) -> SessionOut:
    _require_csrf(request)
    user = User.objects.filter(username=settings.DEMO_USERNAME, is_active=True).first()
    if user is None:
        raise HttpError(404, "The demo is not loaded here. Start Limpet without --no-demo.")
    login(request, user, backend="django.contrib.auth.backends.ModelBackend")
    return _session(request)


@router.post("/accounts", operation_id="createAccount", response=SessionOut, auth=None)
def create_account(request: HttpRequest, payload: SignIn) -> SessionOut:
    _require_csrf(request)
    if User.objects.filter(username=payload.username).exists():
        raise FieldError({"username": "is taken; choose another"})
    user = User(username=payload.username)
    try:
        user.full_clean(exclude=["password"])
        password_validation.validate_password(payload.password, user)
    except ValidationError as cause:
        named = getattr(cause, "message_dict", {"password": cause.messages})
        raise FieldError({name: " ".join(texts) for name, texts in named.items()}) from cause
    with transaction.atomic():
        user.set_password(payload.password)
        user.save()
    login(request, user, backend="django.contrib.auth.backends.ModelBackend")
    return _session(request)


@router.delete("/session", operation_id="signOut", response=SessionOut, auth=django_auth)
def sign_out(request: HttpRequest) -> SessionOut:
    logout(request)
    return _session(request)


@router.put("/units", operation_id="putUnits", response=Units, auth=django_auth)
def put_units(request: HttpRequest, payload: Units) -> Units:
    Preferences.objects.update_or_create(owner=request.user, defaults=payload.model_dump())
    return payload


def _require_csrf(request: HttpRequest) -> None:
    """Signing in changes state too; Ninja checks the token only where a session is required."""
    if check_csrf(request):
        raise HttpError(403, "This page is out of date. Load it again and sign in.")
