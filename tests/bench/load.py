"""Riders and instruments at once: how long an entry, its answer and a batch take, and what is refused.

A whole Limpet is started from a copy of this checkout. Each rider notes an entry every twenty seconds and asks,
as the page does, for the ride, for its judgement and for the table; the answer counts from the moment the entry
is sent. Each instrument sends a batch of a second at ten hertz every second. Who calls runs on the same machine.
"""

from __future__ import annotations

import random
import tempfile
import threading
import time
from collections import Counter
from collections.abc import Callable
from contextlib import suppress
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any
from urllib.error import HTTPError, URLError
from uuid import uuid4

import numpy as np

from tests.bench.house import Caller, House

#: Accounts; riders and instruments are spread over them.
ACCOUNTS = 12
EVERY_S, BATCH_S = 20.0, 1.0
HERTZ = 10
#: After a start everything is made ready once; that is not what is measured [s].
WARMING_S = 20.0
SEED = 20261130


@dataclass
class Seen:
    """How long what took, and what went wrong."""

    taken_s: dict[str, list[float]] = field(default_factory=dict)
    refused: Counter[str] = field(default_factory=Counter)
    lock: threading.Lock = field(default_factory=threading.Lock)
    since_s: float = 0.0

    def note(self, what: str, begun_s: float) -> None:
        """What was begun at a time is done now."""
        now = time.monotonic()
        if begun_s >= self.since_s:
            with self.lock:
                self.taken_s.setdefault(what, []).append(now - begun_s)

    def failed(self, what: str, error: Exception) -> None:
        """A request was refused or not answered."""
        code = str(error.code) if isinstance(error, HTTPError) else type(error).__name__
        with self.lock:
            self.refused[f"{what}: {code}"] += 1


class Calls:
    """One caller's requests, timed."""

    def __init__(self, caller: Caller, seen: Seen) -> None:
        self.caller, self.seen = caller, seen

    def __call__(self, what: str, method: str, path: str, body: Any = None) -> bool:
        begun_s = time.monotonic()
        try:
            self.caller.once(method, path, body)
        except (HTTPError, URLError, OSError) as error:
            self.seen.failed(what, error)
            return False
        self.seen.note(what, begun_s)
        return True


def ride(calls: Calls, number: int, stop: threading.Event) -> None:
    """A rider who notes volts and distance, and reads what that means."""
    rng = random.Random(SEED + number)
    test_id, caller = str(uuid4()), calls.caller
    begun = {"title": f"Ride {number}", "started_at": "2026-05-14T09:12:00+02:00", **caller.kit}
    caller.sure("PUT", f"/tests/{test_id}", begun)
    at_s, km = 0.0, 0.0
    stop.wait(rng.uniform(0, EVERY_S))
    while not stop.is_set():
        begun_s = time.monotonic()
        read = {"voltage_rest_v": round(54.2 - 0.42 * km, 1), "trip_m": round(1000 * km)}
        kind = "checkpoint" if at_s else "start"
        one = f"/tests/{test_id}/entries/{uuid4()}"
        calls("entry", "PUT", one, {"time_s": at_s, "kind": kind, **read})
        beside = threading.Thread(
            target=lambda: (
                calls("ride", "GET", f"/tests/{test_id}?kept=true"),
                calls("plan", "GET", f"/tests/{test_id}/plan"),
            )
        )
        beside.start()
        if calls("follow", "GET", f"/tests/{test_id}/follow"):
            calls.seen.note("answer", begun_s)
        calls("table", "GET", f"/tests/{test_id}/follow?table=true")
        beside.join()
        # Forty kilometres are a ride; then it goes on where it is, as one that stands.
        at_s, km = at_s + 240.0, min(km + rng.uniform(0.3, 1.5), 40.0)
        stop.wait(max(begun_s + EVERY_S - time.monotonic(), 0.0))


def send(calls: Calls, number: int, stop: threading.Event) -> tuple[str, int, Caller]:
    """An instrument that sends a batch a second; what it was told is stored."""
    rng = random.Random(SEED - 1 - number)
    test_id, stream, caller = str(uuid4()), str(uuid4()), calls.caller
    begun = {"title": f"Live {number}", "started_at": "2026-05-14T09:12:00+02:00", **caller.kit}
    caller.sure("PUT", f"/tests/{test_id}", begun)
    caller.sure("PUT", f"/tests/{test_id}/streams/{stream}", {"instrument": "meter"})
    stop.wait(rng.uniform(0, BATCH_S))
    sequence = 0
    due_s = time.monotonic()
    while not stop.is_set():
        time_s = sequence * BATCH_S + np.arange(HERTZ) / HERTZ
        rows = {
            "time_s": time_s.tolist(),
            "voltage_v": (52 - time_s / 900).round(2).tolist(),
            "current_a": [5.0] * HERTZ,
            "speed_mps": [6.0] * HERTZ,
        }
        if calls("batch", "PUT", f"/tests/{test_id}/streams/{stream}/batches/{sequence}", rows):
            sequence += 1
        due_s += BATCH_S
        stop.wait(max(due_s - time.monotonic(), 0.0))
    return test_id, sequence, caller


def bench_load(riders: int, instruments: int, seconds: float) -> Seen:
    """Put a load on a Limpet, print how it was borne, and whether all batches are there."""
    seen, stop = Seen(), threading.Event()
    stored: list[tuple[str, int, Caller]] = []
    with tempfile.TemporaryDirectory(prefix="limpet-load-") as folder:
        house = House(Path(folder) / "limpet")
        try:
            house.up()
            callers = [Caller(house, f"rider{number}") for number in range(ACCOUNTS)]
            for caller in callers:
                caller.enter()

            def calls(number: int) -> Calls:
                mine = callers[number % ACCOUNTS]
                return Calls(mine.again(), seen)

            def sending(number: int) -> None:
                stored.append(send(calls(number), number, stop))

            jobs: list[tuple[Callable[..., None], int]] = []
            jobs += [(lambda k: ride(calls(k), k, stop), k) for k in range(riders)]
            jobs += [(sending, k) for k in range(instruments)]
            threads = [threading.Thread(target=job, args=(k,)) for job, k in jobs]
            seen.since_s = time.monotonic() + WARMING_S
            before = house.processor_s()
            begun_s = time.monotonic()
            for thread in threads:
                thread.start()
            stop.wait(WARMING_S + seconds)
            stop.set()
            for thread in threads:
                thread.join()
            busy = (house.processor_s() - before) / (time.monotonic() - begun_s)
            memory = house.memory_mb()
            lost = sum(
                max(HERTZ * batches - sum(one["rows"] for one in caller.sure("GET", f"/tests/{test}/streams")), 0)
                for test, batches, caller in stored
            )  # fmt: skip
        finally:
            with suppress(OSError):
                house.down()
    print(
        f"{riders} riders, {instruments} instruments, {seconds:.0f} s: {busy:.2f} processors, {memory:.0f} MB"
    )
    for what, taken in sorted(seen.taken_s.items()):
        p50, p95, p99 = (1000 * float(np.quantile(taken, q)) for q in (0.5, 0.95, 0.99))
        print(f"  {what:<8}{len(taken):6d}  p50 {p50:6.0f}  p95 {p95:6.0f}  p99 {p99:6.0f} ms")
    print(f"  refused or unanswered: {dict(seen.refused) or 'none'}; samples lost: {lost}")
    return seen
