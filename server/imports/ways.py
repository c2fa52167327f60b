"""How an account reads and reckons, in its zip: units, assumptions of its own, its home."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from django.contrib.auth.models import User

from limpet.errors import BundleError, Fault
from server.accounts.assumed import assume, assumed_by
from server.accounts.models import OwnAssumption, Preferences
from server.accounts.schemas import Units
from server.imports.checked import checked
from server.imports.models import Home
from server.imports.schemas import PlaceIn
from server.wire.problems import FieldError

#: Assumptions of one zip.
MOST_ASSUMED = 200


def write_ways(owner: User) -> dict[str, Any]:
    """What an account has chosen for itself; what it has not is left out."""
    found: dict[str, Any] = {
        "assumptions": [
            {"name": name, "value": value, "std": std}
            for name, (value, std) in assumed_by(owner).items()
        ]
    }
    units = Preferences.objects.filter(owner=owner).first()
    if units is not None:
        found["units"] = {name: getattr(units, name) for name in Units.model_fields}
    home = Home.objects.filter(owner=owner).first()
    if home is not None:
        found["home"] = {name: getattr(home, name) for name in PlaceIn.model_fields}
    return found


def take_ways(owner: User, about: Mapping[str, Any]) -> None:
    """Choose the same, where this account has chosen nothing of its own.

    Raises
    ------
    BundleError
        When something of it cannot be chosen.
    """
    if about.get("units") is not None:
        units = checked(Units, about["units"], "account.json", "units")
        Preferences.objects.get_or_create(owner=owner, defaults=units.model_dump())
    if about.get("home") is not None:
        home = checked(PlaceIn, about["home"], "account.json", "home")
        Home.objects.get_or_create(owner=owner, defaults=home.model_dump())
    if OwnAssumption.objects.filter(owner=owner).exists():
        return
    for number, row in enumerate((about.get("assumptions") or [])[:MOST_ASSUMED], start=1):
        try:
            assume(owner, str(row["name"]), float(row["value"]), float(row["std"]))
        except (FieldError, OwnAssumption.DoesNotExist, TypeError, KeyError, ValueError) as cause:
            text = f"assumptions {number}: is none that can be taken"
            raise BundleError([Fault("account.json", 0, 0, text)]) from cause
