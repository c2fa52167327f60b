"""Rows that belong to an account: every query begins with its owner."""

from __future__ import annotations

import uuid
from typing import Any, Self

from django.contrib.auth.models import AnonymousUser, User
from django.db import models


class OwnedQuerySet(models.QuerySet[Any]):
    def owned_by(self, user: User | AnonymousUser) -> Self:
        """The rows of one account; none for nobody."""
        if not user.is_authenticated:
            return self.none()
        return self.filter(owner=user)


class Owned(models.Model):
    """A row with a client-made id that belongs to one account."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey("auth.User", on_delete=models.CASCADE, related_name="+")
    created_at = models.DateTimeField(auto_now_add=True)

    objects = OwnedQuerySet.as_manager()

    class Meta:
        abstract = True
