from typing import Any

from django.apps import AppConfig
from django.utils import timezone


class Config(AppConfig):
    name = "server.plans"
    label = "plans"

    def ready(self) -> None:
        """Open a plan's guesses when its ride ends, for good; fit vehicles to what their tests teach."""
        from server.logbook.signals import ride_ended
        from server.results.signals import all_computed, facts_changed, ways_wanted

        ride_ended.connect(open_guesses, dispatch_uid="open guesses")
        facts_changed.connect(_fit_later, dispatch_uid="fits are due")
        all_computed.connect(_fit_due, dispatch_uid="fit what is due")
        ways_wanted.connect(_ways_planned, dispatch_uid="ways of plans")


def open_guesses(sender: Any, test: Any, **more: Any) -> None:
    """Once opened, always opened: removing the ride does not close them again."""
    from server.plans.models import Plan

    Plan.objects.filter(test=test, opened_at=None).update(opened_at=timezone.now())


def _fit_later(sender: Any, test: Any, **more: Any) -> None:
    from server.plans.fits import fit_later

    fit_later(test)


def _fit_due(sender: Any, **more: Any) -> None:
    from server.plans.fits import fit_due

    fit_due()


def _ways_planned(sender: Any, owner: Any, **more: Any) -> list[Any]:
    from server.plans.services import ways_planned

    return ways_planned(owner)
