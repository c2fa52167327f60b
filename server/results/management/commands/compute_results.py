"""Compute results that are due in a process of its own, beside servers that do not."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand, CommandParser

from server.results.worker import Worker, look_once


class Command(BaseCommand):
    help = "Computes results that are due until it is stopped; with --once, those that are due now."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--once", action="store_true")

    def handle(self, *args: Any, once: bool, **options: Any) -> None:
        if once:
            self.stdout.write(f"{look_once()} computed")
            return
        Worker().run()
