"""Compute results that are due in a process of its own, beside servers that do not."""

from __future__ import annotations

import os
import signal
from types import FrameType
from typing import Any

from django.core.management.base import BaseCommand, CommandParser

from server.results.worker import Worker, hear, look_once

#: Behind whoever asks: the lists wait, a rider does not.
NICE = 10


class Command(BaseCommand):
    help = "Computes results that are due until it is stopped; with --once, those that are due now."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--once", action="store_true")
        parser.add_argument("--calls", type=int, help="a descriptor through which others call it")
        parser.add_argument("--works", type=int, help="where to say that it works")

    def handle(
        self, *args: Any, once: bool, calls: int | None, works: int | None, **options: Any
    ) -> None:
        if once:
            self.stdout.write(f"{look_once()} computed")
            return
        os.nice(NICE)
        worker = Worker()

        def stop(number: int, frame: FrameType | None) -> None:
            worker.stop()

        # The test in hand is computed to its end: its claim would keep everybody else from it.
        for one in (signal.SIGTERM, signal.SIGINT):
            signal.signal(one, stop)
        if calls is not None:
            hear(calls)
        if works is not None:
            os.write(works, b"1")
            os.close(works)
        # In a thread of its own: a signal that comes in the midst of waiting would wait for itself.
        worker.start()
        while worker.is_alive():
            worker.join(1.0)
