"""Pairs of rides with a true difference, ridden by a simulator that knows nothing of the core's models.

Its road is stepped second by second with hills, stops, gusts and a rider who does not hold a speed; its
battery is a straight line with a knee and a resistance. Nothing here imports the core's road or pack.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from datetime import UTC, datetime, timedelta
from functools import cache

import numpy as np
from numpy.typing import NDArray

from limpet.evidence.model import (
    Conditions,
    Entry,
    Instrument,
    Instruments,
    RangeTest,
    RiderSpec,
    TestSheet,
    VehicleSpec,
)
from limpet.judge import Comparand, Comparison, comparand_of, compare
from limpet.pack.spec import PackSpec
from limpet.tell import analyse

FloatArray = NDArray[np.float64]

STEP_S = 2.0
#: What is asked of the vehicle apart from what the road asks [W].
AUX_W = {"kick_scooter": 9.0, "bicycle": 8.0, "moped": 20.0}
#: Mass [kg], CdA [m²], C_rr, efficiency, speed [m/s] of each kind.
BODY = {
    "kick_scooter": (16.0, 0.60, 0.016, 0.78, 5.6),
    "bicycle": (28.0, 0.54, 0.0105, 0.78, 6.0),
    "moped": (90.0, 0.60, 0.0125, 0.80, 10.5),
}
#: How much a run differs from the next in what nobody notes [-].
RUNS_DIFFER = (0.01, 0.035)


@dataclass(frozen=True, kw_only=True)
class Machine:
    """A vehicle as it truly is."""

    name: str
    kind: str
    mass_kg: float
    cda_m2: float
    crr: float
    efficiency: float


@dataclass(frozen=True, kw_only=True)
class Outing:
    """A day and how it was ridden, as it truly was."""

    speed_mps: float
    wind_mps: float
    temp_c: float
    load_kg: float
    stops_per_km: float
    climb_m_per_km: float
    style: float = 1.0


def ridden_wh_per_km(
    machine: Machine, day: Outing, rng: np.random.Generator, km: float
) -> tuple[float, float]:
    """What a ride takes [Wh/km], and its time [s], stepped along a road that goes round."""
    steps = int(km * 1000 / day.speed_mps / STEP_S) + 2
    wander = np.convolve(rng.normal(0, 1, steps + 40), np.ones(40) / 40**0.5, "valid")[:steps]
    speed = np.clip(day.speed_mps * (1 + 0.08 * wander), 1.0, None)
    way = np.cumsum(speed) * STEP_S
    heading = 2 * np.pi * way / (km * 1000 / 3)
    gust = day.wind_mps * (1 + 0.2 * rng.normal(0, 1, steps))
    air = speed + gust * np.cos(heading)
    density = 1.2255 * 288.15 / (273.15 + day.temp_c)
    mass = machine.mass_kg + day.load_kg
    wave = 900.0
    # Up and down a wave whose climb is what the day has.
    grade = np.clip(day.climb_m_per_km / 1000 * np.pi * np.cos(2 * np.pi * way / wave), -0.12, 0.12)
    force = mass * 9.80665 * (machine.crr + grade) + 0.5 * density * machine.cda_m2 * air * np.abs(
        air
    )
    drive = np.maximum(force, 0.0) * speed / machine.efficiency
    energy_j = (drive + AUX_W[machine.kind]).sum() * STEP_S
    # A third of the way to a stop is coasted; what is left is braked away.
    stops = day.stops_per_km * km
    energy_j += stops * 0.7 * 0.5 * mass * day.speed_mps**2 / machine.efficiency
    # As long as such a ride takes for exactly so far.
    seconds = km * 1000 / (way[-1] / (steps * STEP_S))
    return float(day.style * energy_j / 3600 / (way[-1] / 1000)), float(seconds)


#: The battery: cells in series, what it truly holds, and a straight line of volts with a knee.
SERIES, FULL_AH = 13, 14.4


def _rest_v(left: FloatArray) -> FloatArray:
    return SERIES * (3.45 + 0.75 * left - 0.5 * np.maximum(0.1 - left, 0) / 0.1)


_LEFT = np.linspace(1, 0, 400)
_TAKEN_WH = (
    np.concatenate(
        [[0], np.cumsum((_rest_v(_LEFT)[1:] + _rest_v(_LEFT)[:-1]) / 2 * -np.diff(_LEFT))]
    )
    * FULL_AH
)


@dataclass(frozen=True, kw_only=True)
class Meter:
    """What a rider reads by, with its true errors."""

    name: str
    energy_gain: float
    trip_gain: float
    pct: float = 1.5
    trip_pct: float = 2.0


def bundle(
    machine: Machine, day: Outing, meter: Meter, rng: np.random.Generator, km: float, at: datetime
) -> RangeTest:
    """A ride as its rider writes it down: a meter's watt-hours and amp-hours, a trip meter, clocks."""
    per_km, seconds = ridden_wh_per_km(machine, day, rng, km)
    entries = []
    for k, part in enumerate((0.0, 0.25, 0.5, 0.75, 1.0)):
        energy = part * per_km * km
        left = float(np.interp(energy, _TAKEN_WH, _LEFT))
        entries.append(
            Entry(
                time_s=round(part * seconds, 0),
                kind="start" if k == 0 else "end" if k == 4 else "checkpoint",
                trip_m=round(part * km * 1000 * meter.trip_gain, -1),
                energy_wh=round(energy * meter.energy_gain, 1),
                voltage_rest_v=round(float(_rest_v(np.array([left]))[0]), 1),
                charge_ah=round((1 - left) * FULL_AH * meter.energy_gain, 2),
            )
        )
    noted = Conditions(
        temp_start_c=round(day.temp_c + rng.normal(0, 1)),
        wind_mps=max(round(day.wind_mps * rng.normal(1, 0.12) + rng.normal(0, 0.3), 1), 0.0),
        surface="smooth_paved",
    )
    maker = Instrument(name=meter.name, accuracy_pct=meter.pct)
    sheet = TestSheet(
        title=f"{machine.name} {at:%d %b %H:%M}",
        vehicle=VehicleSpec(kind=machine.kind, name=machine.name, mass_kg=machine.mass_kg),
        pack=PackSpec(
            name="Eider", chemistry="nmc", series=13, rated_ah=14.0, full_v=54.6, cutoff_v=41.0
        ),
        purpose="compare",
        started_at=at,
        rider=RiderSpec(name="Ines", mass_kg=day.load_kg - 5, gear_kg=5.0),
        conditions=noted,
        instruments=Instruments(
            energy=maker, charge=maker, trip=Instrument(accuracy_pct=meter.trip_pct)
        ),
    )
    return RangeTest(sheet=sheet, entries=tuple(entries))


