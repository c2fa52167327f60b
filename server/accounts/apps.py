from typing import Any

from django.apps import AppConfig
from django.db.models.signals import post_save


class Config(AppConfig):
    name = "server.accounts"
    label = "accounts"

    def ready(self) -> None:
        """Every user has an account, whoever made it: the page, the admin or a command."""
        post_save.connect(make_account, sender="auth.User", dispatch_uid="make account")


def make_account(sender: Any, instance: Any, created: bool, raw: bool = False, **more: Any) -> None:
    """The account of a new user; its name must not be, or look like, another's."""
    if not created or raw:
        return
    from server.accounts.models import Account
    from server.accounts.names import folded, skeleton

    name = instance.get_username()
    Account.objects.create(owner=instance, folded=folded(name), skeleton=skeleton(name))
