"""What belongs to no app of the server's alone: the house as a whole."""

from typing import Any

from django.apps import AppConfig


class Config(AppConfig):
    name = "server"
    label = "house"

    def ready(self) -> None:
        """Tidy up beside the results."""
        from server.results.signals import all_computed

        all_computed.connect(_tidy, dispatch_uid="tidy up")


def _tidy(sender: Any, **more: Any) -> None:
    from server.removed import tidy

    tidy()
