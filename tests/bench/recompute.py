"""The core has changed, so every result is due again: how long that takes, and what lists show meanwhile.

In a database of the bench's own: the demo's tests, entries and samples too, copied as often as asked, all kept
under another core. One process computes what is due, as the process for results does; between its tests the
logbook's first page is asked for, as a rider would.
"""

from __future__ import annotations

import os
import subprocess
import sys
import time
from datetime import timedelta
from pathlib import Path
from statistics import median
from typing import Any
from uuid import uuid4

ROOT = Path(__file__).resolve().parents[2]
NAME = "limpet_test_recompute"
#: After so many results the logbook is asked for.
LOOK_EVERY = 50


def bench_recompute(count: int) -> None:
    """Compute the results of so many tests anew, and print what it took."""
    os.environ["LIMPET_DB_NAME"] = NAME
    _demo()
    import django

    django.setup()
    from django.contrib.auth.models import User
    from django.db import connection
    from django.test import Client
    from django.test.utils import CaptureQueriesContext

    from server.results import services, worker
    from server.results.queries import due

    owner = User.objects.create_user("many", password=uuid4().hex)
    _copies(owner, count)
    client = Client(SERVER_NAME="127.0.0.1")
    client.force_login(owner)
    begun = time.perf_counter()
    waiting = due().count()
    print(f"{waiting} results are due; counting them took {time.perf_counter() - begun:.2f} s")
    assert waiting >= count

    looks: list[float] = []
    shown: list[int] = []
    since = [0]
    compute = services.compute

    def computed(test: Any) -> Any:
        since[0] += 1
        if since[0] % LOOK_EVERY == 1:
            begun = time.perf_counter()
            rows = client.get("/api/tests").json()["items"]
            looks.append(time.perf_counter() - begun)
            shown.append(sum(row["figures"] is not None for row in rows))
        return compute(test)

    services.compute = computed
    begun = time.perf_counter()
    with CaptureQueriesContext(connection) as queries:
        worker.compute_due()
    taken_s = time.perf_counter() - begun
    services.compute = compute
    assert due().count() == 0
    # The context keeps the last queries only where there are very many.
    print(
        f"{since[0]} results in {taken_s:.0f} s: {1000 * taken_s / since[0]:.0f} ms each, one process"
    )
    print(f"queries kept by the driver's log: {len(queries)}")
    print(
        f"the logbook meanwhile, {len(looks)} looks: {1000 * median(looks):.0f} ms in the median, {1000 * max(looks):.0f} at most"
    )
    print(f"rows of its first page with figures: {min(shown)} at least, {shown[-1]} at the end")


def _demo() -> None:
    """A fresh database with the demo in it."""
    import MySQLdb

    port, password = int(os.environ["LIMPET_DB_PORT"]), os.environ["LIMPET_DB_PASSWORD"]
    door = MySQLdb.connect(host="127.0.0.1", port=port, user="limpet", password=password)
    with door.cursor() as cursor:
        cursor.execute(f"DROP DATABASE IF EXISTS {NAME}")
        cursor.execute(f"CREATE DATABASE {NAME} CHARACTER SET utf8mb4")
    door.close()
    for command in (["migrate", "--verbosity=0"], ["load_demo"]):
        manage = [sys.executable, "-m", "server.manage", *command]
        subprocess.run(manage, cwd=ROOT, check=True, stdout=subprocess.DEVNULL)


def _copies(owner: Any, count: int) -> None:
    """So many tests of an account, the demo's over and over on earlier days, kept by another core."""
    from server.accounts.models import Account
    from server.logbook.models import Entry, RangeTest, SampleChunk, Stream
    from server.results.models import TestResult

    demo = Account.objects.get(is_demo=True).owner
    patterns = list(
        RangeTest.objects.owned_by(demo)
        .filter(state="ended", kept_result__isnull=False)
        .select_related("kept_result")
    )
    TestResult.objects.filter(test__owner=demo).update(core="before")
    for number in range(count):
        pattern = patterns[number % len(patterns)]
        back = timedelta(days=number // len(patterns))
        made = _like(pattern, id=uuid4(), owner=owner, sorted_at=pattern.sorted_at - back)
        made.save(force_insert=True)
        _like(pattern.kept_result, pk=None, test=made, core="before").save(force_insert=True)
        entries = [_like(entry, id=uuid4(), test=made) for entry in pattern.entries.all()]
        Entry.objects.bulk_create(entries)
        for stream in pattern.streams.all():
            own = _like(stream, id=uuid4(), test=made)
            own.save(force_insert=True)
            chunks = [_like(chunk, pk=None, stream=own) for chunk in stream.chunks.all()]
            SampleChunk.objects.bulk_create(chunks)
    assert Stream.objects.filter(test__owner=owner).exists()


def _like(row: Any, **changed: Any) -> Any:
    """A row like another, with some values of its own."""
    fields = {field.attname: getattr(row, field.attname) for field in row._meta.concrete_fields}
    made = type(row)(**fields)
    for name, value in changed.items():
        setattr(made, name, value)
    return made
