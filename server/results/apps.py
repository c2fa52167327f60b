from typing import Any

from django.apps import AppConfig


class Config(AppConfig):
    name = "server.results"
    label = "results"

    def ready(self) -> None:
        """Compute what a change of evidence has made stale."""
        from server.logbook.signals import evidence_changed

        evidence_changed.connect(_call_worker, dispatch_uid="results are due")


def _call_worker(sender: Any, **more: Any) -> None:
    from server.results import worker

    worker.call()
