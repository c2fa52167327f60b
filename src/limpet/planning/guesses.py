"""Guesses made before a ride, opened after it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass


@dataclass(frozen=True, slots=True, kw_only=True)
class Ranked:
    """A guess and how near it came; equal nearness shares a place."""

    name: str
    guess_m: float
    off_m: float
    place: int


def ranked(guesses: Sequence[tuple[str, float]], ridden_m: float) -> tuple[Ranked, ...]:
    """Guesses by nearness to what was ridden, the nearest first.

    Parameters
    ----------
    guesses : (name, distance [m])
    ridden_m : the distance that the test gave [m]

    Returns
    -------
    off_m is guess − fact, so that its sign tells hopers from doubters
    """
    order = sorted(guesses, key=lambda item: (abs(item[1] - ridden_m), item[0]))
    found: list[Ranked] = []
    for position, (name, guess) in enumerate(order, start=1):
        off = guess - ridden_m
        same = found and abs(abs(found[-1].off_m) - abs(off)) < 0.5
        place = found[-1].place if same else position
        found.append(Ranked(name=name, guess_m=guess, off_m=off, place=place))
    return tuple(found)
