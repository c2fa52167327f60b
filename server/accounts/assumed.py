"""What an account assumes where nobody says, instead of the core's defaults."""

from __future__ import annotations

from typing import Final

from django.contrib.auth.models import AnonymousUser, User
from django.dispatch import Signal

from limpet.assumptions import Assumption, Spread, assumptions
from server.accounts.models import OwnAssumption
from server.wire.problems import FieldError

#: An account assumes something else than before; `owner` is its user.
assumptions_changed = Signal()
_KNOWN: Final = {item.name: item for item in assumptions()}


def assumed_by(user: AnonymousUser | User | int) -> dict[str, Spread]:
    """Value and u of what an account assumes otherwise, by name.

    Notes
    -----
    One that was kept by a version that called it otherwise, or took more, changes nothing.
    """
    owner = user if isinstance(user, int) else user.pk
    if owner is None:
        return {}
    return {
        row.name: (row.value, row.std)
        for row in OwnAssumption.objects.filter(owner=owner)
        if row.name in _KNOWN and not _KNOWN[row.name].faults_of(row.value, row.std)
    }


def assume(owner: User, name: str, value: float, std: float) -> Assumption:
    """Assume otherwise from now on; the default's own values take the change back.

    Raises
    ------
    FieldError
        With what no such value can be.
    LookupError
        When nothing of that name is assumed.
    """
    item = _KNOWN.get(name)
    if item is None:
        raise OwnAssumption.DoesNotExist
    faults = item.faults_of(value, std)
    if faults:
        raise FieldError(faults)
    if (value, std) == (item.default, item.default_std):
        return forget(owner, name)
    row = OwnAssumption.objects.filter(owner=owner, name=name).first()
    if row is None or (row.value, row.std) != (value, std):
        OwnAssumption.objects.update_or_create(
            owner=owner, name=name, defaults={"value": value, "std": std}
        )
        assumptions_changed.send(OwnAssumption, owner=owner)
    return item


def forget(owner: User, name: str) -> Assumption:
    """Assume the default again."""
    item = _KNOWN.get(name)
    if item is None:
        raise OwnAssumption.DoesNotExist
    if OwnAssumption.objects.filter(owner=owner, name=name).delete()[0]:
        assumptions_changed.send(OwnAssumption, owner=owner)
    return item
