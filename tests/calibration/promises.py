"""Promises that are held against later rides: other days, other weather, and an older pack.

The road is that of `pairs`, stepped second by second, the pack's life that of `lives`; what the cold takes is a
straight line whose slope differs from pack to pack. Nothing of it is the core's.
"""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass, replace
from datetime import UTC, datetime

import numpy as np

from limpet.evidence.model import (
    Conditions,
    Ending,
    Entry,
    Instrument,
    Instruments,
    Protocol,
    RangeTest,
    RiderSpec,
    Start,
    TestSheet,
    VehicleSpec,
)
from limpet.figures.plan_on import STEP_C, WITHIN_C, PlanOn
from limpet.pack.spec import PackSpec
from limpet.tell import analyse
from tests.calibration.lives import Life, life
from tests.calibration.pairs import BODY, Machine, Outing, ridden_wh_per_km

RESERVE = 0.2
#: What such a pack gives when it is new and warm [Wh].
FRESH_WH = 640.0
#: Runs of one vehicle on like days differ by this, relative (handbook section 12, simulations: 4.6% on the whole).
RUNS_DIFFER = (0.02, 0.06)


@dataclass(frozen=True, kw_only=True)
class World:
    """A vehicle, its usual day, its pack's life and what the cold takes of it, as they truly are."""

    machine: Machine
    day: Outing
    pack: Life
    month: float
    cycles_a_month: float
    cold_per_c: float
    tyre_per_c: float
    runs_differ: float
    gain: float
    label: float

    def usable_wh(self, temp_c: float, month: float) -> float:
        """What the pack gives to its cut-off [Wh]."""
        lived = float(np.interp(month, np.arange(len(self.pack.truth)), self.pack.truth))
        return FRESH_WH * self.label * lived * (1 - self.cold_per_c * max(25 - temp_c, 0.0))

    def range_m(self, day: Outing, month: float, rng: np.random.Generator) -> tuple[float, float]:
        """How far it goes on a day [m], and for how long [s]."""
        # Rubber is stiffer in the cold.
        crr = self.machine.crr * (1 + self.tyre_per_c * (20 - day.temp_c))
        per_km, seconds = ridden_wh_per_km(replace(self.machine, crr=crr), day, rng, 12.0)
        far_km = self.usable_wh(day.temp_c, month) / per_km
        return 1000 * far_km, seconds * far_km / 12.0

    def like(self, rng: np.random.Generator, temp_c: float) -> Outing:
        """Another such day: wind and pace differ a little, and what nobody notes."""
        return replace(
            self.day,
            temp_c=temp_c,
            style=rng.normal(1, self.runs_differ),
            speed_mps=self.day.speed_mps * rng.normal(1, 0.02),
            wind_mps=abs(self.day.wind_mps + rng.normal(0, 0.6)),
        )


def world(number: int) -> World:
    """A rider's vehicle and pack, seeded."""
    rng = np.random.default_rng([17, number])
    kind = ("kick_scooter", "bicycle", "moped")[number % 3]
    mass, cda, crr, efficiency, speed = BODY[kind]
    machine = Machine(
        name="Plover", kind=kind, mass_kg=mass, cda_m2=cda * rng.normal(1, 0.08),
        crr=crr * rng.normal(1, 0.12), efficiency=efficiency * rng.normal(1, 0.04),
    )  # fmt: skip
    day = Outing(
        speed_mps=speed * rng.normal(1, 0.06), wind_mps=abs(rng.normal(2.5, 1.2)),
        temp_c=rng.uniform(-2, 28), load_kg=round(rng.uniform(65, 100)),
        stops_per_km=rng.uniform(0, 0.8), climb_m_per_km=rng.uniform(2, 10),
    )  # fmt: skip
    return World(
        machine=machine, day=day, pack=life(rng), month=rng.uniform(0, 30),
        cycles_a_month=rng.uniform(2, 20), cold_per_c=rng.uniform(0.003, 0.008),
        tyre_per_c=rng.uniform(0.0, 0.012),
        runs_differ=rng.uniform(*RUNS_DIFFER), gain=rng.normal(1, 0.008), label=rng.normal(1.05, 0.04),
    )  # fmt: skip


