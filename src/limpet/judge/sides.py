"""Which tests stand on which side, where nobody dealt them: by what tells them apart."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Final, Literal

from limpet.errors import LimpetError
from limpet.judge.answer import Question
from limpet.judge.comparand import Comparand
from limpet.judge.offers import Mark, mark_of, mark_words
from limpet.readers import METRIC, ReaderUnits

#: How tests were dealt: as they were given (two of them, or so many first), by a name, or by what differs.
DealtBy = Literal["given", "name"] | Question

#: What is looked at in turn, where no question says what differs on purpose: the kit, then what was chosen for
#: the ride. Weather and speed are no choice: rides of one kind would be dealt by chance.
IN_TURN: Final[tuple[Question, ...]] = ("vehicle", "pack", "surface", "tyres", "pedalling", "load")


@dataclass(frozen=True, slots=True, kw_only=True)
class Sides:
    """Two sides, each in the order in which its tests were given, and what dealt them.

    `first_mark` and `second_mark` are what the sides are told apart by; None where they were given.
    """

    first: tuple[Comparand, ...]
    second: tuple[Comparand, ...]
    by: DealtBy
    first_mark: Mark | None = None
    second_mark: Mark | None = None

    def said(self, units: ReaderUnits) -> str:
        """How they were dealt, in a sentence; empty where they stand as they were given."""
        if self.by == "given" or self.first_mark is None:
            return ""
        one = mark_words(self.first_mark, self.by, units)
        two = (
            mark_words(self.second_mark, self.by, units)
            if self.second_mark is not None
            else "the others"
        )
        runs = [
            f"{len(side)} {'ride' if len(side) == 1 else 'rides'}"
            for side in (self.first, self.second)
        ]
        return f"A is {one}, {runs[0]}; B is {two}, {runs[1]}."


def given(tests: Sequence[Comparand], count: int) -> Sides:
    """The first so many against the others.

    Raises
    ------
    LimpetError
        When a side would be empty.
    """
    if not 1 <= count < len(tests):
        raise LimpetError(f"--first {count}: leave at least one bundle for each side")
    return Sides(first=tuple(tests[:count]), second=tuple(tests[count:]), by="given")


def named(tests: Sequence[Comparand], name: str) -> Sides:
    """Those that bear a name, of their vehicle, their pack or themselves, against the others.

    Raises
    ------
    LimpetError
        When all of them bear it, or none.
    """
    wanted = name.strip().casefold()
    for of in _NAMES:
        first = tuple(test for test in tests if (of(test) or "").casefold() == wanted)
        if first and len(first) < len(tests):
            second = tuple(test for test in tests if test not in first)
            return Sides(first=first, second=second, by="name", first_mark=name.strip())
    called = sorted({found for of in _NAMES for test in tests if (found := of(test))})
    raise LimpetError(
        f"--first {name}: no side is called so; there is {', '.join(called) or 'no name at all'}"
    )


def told_apart(
    tests: Sequence[Comparand], question: Question | None, units: ReaderUnits = METRIC
) -> Sides:
    """Two sides by what differs: the vehicle, then the pack, then what the sheets say of how it was ridden.

    Parameters
    ----------
    tests : three or more, as they were given; the first side is that of the first
    question : what differs on purpose; nothing else is looked at then
    units : in which a refusal names what differs

    Raises
    ------
    LimpetError
        When nothing tells two sides apart, or tells more than two: it is not guessed.
    """
    asked = IN_TURN if question is None or question == "repeat" else (question,)
    for by in asked:
        marks = [mark_of(test, by) for test in tests]
        there = list(dict.fromkeys(mark for mark in marks if mark is not None))
        if None in marks or len(there) < 2:
            continue
        if len(there) > 2:
            kinds = ", ".join(mark_words(mark, by, units) for mark in there[:6])
            raise LimpetError(
                f"these bundles are of more than two kinds ({by}: {kinds}): give two of them, or name the "
                "first side with --first NAME, or say with --first N how many bundles it has"
            )
        return Sides(
            first=tuple(test for test, mark in zip(tests, marks, strict=True) if mark == there[0]),
            second=tuple(test for test, mark in zip(tests, marks, strict=True) if mark == there[1]),
            by=by,
            first_mark=there[0],
            second_mark=there[1],
        )
    raise LimpetError(
        f"nothing tells these {len(tests)} bundles apart: name the first side with --first NAME, or say with "
        "--first N how many bundles it has"
    )


_NAMES: Final[tuple[Callable[[Comparand], str | None], ...]] = (
    lambda test: test.vehicle,
    lambda test: test.pack_name,
    lambda test: test.title,
)
