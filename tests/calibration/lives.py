"""Lives of packs with a known truth, and whether what is told of their end holds.

The generator shares nothing with the core's model of ageing: time takes with its root, cycles take evenly,
a knee comes to some, a dead group to some; every test has its meter's gain, its own scatter and a
temperature that is set right not quite rightly.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from limpet.history.ageing import Course, course_of
from limpet.pack.wearing import usual_months

FloatArray = NDArray[np.float64]

#: Months that a life is looked at, and the share that it is worn at.
LONGEST_MONTHS, WORN = 400, 0.8


@dataclass(frozen=True, slots=True)
class Life:
    """A pack: what it gave at each month over what it gave fresh, and its tests."""

    truth: FloatArray
    months: FloatArray
    retained: FloatArray
    std: FloatArray
    dead_at: float | None

    @property
    def worn_at(self) -> float:
        """When it came down to 80% of what it gave fresh [months]."""
        below = np.flatnonzero(self.truth <= WORN)
        return float(below[0]) if len(below) else float(LONGEST_MONTHS)


def life(rng: np.random.Generator) -> Life:
    """A pack's whole life and the few tests of its first part."""
    month = np.arange(LONGEST_MONTHS + 1, dtype=np.float64)
    by_time = rng.uniform(0.005, 0.022) * np.sqrt(month)
    by_use = rng.uniform(0.0, 0.005) * month
    knee = rng.uniform(18, 70) if rng.random() < 0.25 else np.inf
    late = np.where(month > knee, rng.uniform(0.002, 0.008) * np.maximum(month - knee, 0), 0.0)
    dead = rng.uniform(6, 36) if rng.random() < 0.08 else None
    gone = 0.0 if dead is None else np.where(month >= dead, rng.uniform(0.08, 0.25), 0.0)
    truth = np.clip(1 - by_time - by_use - late - gone, 0, 1)
    count = int(rng.integers(2, 12))
    until = rng.uniform(4, 40)
    when = np.sort(np.concatenate([[0.0], rng.uniform(1, until, count - 1)]))
    said = float(rng.choice([0.012, 0.02, 0.03, 0.045]))
    # The part that a meter's gain has in common goes out of every share of what it gave fresh.
    common = rng.uniform(0.0, 0.9)
    gain = np.sqrt(common) * said * rng.standard_normal()
    own = np.sqrt(1 - common) * said * rng.standard_normal(count)
    label = rng.normal(1.0, 0.05)
    told = label * np.interp(when, month, truth) * (1 + gain + own)
    return Life(truth, when, told, np.full(count, said), dead)


def courses(lives: int, seed: int) -> list[tuple[Life, Course]]:
    """Lives with what the core makes of their tests."""
    rng = np.random.default_rng(seed)
    found = []
    while len(found) < lives:
        one = life(rng)
        course = course_of(one.months, one.retained, one.std, usual=usual_months(), from_fresh=True)
        if course is not None:
            found.append((one, course))
    return found


def held(found: list[tuple[Life, Course]]) -> float:
    """The share of lives whose 80% came within the interval told."""
    inside = []
    for one, course in found:
        told = course.crosses(WORN, of_fresh=True)
        inside.append(told.low <= one.worn_at <= told.high)
    return float(np.mean(inside))


def told(lives: int, seed: int) -> str:
    """How often the end told of a life holds, and how wide it is, by what was known of the life."""
    found = courses(lives, seed)
    dead = [(one, course) for one, course in found if one.dead_at and one.dead_at < one.months[-1]]
    groups = {
        "all": found,
        "2 or 3 tests": [pair for pair in found if len(pair[0].months) < 4],
        "4 to 7 tests": [pair for pair in found if 4 <= len(pair[0].months) < 8],
        "8 or more tests": [pair for pair in found if len(pair[0].months) >= 8],
        "told by its tests": [pair for pair in found if pair[1].by_tests],
        "a group died between tests": dead,
    }
    lines = []
    for name, some in ((name, some) for name, some in groups.items() if some):
        ends = [course.crosses(WORN, of_fresh=True) for _, course in some]
        wide = float(np.median([end.high / end.low for end in ends]))
        lines.append(
            f"80% of {len(some)} lives, {name}: held {held(some):.1%}, latest over earliest {wide:.1f}"
        )
    false = sum(course.known_step is not None for one, course in found if one.dead_at is None)
    seen = sum(course.known_step is not None for _, course in dead)
    lines.append(
        f"steps told where there was none: {false}; where there was one: {seen} of {len(dead)}"
    )
    return "\n".join(lines)
