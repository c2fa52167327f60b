"""A test's figure with its errors: what two tests have in common of them is one draw in both."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from numpy.typing import NDArray

from limpet.judge.comparand import Comparand, Figure, Name
from limpet.judge.named_errors import score

FloatArray = NDArray[np.float64]

#: Errors of an instrument that two tests have in common when it is the same one.
_INSTRUMENTS = frozenset(
    {"voltage", "current", "charge", "energy", "trip", "gps", "odometer", "wall"}
)
#: Errors of a pack: the same in all its tests.
_OF_PACK = frozenset(
    {
        "label",
        "retained",
        "unseen_age",
        "curve",
        "resistance_ohm",
        "low_charge_resistance",
        "cutoff",
    }
)
#: Errors of a distance.
_OF_DISTANCE = frozenset({"trip", "gps", "odometer", "lap", "distance_read"})
#: Of a vehicle.
_OF_VEHICLE = frozenset({"gauge", "end_current"})


def measured(test: Comparand, quantity: Name) -> FloatArray:
    """The logarithm of a test's figure with its errors, shape (J,).

    Notes
    -----
    Each input adds what its share of the figure's variance says, and inputs of the same instrument, lap,
    pack or vehicle are one draw in all tests that have them: in a difference they go out.
    """
    figure = test.figures[quantity]
    total = np.full_like(score("own", test.key), np.log(max(figure.value, 1e-9)))
    left = 1.0
    for name, share in _shares(figure):
        left -= share
        total = total + _relative(figure) * np.sqrt(share) * score(
            f"error {name}", _whose(test, name)
        )
    return np.asarray(total + _relative(figure) * np.sqrt(left) * score("own", test.key))


def distance_off(test: Comparand) -> FloatArray:
    """What a test's distance is off by, the logarithm, shape (J,): the same draws as in its consumption.

    Notes
    -----
    A distance that is read too long makes a consumption too low and a speed too high, together.
    """
    none = np.zeros_like(score("own", test.key))
    figure = test.figures.get("wh_per_km")
    if figure is None:
        return none
    return sum(
        (
            -_relative(figure) * np.sqrt(share) * score(f"error {name}", _whose(test, name))
            for name, share in _shares(figure)
            if name in _OF_DISTANCE
        ),
        none,
    )


def _relative(figure: Figure) -> float:
    return figure.std / figure.value if figure.value > 0 else 0.0


def _shares(figure: Figure) -> Iterator[tuple[str, float]]:
    """Inputs with their shares of a variance, which are together no more than all of it."""
    left = 1.0
    for name, share in figure.parts:
        share = min(max(share, 0.0), left)
        left -= share
        yield name, share


def _whose(test: Comparand, name: str) -> str:
    """Whom an error belongs to: who shares it has the same one."""
    if name in _INSTRUMENTS:
        own = test.instruments.get(name)
        return f"instrument {own}" if own else f"of {test.vehicle or test.key}"
    if name == "lap":
        return f"lap {test.instruments.get('lap') or test.key}"
    if name in _OF_PACK:
        return f"pack {test.pack or test.key}"
    if name in _OF_VEHICLE:
        return f"of {test.vehicle or test.key}"
    return test.key
