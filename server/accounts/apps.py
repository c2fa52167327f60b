from typing import Any

from django.apps import AppConfig
from django.contrib.auth.signals import user_logged_in, user_logged_out
from django.db.models.signals import post_save


class Config(AppConfig):
    name = "server.accounts"
    label = "accounts"

    def ready(self) -> None:
        """Every user has an account, whoever made it: the page, the admin or a command."""
        from server.accounts import sessions

        post_save.connect(make_account, sender="auth.User", dispatch_uid="make account")
        user_logged_in.connect(sessions.note, dispatch_uid="note where it is signed in")
        user_logged_out.connect(sessions.forget, dispatch_uid="note that it is not")


def make_account(sender: Any, instance: Any, created: bool, raw: bool = False, **more: Any) -> None:
    """The account of a new user; its name must not be, or look like, another's."""
    if not created or raw:
        return
    from server.accounts.models import Account
    from server.accounts.names import folded, skeleton

    name = instance.get_username()
    Account.objects.create(owner=instance, folded=folded(name), skeleton=skeleton(name))
