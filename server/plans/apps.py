from typing import Any

from django.apps import AppConfig
from django.utils import timezone


class Config(AppConfig):
    name = "server.plans"
    label = "plans"

    def ready(self) -> None:
        """Open a plan's guesses when its ride ends, for good."""
        from server.logbook.signals import ride_ended

        ride_ended.connect(open_guesses, dispatch_uid="open guesses")


def open_guesses(sender: Any, test: Any, **more: Any) -> None:
    """Once opened, always opened: removing the ride does not close them again."""
    from server.plans.models import Plan

    Plan.objects.filter(test=test, opened_at=None).update(opened_at=timezone.now())