@dataclass(frozen=True, kw_only=True)
class Posed:
    """A comparison with its truth: how much more the second takes on the first's day [log]."""

    first: tuple[Comparand, ...]
    second: tuple[Comparand, ...]
    truth: float
    one_course: bool


def posed(number: int, difference: float, runs: int = 1) -> Posed:
    """Two vehicles, the second that much thirstier, each ridden so many times."""
    rng = np.random.default_rng([29, number, round(1000 * difference), runs])
    kind = ("kick_scooter", "bicycle", "moped")[number % 3]
    mass, cda, crr, efficiency, speed = BODY[kind]
    one = Machine(
        name="Plover",
        kind=kind,
        mass_kg=round(mass * rng.normal(1, 0.1), 1),
        cda_m2=cda * rng.normal(1, 0.08),
        crr=crr * rng.normal(1, 0.12),
        efficiency=efficiency * rng.normal(1, 0.04),
    )
    two = replace(one, name="Dotterel", efficiency=one.efficiency / (1 + difference))
    one_course = bool(number % 2)
    spread = rng.uniform(*RUNS_DIFFER)
    usual = Outing(
        speed_mps=speed * rng.normal(1, 0.06), wind_mps=abs(rng.normal(2.5, 1.5)),
        temp_c=rng.uniform(4, 24), load_kg=round(rng.uniform(65, 100)), stops_per_km=rng.uniform(0, 0.8),
        climb_m_per_km=rng.uniform(2, 10),
    )  # fmt: skip

    def day() -> Outing:
        style = rng.normal(1, spread)
        if one_course:
            return replace(
                usual, style=style, speed_mps=usual.speed_mps * rng.normal(1, 0.02),
                wind_mps=max(usual.wind_mps + rng.normal(0, 0.5), 0),
            )  # fmt: skip
        return replace(
            usual, style=style, speed_mps=usual.speed_mps * rng.normal(1, 0.08),
            wind_mps=abs(rng.normal(2.5, 1.5)), temp_c=rng.uniform(0, 26),
            load_kg=round(usual.load_kg + rng.normal(0, 5)),
        )  # fmt: skip

    meter = Meter(
        name="Clamp",
        energy_gain=1 + rng.uniform(-0.015, 0.015),
        trip_gain=1 + rng.uniform(-0.02, 0.02),
    )
    other = replace(meter, trip_gain=1 + rng.uniform(-0.02, 0.02))
    if rng.random() < 0.4:
        other = replace(other, name="Other", energy_gain=1 + rng.uniform(-0.015, 0.015))
    km = rng.uniform(8, 18)
    begun = datetime(2026, 5, 14, 9, tzinfo=UTC)
    sides: tuple[list[Comparand], list[Comparand]] = ([], [])
    first_day = None
    # A B B A.
    order = [side for turn in range(runs) for side in ((0, 1) if turn % 2 == 0 else (1, 0))]
    for place, side in enumerate(order):
        machine, tool = ((one, meter), (two, other))[side]
        ridden = day()
        if side == 0 and first_day is None:
            first_day = ridden
        test = bundle(machine, ridden, tool, rng, km, begun + timedelta(hours=2 * place))
        sides[side].append(comparand_of(test, analyse(test), f"{number}-{place}"))
    assert first_day is not None
    calm = np.random.default_rng(1)
    still = replace(first_day, style=1.0)
    own, _ = ridden_wh_per_km(one, still, calm, km)
    theirs, _ = ridden_wh_per_km(two, still, np.random.default_rng(1), km)
    return Posed(
        first=tuple(sides[0]), second=tuple(sides[1]),
        truth=float(np.log(theirs / own)), one_course=one_course,
    )  # fmt: skip


