from typing import Any

from django.apps import AppConfig


class Config(AppConfig):
    name = "server.results"
    label = "results"

    def ready(self) -> None:
        """Compute what a change of evidence has made stale."""
        from server.accounts.assumed import assumptions_changed
        from server.logbook.models import RangeTest
        from server.logbook.signals import evidence_changed
        from server.wire.owned import came_or_went

        evidence_changed.connect(_call_worker, dispatch_uid="results are due")
        assumptions_changed.connect(_compute_anew, dispatch_uid="assumptions changed")
        came_or_went.connect(_teach_anew, sender=RangeTest, dispatch_uid="teachers changed")


def _call_worker(sender: Any, **more: Any) -> None:
    from server.results import worker

    worker.call()


def _compute_anew(sender: Any, owner: Any, **more: Any) -> None:
    from server.logbook.models import RangeTest
    from server.results import lessons, worker

    lessons.due_again(RangeTest.objects.owned_by(owner))
    worker.call()


def _teach_anew(sender: Any, row: Any, **more: Any) -> None:
    from server.results import lessons, signals, worker

    lessons.pass_on(row)
    signals.facts_changed.send(sender, test=row)
    worker.call()
