"""What accounts say over HTTP: who is signed in, in which units."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from ninja import Schema
from pydantic import ConfigDict, Field

from limpet.assumptions import Assumption
from server.accounts.models import SignedIn
from server.wire.schema import Sent
from server.wire.typed import Line, NoTruth

#: As Django's own user has it.
MOST_USERNAME = 150


class CodeIn(Sent):
    """A code that the laptop shows."""

    code: Annotated[Line, Field(min_length=1, max_length=20)]


class PhoneOut(Schema):
    """How this Limpet is taken to a phone."""

    #: Where a phone opens it; empty when only this machine is served, and `missing` says what to do.
    address: str
    missing: str
    #: Where it gets the authority's certificate first, and its fingerprint; empty behind a proxy.
    doorstep: str
    fingerprint: str
    doorstep_qr: str


class PhoneCodeOut(Schema):
    """A code that signs a phone in once, and the address with it as a square code."""

    code: str
    address: str
    qr: str
    valid_until: datetime


class Units(Schema):
    """The units an account reads in."""

    model_config = ConfigDict(extra="forbid")
    distance: Literal["mi", "km"] = "mi"
    mass: Literal["kg", "lb", "st"] = "kg"
    temperature: Literal["°C", "°F"] = "°C"
    pressure: Literal["kPa", "psi", "bar"] = "kPa"


class SignedInOut(Schema):
    """A session of an account."""

    id: UUID
    kind: Literal["phone", "computer"]
    agent: str
    made_at: datetime
    seen_at: datetime
    #: The one that asks.
    here: bool


def signed_in_of(row: SignedIn, here: str | None) -> SignedInOut:
    """A session as it is told; `here` is the key of the one that asks."""
    names = ("id", "kind", "agent", "made_at", "seen_at")
    told = {name: getattr(row, name) for name in names}
    return SignedInOut.model_validate({**told, "here": row.session_key == here})


class QuotaOut(Schema):
    """How much of one thing an account keeps, and the most that it may."""

    name: Literal["tests", "entries", "sample_bytes", "photo_bytes"]
    used: int
    most: int


class AccountOut(Schema):
    """An account as its rider sees it."""

    username: str
    since: datetime
    demo: bool
    sessions: list[SignedInOut]
    kept: list[QuotaOut]
    #: Rows that were removed and can still be had back.
    removed: int
    #: When the account goes, where its rider has asked for that.
    goes_at: datetime | None


class WhoseOut(Schema):
    """Whose account a code signs in to."""

    username: str


class SessionOut(Schema):
    """Who is signed in, if anybody; what this Limpet offers to whom."""

    username: str | None
    demo: bool
    demo_offered: bool
    #: Whether an account can be made here.
    sign_up_open: bool
    #: Whether conditions can be asked for, and whether what answers is made up.
    weather: Literal["none", "made_up", "service"]
    #: Where pictures of the ground come from, with {z}, {x} and {y}; empty where nobody named any, and none is fetched.
    tiles: str
    tiles_credit: str
    csrf_token: str
    #: Devices that signed in to this account since it was told of them last.
    new_devices: list[SignedInOut]
    #: When the account goes, where its rider has asked for that.
    goes_at: datetime | None
    #: What a device seals with that this account noted and has not sent, when somebody else is to use it; base64.
    seal: str | None
    units: Units
    #: What is kept back where nobody says, as this account assumes it.
    reserve: float


class SignIn(Schema):
    """A name and a password."""

    model_config = ConfigDict(extra="forbid")
    username: Annotated[Line, Field(min_length=1, max_length=MOST_USERNAME)]
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


class AssumptionOut(Schema):
    """What is taken where nobody says: the default, and what this account takes."""

    name: str
    label: str
    unit: str
    default: float
    default_std: float
    value: float
    std: float
    low: float
    high: float
    source: str
    matters: str
    changed: bool

    @staticmethod
    def of(item: Assumption) -> AssumptionOut:
        """As it is assumed here and now."""
        value, std = item.spread
        low, high = item.span
        return AssumptionOut(
            name=item.name,
            label=item.label,
            unit="" if item.unit == "1" else item.unit,
            default=item.default,
            default_std=item.default_std,
            value=value,
            std=std,
            low=low,
            high=high,
            source=item.source,
            matters=item.matters,
            changed=(value, std) != (item.default, item.default_std),
        )


class AssumptionIn(Schema):
    """What an account assumes instead."""

    model_config = ConfigDict(extra="forbid")
    value: Annotated[float, Field(allow_inf_nan=False), NoTruth]
    std: Annotated[float, Field(allow_inf_nan=False), NoTruth]
