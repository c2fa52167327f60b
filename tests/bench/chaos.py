"""Nothing acknowledged is lost, doubled or half, whatever is killed and whenever.

A whole Limpet of its own (launcher, MariaDB with durable settings, server) is started from a copy of this
checkout. Riders write entries, corrections, removals, batches of samples, pictures and bundles, each under an
id of its own, and send each until it is acknowledged. Meanwhile processes are killed (-9) at random times by a
seeded choice. At the end what is stored is held against what was acknowledged.

A kill is no power cut: what the operating system had taken is on its way to the disk.
"""

from __future__ import annotations

import random
import tempfile
import threading
import time
from collections import Counter
from collections.abc import Callable
from dataclasses import dataclass, field
from io import BytesIO
from pathlib import Path
from typing import Any
from uuid import uuid4

from limpet.files import write_zip
from limpet.files.photos import plain_jpeg
from tests.bench.house import Caller, House

KINDS = ("server", "servers", "results", "import", "database", "launcher", "all")
SEED, RIDERS = 20261130, 3
#: Between two kills [s]: sometimes in the middle of a start, sometimes after a while of work.
PAUSES_S = (0.4, 5.0)
#: After so many kills it is left alone for so long [s]: what takes long comes to its end too, also on a
#: slow machine.
SPELL, SPELL_S = 20, 15.0


@dataclass
class Told:
    """What was acknowledged."""

    entries: dict[tuple[str, str], float | None] = field(default_factory=dict)
    batches: dict[tuple[str, str], int] = field(default_factory=dict)
    photos: dict[tuple[str, str], bytes] = field(default_factory=dict)
    imports: dict[str, int] = field(default_factory=dict)
    rides: set[str] = field(default_factory=set)
    counts: Counter[str] = field(default_factory=Counter)
    #: How often each entry was corrected: what a correction says that it has seen.
    changes: Counter[str] = field(default_factory=Counter)


class Rider(threading.Thread):
    """Writes until told to stop; what is sent is sent until it is acknowledged."""

    def __init__(self, house: House, number: int, stop: threading.Event) -> None:
        super().__init__(name=f"rider {number}")
        self.stopped = stop
        self.caller = Caller(house, f"rider{number}")
        self.sure, self.enter = self.caller.sure, self.caller.enter
        self.rng = random.Random(SEED + number)
        self.told = Told()
        self.failure: BaseException | None = None
        self.ride = ""
        self.stream = ""

    def begin(self) -> None:
        """A new ride with a stream."""
        self.ride, self.stream = str(uuid4()), str(uuid4())
        begun = {
            "title": "Under fire",
            "started_at": "2026-05-14T09:12:00+02:00",
            **self.caller.kit,
        }
        self.sure("PUT", f"/tests/{self.ride}", begun)
        self.told.rides.add(self.ride)
        self.sure("PUT", f"/tests/{self.ride}/streams/{self.stream}", {"instrument": "meter"})

    def run(self) -> None:
        """The thread's own work."""
        acts: list[tuple[Callable[[], None], int]] = [
            (self.entry, 8), (self.correct, 3), (self.remove, 2), (self.batch, 6), (self.photo, 2), (self.bring, 1),
        ]  # fmt: skip
        try:
            self.begin()
            while not self.stopped.is_set():
                act = self.rng.choices([one for one, _ in acts], [weight for _, weight in acts])[0]
                act()
                self.told.counts[act.__name__] += 1
                if self.rng.random() < 0.03:
                    self.begin()
        except BaseException as failure:  # told at the end, by whoever waits for this thread
            self.failure = failure

    def entry(self) -> None:
        one, volts = str(uuid4()), round(self.rng.uniform(40, 54), 2)
        body = {"time_s": self.rng.randint(0, 9000), "kind": "checkpoint", "voltage_rest_v": volts}
        self.sure("PUT", f"/tests/{self.ride}/entries/{one}", body)
        self.told.entries[self.ride, one] = volts

    def _standing(self) -> str | None:
        mine = [e for (ride, e), volts in self.told.entries.items() if ride == self.ride and volts]
        return self.rng.choice(mine) if mine else None

    def correct(self) -> None:
        one = self._standing()
        if one is None:
            return
        volts = round(self.rng.uniform(40, 54), 2)
        seen = self.told.changes[one]
        body = {"time_s": 60, "kind": "checkpoint", "voltage_rest_v": volts, "from_changes": seen}
        self.sure("PUT", f"/tests/{self.ride}/entries/{one}", body)
        self.told.changes[one] += 1
        self.told.entries[self.ride, one] = volts

    def remove(self) -> None:
        one = self._standing()
        if one is not None:
            self.sure("DELETE", f"/tests/{self.ride}/entries/{one}?act={uuid4()}")
            self.told.entries[self.ride, one] = None

    def batch(self) -> None:
        at = (self.ride, self.stream)
        number = self.told.batches.get(at, 0)
        rows = {
            "time_s": [60.0 * number + k for k in range(60)],
            "voltage_v": [50.0] * 60,
            "current_a": [5.0] * 60,
        }
        self.sure("PUT", f"/tests/{self.ride}/streams/{self.stream}/batches/{number}", rows)
        self.told.batches[at] = number + 1

    def photo(self) -> None:
        from base64 import b64encode

        from PIL import Image

        out = BytesIO()
        Image.new("L", (16, 16), self.rng.randint(0, 255)).save(out, "JPEG")
        one = str(uuid4())
        self.sure("PUT", f"/tests/{self.ride}/photos/{one}", {"jpeg": b64encode(out.getvalue()).decode()})  # fmt: skip
        self.told.photos[self.ride, one] = plain_jpeg(out.getvalue())

    def bring(self) -> None:
        """A bundle that is large enough to be read in a process of its own."""
        from tests.bench.__main__ import logged

        test, one = logged(60_000, 10.0), str(uuid4())
        self.sure("POST", "/tests/import", one, write_zip(test))
        self.told.imports[one] = 60_000

    def faults(self) -> Counter[str]:
        """What is stored held against what was acknowledged."""
        found: Counter[str] = Counter()
        stored: dict[str, dict[str, list[float]]] = {}
        for ride in self.told.rides:
            test = self.sure("GET", f"/tests/{ride}")
            rows: dict[str, list[float]] = {}
            for row in test["entries"]:
                rows.setdefault(row["id"], []).append(row["voltage_rest_v"])
            stored[ride] = rows
        for (ride, one), volts in self.told.entries.items():
            there = stored[ride].get(one, [])
            found["doubled"] += len(there) > 1
            if volts is None:
                found["revived"] += bool(there)
            elif not there:
                found["lost"] += 1
            elif there[0] != volts:
                found["of another version"] += 1
        for (ride, _), batches in self.told.batches.items():
            rows_there = sum(one["rows"] for one in self.sure("GET", f"/tests/{ride}/streams"))
            found["lost"] += rows_there < 60 * batches
            # One that was sent and not acknowledged may be there.
            found["doubled"] += rows_there > 60 * (batches + 1)
        for (ride, one), data in self.told.photos.items():
            found["lost"] += self.sure("GET", f"/tests/{ride}/photo?name=photos/{one}.jpg") != data
        listed = [row["id"] for row in self._listed()]
        for one, rows_wanted in self.told.imports.items():
            found["lost"] += one not in listed
            found["doubled"] += listed.count(one) > 1
            streams = self.sure("GET", f"/tests/{one}/streams")
            found["half"] += sum(stream["rows"] for stream in streams) != rows_wanted
        return found

    def _listed(self) -> list[dict[str, Any]]:
        rows, after = [], ""
        while True:
            page = self.sure("GET", f"/tests?most=100{after}")
            rows += page["items"]
            if not page.get("next"):
                return rows
            after = f"&after={page['next']}"


