"""Which of the tests that are there can tell what one wants to know, the surest first."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations
from math import asinh, sinh
from typing import Final, cast

from limpet.judge.answer import Question
from limpet.judge.comparand import Comparand
from limpet.judge.compare import MOST_RUNS, compare
from limpet.judge.named_errors import few_draws_of_many
from limpet.readers import ReaderUnits, shown
from limpet.units import Kind

#: Tests that are looked at, the latest; pairs of groups that are tried; and offers that are made.
MOST_TESTS, MOST_TRIED, MOST_OFFERS = 60, 40, 5
#: Two winds, loads, tyres or speeds that lie closer together than this share are one.
APART: Final = 0.15


#: What tells a side: a name, or a value of so much or about as much, in the core's unit.
Mark = str | float


@dataclass(frozen=True, slots=True, kw_only=True)
class Offer:
    """Two sides of tests by their keys, what tells them apart, and the difference that they would show.

    `kind` is the kind of the marks where they are values.
    """

    first: tuple[str, ...]
    second: tuple[str, ...]
    first_mark: Mark
    second_mark: Mark
    kind: Kind | None
    smallest_seen: float

    def named(self, units: ReaderUnits) -> tuple[str, str]:
        """What both sides are called, in a reader's units."""
        one, two = (_words(mark, self.kind, units) for mark in (self.first_mark, self.second_mark))
        return one, two


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
    kind = None if question not in _STEPPED else _STEPPED[question][0]
    groups: dict[tuple[Mark, str], list[Comparand]] = {}
    for test in latest:
        mark = mark_of(test, question)
        if mark is not None and (test.ridden.legs_known or question == "pedalling"):
            groups.setdefault((mark, _vehicle(test, question)), []).append(test)
    alike = [
        (one, two) for one, two in combinations(groups, 2) if one[1] == two[1] and one[0] != two[0]
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
                        first_mark=one[0],
                        second_mark=two[0],
                        kind=kind,
                        smallest_seen=answer.smallest_seen,
                    )
                )
    return tuple(sorted(found, key=lambda offer: offer.smallest_seen)[:MOST_OFFERS])


#: What is told by a value, by question: its kind, and the least that tells two apart.
_STEPPED: Final[dict[Question, tuple[Kind, float]]] = {
    "tyres": ("pressure", 30.0),
    "load": ("mass", 10.0),
    "wind": ("speed", 2.0),
    "speed": ("speed", 1.0),
    "temperature": ("temperature", 8.0),
}


def mark_words(mark: Mark, by: str, units: ReaderUnits) -> str:
    """What a side is called, in a reader's units.

    Parameters
    ----------
    mark : what tells it
    by : the question by which it does
    units : the reader's
    """
    kinds = {question: kind for question, (kind, _) in _STEPPED.items()}
    return _words(mark, kinds.get(cast(Question, by)), units)


def _words(mark: Mark, kind: Kind | None, units: ReaderUnits) -> str:
    if isinstance(mark, str) or kind is None:
        return str(mark)
    return f"about {shown(kind, mark, units, 0)}"


def mark_of(test: Comparand, question: Question) -> Mark | None:
    """What tells a test from others, by question; None where it does not say.

    Parameters
    ----------
    test : as comparisons see it
    question : what it is told apart by
    """
    ridden = test.ridden
    marks: dict[Question, Mark | None] = {
        "vehicle": test.vehicle,
        "pack": test.pack_name,
        "surface": ridden.surface,
        "pedalling": "with legs" if ridden.assisted else "throttle only",
        "tyres": ridden.tyre_kpa,
        "load": ridden.load_kg,
        "wind": ridden.wind_mps,
        "speed": ridden.speed_mps,
        "temperature": ridden.temp_c,
    }
    mark = marks.get(question)
    return _stepped(mark, _STEPPED[question][1]) if isinstance(mark, int | float) else mark


def _stepped(value: float, least: float) -> float:
    """A number as the middle of the step that it lies in, so that about as much is one.

    Notes
    -----
    Steps are `least` wide near nought and a share `APART` of the number far from it: even ones of its
    hyperbolic arcsine, which is a line there and a logarithm here.
    """
    bend = least / APART
    return bend * sinh(APART * round(asinh(value / bend) / APART))


def _vehicle(test: Comparand, question: Question) -> str:
    """The vehicle that is to be the same on both sides; consumption tells of it whatever the pack."""
    return "" if question == "vehicle" else test.vehicle or test.key