@dataclass(frozen=True)
class Judged:
    """What came of comparisons of one true difference."""

    difference: float
    runs: int
    count: int
    shown: int
    shown_on_one_course: float
    wrong_way: int
    held: float
    half: float

    def __str__(self) -> str:
        return (
            f"true {self.difference:4.0%}, {self.runs} run{'s' if self.runs > 1 else ''} each: {self.count} pairs, "
            f"shown {self.shown / self.count:5.1%} (one course {self.shown_on_one_course:5.1%}), wrong way "
            f"{self.wrong_way}, interval holds the truth {self.held:5.1%}, half-width {self.half:.1%}"
        )


@cache
def judged(difference: float, pairs: int, runs: int = 1) -> Judged:
    """Compare so many pairs of one true difference."""
    answers: list[tuple[Posed, Comparison]] = []
    for item in _posed(difference, pairs, runs):
        answers.append((item, compare(item.first, item.second)))
    # Whoever goes less far with one pack uses more.
    by_range = [answer.quantity == "range_to_cutoff" for _, answer in answers]
    names = [
        ("second_less", "first_less") if far else ("first_less", "second_less") for far in by_range
    ]
    shown = [answer.verdict == name for (_, answer), (name, _) in zip(answers, names, strict=True)]
    wrong = [answer.verdict == name for (_, answer), (_, name) in zip(answers, names, strict=True)]
    if difference == 0:
        shown = [one or other for one, other in zip(shown, wrong, strict=True)]
    held, half = [], []
    for (item, answer), far in zip(answers, by_range, strict=True):
        found = answer.relative_difference
        assert found is not None
        held.append(found.low <= np.expm1(-item.truth if far else item.truth) <= found.high)
        half.append((found.high - found.low) / 2)
    course = [one for one, (item, _) in zip(shown, answers, strict=True) if item.one_course]
    return Judged(
        difference, runs, len(answers), sum(shown), float(np.mean(course)), sum(wrong),
        float(np.mean(held)), float(np.mean(half)),
    )  # fmt: skip


def _posed(difference: float, pairs: int, runs: int) -> Iterator[Posed]:
    for number in range(pairs):
        yield posed(number, difference, runs)
