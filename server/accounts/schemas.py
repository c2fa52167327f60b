"""What accounts say over HTTP: who is signed in, in which units."""

from __future__ import annotations

from typing import Annotated, Literal

from ninja import Schema
from pydantic import ConfigDict, Field

from server.wire.typed import Line


class Units(Schema):
    """The units an account reads in."""

    model_config = ConfigDict(extra="forbid")
    distance: Literal["mi", "km"] = "mi"
    mass: Literal["kg", "lb", "st"] = "kg"
    temperature: Literal["°C", "°F"] = "°C"
    pressure: Literal["kPa", "psi", "bar"] = "kPa"


class SessionOut(Schema):
    """Who is signed in, if anybody; what this Limpet offers to whom."""

    username: str | None
    demo: bool
    demo_offered: bool
    #: Whether an account can be made here.
    sign_up_open: bool
    #: Whether conditions can be asked for, and whether what answers is made up.
    weather: Literal["none", "made_up", "service"]
    csrf_token: str
    units: Units


class SignIn(Schema):
    """A name and a password."""

    model_config = ConfigDict(extra="forbid")
    username: Annotated[Line, Field(min_length=1, max_length=150)]
    password: Annotated[Line, Field(min_length=1, max_length=200)]


class PasswordIn(Schema):
    """A password, and the one wanted instead."""

    model_config = ConfigDict(extra="forbid")
    current: Annotated[Line, Field(min_length=1, max_length=200)]
    wanted: Annotated[Line, Field(min_length=1, max_length=200)]


class CurrentIn(Schema):
    """A password, to be sure who asks."""

    model_config = ConfigDict(extra="forbid")
    current: Annotated[Line, Field(min_length=1, max_length=200)]
