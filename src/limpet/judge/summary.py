"""What a comparison has to say in words."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from math import expm1, log1p
from typing import Final

from limpet.judge.answer import Change, Comparison, Question
from limpet.judge.comparand import Comparand, Name
from limpet.notices import Notice
from limpet.planning.rules import alternating
from limpet.words import FACTOR_WORDS

#: A condition that is worth more than this beside the question is named [-].
WORTH_NAMING = 0.05
_LESS: Final[dict[Name, str]] = {
    "wh_per_km": "compare_less_energy",
    "range_to_cutoff": "compare_less_range",
    "retained_fraction": "compare_less_kept",
}


#: What an unnamed side is called by, in a notice's values.
FIRST, SECOND = "side:first", "side:second"


def side_name(test: Comparand, other: Comparand, otherwise: str) -> str:
    """What a side is called: by what tells it from the other."""
    for name in ("vehicle", "pack_name", "title"):
        own, theirs = getattr(test, name), getattr(other, name)
        if own and theirs and own != theirs:
            return str(own)
    return otherwise


def reasons_of(
    answer: Comparison, first: Sequence[Comparand], second: Sequence[Comparand], found: float
) -> tuple[Notice, ...]:
    """The verdict in a sentence, and what would settle it.

    Parameters
    ----------
    found : the difference as the tests were ridden, as a logarithm
    """
    relative, quantity = answer.relative_difference, answer.quantity
    if relative is None or quantity is None or answer.smallest_seen is None:
        return ()
    names = (
        side_name(first[0], second[0], FIRST),
        side_name(second[0], first[0], SECOND),
    )
    if answer.verdict == "no_difference_shown":
        said = [Notice("compare_none", seen=answer.smallest_seen)]
        wanted = answer.wanted or 0.0
        if answer.settle_runs != answer.runs_needed:
            runs, seen = answer.alike_runs or 0, answer.alike_seen or 0.0
            order = order_of(runs)
            alike: dict[str, float | int | str] = {
                "wanted": wanted,
                "runs": runs,
                "seen": seen,
                "order": order,
            }
            if answer.runs_needed is None:
                said.append(Notice("compare_never", **alike))
            else:
                said.append(Notice("compare_many", needed=answer.runs_needed, **alike))
        elif answer.runs_needed is not None:
            order = order_of(answer.runs_needed)
            said.append(Notice("compare_runs", runs=answer.runs_needed, wanted=wanted, order=order))
        return tuple(said)
    less = 0 if answer.verdict == "first_less" else 1
    # How much less the lesser one has, of the other.
    parts = (relative.value, relative.low, relative.high)
    shares = [1 - 1 / (1 + part) if less == 0 else -part for part in parts]
    value, low, high = shares[0], min(shares[1:]), max(shares[1:])
    said = [Notice(_LESS[quantity], which=names[less], share=value, low=low, high=high)]
    raw_less = 0 if found > 0 else 1
    if abs(found - log1p(relative.value)) > WORTH_NAMING / 2:
        said.append(
            Notice(
                "compare_found", which=names[raw_less], share=abs(1 - 1 / (1 + expm1(abs(found))))
            )
        )
    return tuple(said)


def order_of(further: int) -> str:
    """In which order to ride so many more of each, as far as it is told."""
    return " ".join(alternating(min(further, 4))) + (" …" if further > 4 else "")


def warnings_of(
    answer: Comparison, first: Sequence[Comparand], second: Sequence[Comparand]
) -> tuple[Notice, ...]:
    """What to hold against it."""
    everyone = (*first, *second)
    said: list[Notice] = []
    if len(first) == len(second) == 1:
        runs = answer.learned_runs
        said.append(
            Notice("compare_single_learned", runs=runs) if runs else Notice("compare_single")
        )
    elif _in_order(first, second) or _in_order(second, first):
        said.append(Notice("compare_order"))
    if answer.quantity == "range_to_cutoff" and len({test.reached_end for test in everyone}) > 1:
        said.append(Notice("compare_ends"))
    if answer.quantity == "wh_per_km" and not all(test.metered for test in everyone):
        said.append(Notice("compare_unmetered"))
    changed = _changed_pack(everyone)
    if changed is not None:
        said.append(Notice("compare_pack_changed", name=changed))
    same_pack = len({test.pack for test in everyone}) == 1
    if answer.question == "pack" and same_pack and _in_order(second, first):
        said.append(Notice("compare_clocks", title=second[0].title, other=first[0].title))
    if answer.quantity != "retained_fraction":
        said += _legs(everyone, answer.question)
    if {test.rider for test in everyone} == {None}:
        said.append(Notice("compare_one_rider"))
    said += [
        Notice("compare_no_speed", title=test.title)
        for test in everyone
        if test.ridden.speed_mps is None
    ][:3]
    return tuple(dict.fromkeys(said))


def beside_the_question(
    answer: Comparison, first: Sequence[Comparand], second: Sequence[Comparand]
) -> tuple[Notice, ...]:
    """In what more than the question the rides differ: said before anything is made of the verdict."""
    everyone = (*first, *second)
    said: list[Notice] = []
    if answer.question != "pack" and len({test.pack for test in everyone}) > 1:
        said.append(Notice("compare_packs"))
    if answer.question != "vehicle" and len({test.vehicle for test in everyone}) > 1:
        said.append(Notice("compare_vehicles"))
    if len({test.rider for test in everyone}) > 1:
        said.append(Notice("compare_riders"))
    named = _worth_naming(answer)
    if named:
        said.append(
            Notice(
                "compare_differs",
                names=", ".join(FACTOR_WORDS[item.name] for item in named),
                share=WORTH_NAMING,
            )
        )
    return tuple(said)


def _legs(tests: Sequence[Comparand], asked: Question) -> list[Notice]:
    """What to hold against rides that legs had a part in."""
    helped = [test for test in tests if test.ridden.assisted]
    if not helped or asked == "pedalling":
        return []
    unknown = next((test for test in helped if not test.ridden.legs_known), None)
    if unknown is not None:
        return [Notice("compare_legs_unknown", title=unknown.title)]
    watts = helped[0].ridden.pedal_w or 0.0
    return [Notice("compare_legs_carried", title=helped[0].title, watts=watts)]


def _worth_naming(answer: Comparison) -> list[Change]:
    base = next((run.as_found.value for run in answer.runs if run.side == "second"), 0.0)
    return [
        item
        for item in answer.corrections
        if item.applied_to == "second" and abs(item.change.value) > WORTH_NAMING * base > 0
    ]


def _changed_pack(tests: Sequence[Comparand]) -> str | None:
    """A pack that stands under one name with two labels; None where there is none."""
    labels: dict[str, set[str]] = {}
    for test in tests:
        if test.pack_name and test.label:
            labels.setdefault(test.pack_name, set()).add(test.label)
    return next((name for name, found in labels.items() if len(found) > 1), None)


def _in_order(first: Sequence[Comparand], second: Sequence[Comparand]) -> bool:
    """Whether every run of one side began before any of the other."""
    ones, twos = ([test.started_at for test in side] for side in (first, second))
    if None in ones or None in twos:
        return False
    begun = [[datetime.fromisoformat(when) for when in side if when] for side in (ones, twos)]
    aware = {when.tzinfo is not None for side in begun for when in side}
    # A time with a zone and one without cannot be put in order.
    return len(aware) == 1 and max(begun[0]) < min(begun[1])