def _under_fire(house: House, kills: int, done: Counter[str]) -> tuple[list[Rider], Counter[str]]:
    """Have riders write while processes are killed; who they were, and what was wrong at the end."""
    rng, stop = random.Random(SEED), threading.Event()
    riders = [Rider(house, number, stop) for number in range(RIDERS)]
    for rider in riders:
        rider.enter()
    for rider in riders:
        rider.start()
    begun = time.monotonic()
    while sum(done.values()) < kills and all(rider.is_alive() for rider in riders):
        time.sleep(rng.uniform(*PAUSES_S))
        kind = rng.choices(KINDS, (2, 2, 2, 2, 3, 1, 1))[0]
        if house.kill(kind):
            done[kind] += 1
            so_far = sum(done.values())
            if so_far % SPELL == 0:
                print(f"{so_far} kills after {time.monotonic() - begun:.0f} s", flush=True)
                time.sleep(SPELL_S)
    stop.set()
    for rider in riders:
        rider.join()
    for rider in riders:
        if rider.failure is not None:
            raise rider.failure
    faults = sum((rider.faults() for rider in riders), Counter[str]())
    return riders, faults


def bench_chaos(kills: int) -> int:
    """Kill so often, and tell what became of what was acknowledged; the number of faults."""
    done = Counter[str]()
    with tempfile.TemporaryDirectory(prefix="limpet-chaos-") as folder:
        house = House(Path(folder) / "limpet")
        try:
            house.up()
            riders, faults = _under_fire(house, kills, done)
        finally:
            house.down()
    acknowledged = sum((rider.told.counts for rider in riders), Counter[str]())
    print(
        f"killed: {', '.join(f'{name} {count}' for name, count in sorted(done.items()))}; {sum(done.values())} in all"
    )
    print(
        f"acknowledged: {', '.join(f'{name} {count}' for name, count in sorted(acknowledged.items()))}"
    )
    print(f"faults: {dict(faults) if sum(faults.values()) else 'none'}")
    return sum(faults.values())