def first_ride(of: World, number: int) -> RangeTest:
    """The ride that the promise is told by: from full to its end, with a meter and a trip meter."""
    rng = np.random.default_rng([18, number])
    day = of.like(rng, of.day.temp_c)
    far_m, seconds = of.range_m(day, of.month, rng)
    energy = of.usable_wh(day.temp_c, of.month)
    trip = rng.normal(1, 0.01)
    entries = tuple(
        Entry(
            time_s=round(part * seconds),
            kind="start" if part == 0 else "end" if part == 1 else "checkpoint",
            trip_m=round(part * far_m * trip, -2),
            energy_wh=round(part * energy * of.gain, 1),
        )
        for part in (0.0, 0.3, 0.6, 1.0)
    )
    meter = Instrument(accuracy_pct=1.5)
    sheet = TestSheet(
        title=f"Plover {number}",
        vehicle=VehicleSpec(
            kind=of.machine.kind, name="Plover", mass_kg=round(of.machine.mass_kg, 1)
        ),
        pack=PackSpec(
            name="Eider", chemistry="nmc", series=13, rated_ah=13.5, full_v=54.6, cutoff_v=41.0,
            equivalent_full_cycles=round(of.month * of.cycles_a_month) if number % 2 else None,
        ),
        started_at=datetime(2026, 5, 14, 9, tzinfo=UTC),
        start=Start(full=True),
        ending=Ending(reason="cutoff"),
        protocol=Protocol(reserve=RESERVE),
        rider=RiderSpec(name="Ines", mass_kg=day.load_kg - 5, gear_kg=5.0),
        conditions=Conditions(
            temp_start_c=round(day.temp_c + rng.normal(0, 1)), wind_mps=round(day.wind_mps, 1),
            surface="smooth_paved",
        ),
        instruments=Instruments(energy=meter, trip=Instrument(accuracy_pct=2.0)),
    )  # fmt: skip
    return RangeTest(sheet=sheet, entries=entries)


@dataclass(frozen=True)
class Kept:
    """How many promises of a clause were kept, and by how much they fell short of the middle ride."""

    asked: int
    kept: int
    timid: float

    @property
    def share(self) -> float:
        """Of the promises [-]."""
        return self.kept / self.asked


CLAUSES = ("alike", "in other weather", "as told, 12 °C colder", "after its time")


def kept_by_clause(worlds: int) -> dict[str, Kept]:
    """Each promise against three later rides of each clause.

    Notes
    -----
    "alike": weather within the clause, and its months. "in other weather": the table's own number for the
    weather nearest. The last two break a clause: they show what it is for.
    """
    found: dict[str, list[tuple[bool, float]]] = defaultdict(list)
    for number in range(worlds):
        of = world(number)
        plan = analyse(first_ride(of, number)).plan_on
        assert plan is not None
        rng = np.random.default_rng([19, number])
        for _ in range(3):
            soon = of.month + rng.uniform(0, plan.months)
            temp = of.day.temp_c + rng.uniform(-WITHIN_C, WITHIN_C)
            elsewhere = rng.uniform(-15, 35)
            later = of.month + rng.uniform(plan.months + 6, plan.months + 30)
            for clause, promised, temp_c, month in (
                ("alike", plan.distance_m, temp, soon),
                ("in other weather", _in_weather(plan, elsewhere), elsewhere, soon),
                ("as told, 12 °C colder", plan.distance_m, of.day.temp_c - 12, soon),
                ("after its time", plan.distance_m, temp, later),
            ):
                far_m, _ = of.range_m(of.like(rng, temp_c), month, rng)
                goes = (1 - RESERVE) * far_m
                found[clause].append((goes >= promised, promised / goes))
    return {
        clause: Kept(
            len(rows),
            sum(kept for kept, _ in rows),
            float(1 - np.median([share for _, share in rows])),
        )
        for clause, rows in found.items()
    }


def _in_weather(plan: PlanOn, temp_c: float) -> float:
    """The table's number for the weather nearest."""
    nearest = min(plan.in_weather, key=lambda row: abs(row.temp_c - temp_c))
    assert abs(nearest.temp_c - temp_c) <= STEP_C / 2
    return nearest.distance_m


def told(worlds: int) -> str:
    """The clauses as lines."""
    return "\n".join(
        f"{clause:<24} kept {item.kept} of {item.asked} ({item.share:.1%}), "
        f"{item.timid:.0%} under the middle ride"
        for clause, item in kept_by_clause(worlds).items()
    )
