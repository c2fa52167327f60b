"""How long comparing takes in the core: a pair, seasons and ageing of hundreds of tests, a tide table."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from datetime import UTC, datetime, timedelta

import numpy as np

from limpet.evidence.model import RangeTest
from limpet.history import facts_of
from limpet.history.dated import Dated
from limpet.history.packlife import pack_life
from limpet.judge import comparand_of, compare
from limpet.judge.comparand import Comparand, Figure
from limpet.judge.ranges import ranges_at_first
from limpet.judge.seasons import seasons
from limpet.judge.tidetable import tide_table
from limpet.tell import analyse
from tests.trips import trip

#: Tests of a busy life.
MANY = 500


def bench_judgements(
    best_of: Callable[[Callable[[], object]], tuple[float, float]],
    line: Callable[..., None],
    logged: Callable[[int, float], RangeTest],
) -> None:
    """Compare, seasons, ageing and the tide table against their aims."""
    rides = [logged(100_000, 4.0), logged(100_000, 4.0)]
    results = [analyse(ride) for ride in rides]
    two = [
        comparand_of(ride, result, str(k))
        for k, (ride, result) in enumerate(zip(rides, results, strict=True))
    ]
    line(
        "Compare of two rides of 100,000 samples, as kept",
        best_of(lambda: compare(two[:1], two[1:])),
        "0.2 s",
    )
    many = [_in_its_weather(two[0], number) for number in range(MANY)]
    line(f"Seasons over {MANY} tests", best_of(lambda: seasons(many)), "1 s")
    facts = facts_of(rides[0], results[0])
    begun = datetime(2020, 1, 1, tzinfo=UTC)

    def aged() -> object:
        ranges = ranges_at_first(many)
        dated = [
            Dated(
                key=test.key, at=begun + timedelta(days=4 * number), range_m=ranges[test.key],
                facts=replace(facts, title=test.title, retained=(1 - 0.0004 * number, 0.02)),
            )
            for number, test in enumerate(many)
        ]  # fmt: skip
        return pack_life(dated, 14.0, begun + timedelta(days=2001))

    line(f"Ageing over {MANY} tests", best_of(aged), "1 s")
    line("Tide table of 5 × 5 × 3", best_of(lambda: tide_table(trip())), "1 s")


def _in_its_weather(test: Comparand, number: int) -> Comparand:
    rng = np.random.default_rng(number)
    temp, metres = float(rng.uniform(-5, 28)), 30_000 * float(rng.normal(1, 0.04))
    ridden = replace(test.ridden, temp_c=temp, speed_mps=float(rng.choice([5.0, 5.5, 9.0])))
    return replace(
        test,
        key=f"{number}",
        title=f"Ride {number}",
        ridden=ridden,
        figures={
            "range_to_cutoff": Figure(value=metres, std=0.03 * metres, parts=(("trip", 0.5),)),
            "wh_per_km": Figure(value=15.0, std=0.4, parts=(("trip", 0.5),)),
        },
    )
