"""Who guesses best over several rides: sealed guesses against what was ridden, by a proper score."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import erf, exp, log, pi, sqrt

#: Rides that are counted, the latest, and people that are listed.
MOST_RIDES, MOST_PEOPLE = 200, 50
#: What the forecast is called among those who guess.
FORECAST = "the forecast"


@dataclass(frozen=True, slots=True, kw_only=True)
class Wager:
    """A ride that was guessed at: what it came to, the guesses, and the forecast with its u [m]."""

    title: str
    fact_m: float
    guesses: Mapping[str, float]
    forecast_m: tuple[float, float] | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Standing:
    """How well somebody guesses: the mean score over so many rides, relative; 0 is always right.

    `high_of` of ten guesses were too high.
    """

    name: str
    rides: int
    score: float
    high_of_ten: float
    is_forecast: bool


def standings(wagers: Sequence[Wager]) -> tuple[Standing, ...]:
    """Everybody's score, the best first; who guessed at more rides first among equals.

    Parameters
    ----------
    wagers : guesses with their facts, in the order of the rides

    Notes
    -----
    The continuous ranked probability score of the logarithm of the distance, which is least in the mean for
    who says what they think (T. Gneiting and A. E. Raftery, J. Am. Stat. Assoc. 102, 2007, 359-378). Of a single
    number it is |ln(guess/fact)|; of a forecast as a normal distribution it is the closed form of `crps_normal`.
    """
    scores: dict[str, list[tuple[float, bool]]] = {}
    for wager in list(wagers)[-MOST_RIDES:]:
        if wager.fact_m <= 0:
            continue
        for name, guess in wager.guesses.items():
            if guess > 0:
                off = log(guess / wager.fact_m)
                scores.setdefault(name, []).append((abs(off), off > 0))
        if wager.forecast_m is not None and wager.forecast_m[0] > 0:
            value, std = wager.forecast_m
            off = log(value / wager.fact_m)
            score = crps_normal(log(wager.fact_m), log(value), std / value)
            scores.setdefault(FORECAST, []).append((score, off > 0))
    found = [
        Standing(
            name=name,
            rides=len(own),
            score=sum(score for score, _ in own) / len(own),
            high_of_ten=10 * sum(high for _, high in own) / len(own),
            is_forecast=name == FORECAST,
        )
        for name, own in scores.items()
    ]
    return tuple(sorted(found, key=lambda one: (one.score, -one.rides, one.name))[:MOST_PEOPLE])


def crps_normal(fact: float, mean: float, std: float) -> float:
    """The continuous ranked probability score of a normal forecast, in the unit of the fact.

    Notes
    -----
    σ·(z·(2Φ(z) − 1) + 2φ(z) − 1/√π), z = (fact − mean)/σ (Gneiting and Raftery 2007, equation 5); |fact −
    mean| without a spread.
    """
    if std <= 0:
        return abs(fact - mean)
    z = (fact - mean) / std
    return std * (z * erf(z / sqrt(2)) + 2 * exp(-0.5 * z * z) / sqrt(2 * pi) - 1 / sqrt(pi))
