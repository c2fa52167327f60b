"""Which of the tests that are there can tell what one wants to know, the surest first."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import combinations
from typing import Final

from limpet.judge.answer import Question
from limpet.judge.comparand import Comparand
from limpet.judge.compare import MOST_RUNS, compare
from limpet.judge.named_errors import few_draws_of_many

#: Tests that are looked at, the latest; pairs of groups that are tried; and offers that are made.
MOST_TESTS, MOST_TRIED, MOST_OFFERS = 60, 40, 5
#: Two winds, loads, tyres or speeds that lie closer together than this share are one.
APART: Final = 0.15


@dataclass(frozen=True, slots=True, kw_only=True)
class Offer:
    """Two sides of tests by their keys, what tells them apart, and the difference that they would show."""

    first: tuple[str, ...]
    second: tuple[str, ...]
    first_name: str
    second_name: str
    smallest_seen: float


def offers(tests: Sequence[Comparand], question: Question) -> tuple[Offer, ...]:
    """Pairs of groups that can answer a question, those that would show least first.

    Parameters
    ----------
    tests : oldest first
    question : what is to differ; all else is as alike as the tests allow

    Notes
    -----
    Tests are grouped by what is asked and by the rest of their kit; groups of one kit but for that are held
    against each other by `compare` itself, so that an offer promises what the comparison then says.
    """
    latest = list(tests)[-MOST_TESTS:]
    told: Callable[[Comparand], str | None] = _TOLD.get(question, lambda test: None)
    groups: dict[tuple[str, ...], list[Comparand]] = {}
    for test in latest:
        name = told(test)
        if name is not None and (test.ridden.legs_known or question == "pedalling"):
            groups.setdefault((name, *_rest(test, question)), []).append(test)
    alike = [
        (one, two)
        for one, two in combinations(groups, 2)
        if one[1:] == two[1:] and one[0] != two[0]
    ]
    # The groups with most tests first: they tell most, should there be more pairs than are tried.
    alike.sort(key=lambda pair: -min(len(groups[pair[0]]), len(groups[pair[1]])))
    found = []
    sides = [
        (one, two, groups[one][-MOST_RUNS:], groups[two][-MOST_RUNS:])
        for one, two in alike[:MOST_TRIED]
    ]
    with few_draws_of_many(sum(len(first) + len(second) for _, _, first, second in sides)):
        for one, two, first, second in sides:
            answer = compare(first, second, question)
            if answer.smallest_seen is not None:
                found.append(
                    Offer(
                        first=tuple(test.key for test in first),
                        second=tuple(test.key for test in second),
                        first_name=one[0],
                        second_name=two[0],
                        smallest_seen=answer.smallest_seen,
                    )
                )
    return tuple(sorted(found, key=lambda offer: offer.smallest_seen)[:MOST_OFFERS])


def _stepped(value: float | None, least: float, unit: str, factor: float = 1.0) -> str | None:
    """A number as the step that it lies in, so that about as much is one."""
    if value is None:
        return None
    step = max(APART * abs(value), least)
    return f"about {round(value / step) * step * factor:.0f} {unit}"


#: What tells two tests apart, by question.
_TOLD: Final[dict[Question, Callable[[Comparand], str | None]]] = {
    "vehicle": lambda test: test.vehicle,
    "pack": lambda test: test.pack_name,
    "surface": lambda test: test.ridden.surface,
    "tyres": lambda test: _stepped(test.ridden.tyre_kpa, 30.0, "kPa"),
    "load": lambda test: _stepped(test.ridden.load_kg, 10.0, "kg"),
    "wind": lambda test: _stepped(test.ridden.wind_mps, 2.0, "m/s"),
    "speed": lambda test: _stepped(test.ridden.speed_mps, 1.0, "km/h", 3.6),
    "pedalling": lambda test: "with legs" if test.ridden.assisted else "throttle only",
    "temperature": lambda test: _stepped(test.ridden.temp_c, 8.0, "°C"),
}


def _rest(test: Comparand, question: Question) -> tuple[str, ...]:
    """The kit that is to be the same on both sides."""
    vehicle = "" if question == "vehicle" else test.vehicle or test.key
    # Consumption tells of a vehicle whatever the pack; of a pack only on one vehicle.
    return (vehicle,)
