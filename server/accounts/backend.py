"""Who a name and a password belong to: the name exactly, after folding."""

from __future__ import annotations

from typing import Any

from django.contrib.auth.backends import ModelBackend
from django.contrib.auth.models import User
from django.http import HttpRequest

from server.accounts.models import Account
from server.accounts.names import folded


class NameBackend(ModelBackend):
    """Finds an account by its folded name; the database's collation has no say in it."""

    def authenticate(
        self,
        request: HttpRequest | None,
        username: str | None = None,
        password: str | None = None,
        **more: Any,
    ) -> User | None:
        if username is None or password is None:
            return None
        account = Account.objects.filter(folded=folded(username)).select_related("owner").first()
        if account is None:
            # As slow as a wrong password, so that the time does not tell which names exist.
            User().set_password(password)
            return None
        user: User = account.owner
        if user.check_password(password) and self.user_can_authenticate(user):
            return user
        return None
