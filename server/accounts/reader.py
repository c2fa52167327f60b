"""The units that an account reads in, found when a sentence is to be worded."""

from __future__ import annotations

from collections.abc import Callable
from typing import cast

from django.contrib.auth.models import AnonymousUser, User
from django.http import HttpRequest, HttpResponse

from limpet.assumptions import as_assumed
from limpet.readers import Distance, Mass, Pressure, ReaderUnits, Temperature
from server.accounts.assumed import assumed_by
from server.accounts.models import Preferences
from server.wire.reader import read_in


def units_of(user: AnonymousUser | User) -> ReaderUnits:
    """The units that an account reads in; an account that has set none reads in miles."""
    stored = Preferences.objects.filter(owner=user).first() if user.is_authenticated else None
    if stored is None:
        return ReaderUnits(distance="mi")
    return ReaderUnits(
        distance=cast(Distance, stored.distance),
        mass=cast(Mass, stored.mass),
        temperature=cast(Temperature, stored.temperature),
        pressure=cast(Pressure, stored.pressure),
    )


class InReadersUnits:
    """What a request is answered in words is in the units of who asks, and rests on their assumptions."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        with read_in(lambda: units_of(request.user)), as_assumed(lambda: assumed_by(request.user)):
            return self.get_response(request)
