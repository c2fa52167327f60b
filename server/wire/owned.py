"""Rows that belong to an account: every query begins with its owner, every id is the client's."""

from __future__ import annotations

import uuid
from collections.abc import Mapping
from datetime import timedelta
from typing import Any, Self, TypeVar

from django.contrib.auth.models import AnonymousUser, User
from django.db import IntegrityError, models, transaction
from django.dispatch import Signal
from django.http import HttpRequest
from django.utils import timezone
from ninja.errors import AuthenticationError

from server.wire.problems import ConflictError


class OwnedQuerySet(models.QuerySet[Any]):
    def owned_by(self, user: User | AnonymousUser) -> Self:
        """The rows of one account; none for nobody."""
        if not user.is_authenticated:
            return self.none()
        return self.filter(owner=user, alive=True)

    def removed_by(self, user: User | AnonymousUser) -> Self:
        """The rows that an account has removed and can still have back; none for nobody."""
        if not user.is_authenticated:
            return self.none()
        return self.filter(owner=user, alive=None)


class Owned(models.Model):
    """A row with a client-made id that belongs to one account."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey("auth.User", on_delete=models.CASCADE, related_name="+")
    created_at = models.DateTimeField(auto_now_add=True)
    #: True, or None once it is removed: then it is in no list, its name is free, and for some weeks
    #: it can be had back. None because unique keys take no notice of it.
    alive = models.BooleanField(null=True, default=True, editable=False)
    removed_at = models.DateTimeField(null=True, editable=False)

    objects = OwnedQuerySet.as_manager()

    class Meta:
        abstract = True


def owner_of(request: HttpRequest) -> User:
    """The account that asks; every address that stores something has one.

    Raises
    ------
    AuthenticationError
        When nobody is signed in.
    """
    if not request.user.is_authenticated:
        raise AuthenticationError
    return request.user


Row = TypeVar("Row", bound=Owned)
#: A row was removed, or brought back; `row` is the row, `sender` its model.
came_or_went = Signal()
#: How long what was removed can be had back.
KEPT_REMOVED = timedelta(days=30)


def remove(model: type[Row], owner: User, row_id: uuid.UUID) -> None:
    """Take a row out of every list; `restore` brings it back for a while. DoesNotExist when none."""
    row = model.objects.owned_by(owner).get(pk=row_id)
    row.alive, row.removed_at = None, timezone.now()
    row.save(update_fields=["alive", "removed_at"])
    came_or_went.send(model, row=row)


def restore(model: type[Row], owner: User, row_id: uuid.UUID) -> None:
    """Bring a removed row back as it was.

    Raises
    ------
    ConflictError
        When something else has taken its name meanwhile.
    """
    row = model.objects.removed_by(owner).get(pk=row_id)
    row.alive, row.removed_at = True, None
    try:
        with transaction.atomic():
            row.save(update_fields=["alive", "removed_at"])
    except IntegrityError as cause:
        text = "Something else has that name by now: rename it first, then bring this back."
        raise ConflictError(text) from cause
    came_or_went.send(model, row=row)


def purge(model: type[Row]) -> int:
    """Delete for good what was removed long ago; says how many rows went."""
    before = timezone.now() - KEPT_REMOVED
    return int(model.objects.filter(alive=None, removed_at__lt=before).delete()[0])


_IN_USE = "That id is in use. Load the page again and try once more."


def create_once(
    model: type[Row], owner: User, row_id: uuid.UUID, values: Mapping[str, Any]
) -> tuple[Row, bool]:
    """Create a row under the id that the client made; says whether it is new.

    One statement, whose constraint decides between two clients at once; the loser reads what the
    winner stored. An id of somebody else's is refused.
    """
    try:
        with transaction.atomic():
            return model.objects.create(id=row_id, owner=owner, **values), True
    except IntegrityError as cause:
        stored = model.objects.owned_by(owner).filter(pk=row_id).first()
        if stored is None:
            raise ConflictError(_IN_USE) from cause
        return stored, False


def create_or_change(
    model: type[Row], owner: User, row_id: uuid.UUID, values: Mapping[str, Any]
) -> Row:
    """Store values under the id that the client made, whether or not it is there yet.

    Raises
    ------
    ConflictError
        When the id is somebody else's.
    IntegrityError
        When another constraint does not hold, such as a name that is taken.
    """
    row, created = _created(model, owner, row_id, values)
    if not created:
        for name, value in values.items():
            setattr(row, name, value)
        with transaction.atomic():
            row.save()
    return row


def _created(
    model: type[Row], owner: User, row_id: uuid.UUID, values: Mapping[str, Any]
) -> tuple[Row, bool]:
    """The row, locked when it was there already."""
    try:
        with transaction.atomic():
            return model.objects.create(id=row_id, owner=owner, **values), True
    except IntegrityError as cause:
        row = model.objects.owned_by(owner).select_for_update().filter(pk=row_id).first()
        if row is not None:
            return row, False
        if model.objects.filter(pk=row_id).exists():
            raise ConflictError(_IN_USE) from cause
        raise
