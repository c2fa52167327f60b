"""Which pieces of an account's kit a sheet names."""

from __future__ import annotations

from typing import Any

from django.contrib.auth.models import User

from limpet.evidence.model import TestSheet
from server.kit.models import Pack, Rider, Vehicle


def named_in(owner: User, sheet: TestSheet) -> dict[str, Any]:
    """The pieces of kit that a sheet names, for the columns of a test; None where it has none."""
    return {
        "vehicle": _by_name(Vehicle, owner, sheet.vehicle.name),
        "pack": _by_name(Pack, owner, sheet.pack.name),
        "rider": _by_name(Rider, owner, sheet.rider.name if sheet.rider else None),
    }


def _by_name(model: type[Any], owner: User, name: str | None) -> Any:
    return model.objects.owned_by(owner).filter(name=name).first() if name else None
