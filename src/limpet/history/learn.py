"""`learn(tests) -> Priors`: gauge map, capacity and resistance from earlier tests."""

from __future__ import annotations

from collections.abc import Sequence
from math import sqrt

import numpy as np

from limpet.assumptions import LABEL, RETAINED
from limpet.evidence.model import RangeTest
from limpet.pack import resistance_factor
from limpet.result import Result, analyse
from limpet.result.priors import Learned, Priors
from limpet.result.world import GAUGE_BEND, GAUGE_BOTTOM, pack_temp_c

#: So many tests teach at most, the latest: a pack of long ago is another pack.
MOST_TESTS = 200
#: A number is learned from a test that narrowed it to this share of what is assumed at the most [-].
NARROWED = 0.7
#: A gauge's map differs from ride to ride by this, and a pack's capacity from day to day [-] (assumption).
GAUGE_FLOOR, CAPACITY_FLOOR, RESISTANCE_FLOOR = 0.03, 0.015, 0.10


def learn(tests: Sequence[RangeTest], of: RangeTest) -> Priors:
    """What earlier tests teach about the vehicle and the pack of a test.

    Parameters
    ----------
    tests : of any vehicles and packs; those of another name teach nothing
    of : the test that is to be analysed; it does not teach itself

    Returns
    -------
    Priors; empty where no test's own evidence carries a number

    Notes
    -----
    A vehicle and a pack are known by their names. What a test found is weighted by 1/u²; the spread
    between tests counts where it is larger than their u.
    """
    others = [test for test in tests if test is not of][-MOST_TESTS:]
    vehicle, pack = of.sheet.vehicle.name, of.sheet.pack.name
    same_vehicle = [t for t in others if vehicle and t.sheet.vehicle.name == vehicle]
    same_pack = [t for t in others if pack and _same_pack(t, of)]
    results = {
        id(test): analyse(test) for test in {id(t): t for t in (*same_vehicle, *same_pack)}.values()
    }
    gauged = [(t, results[id(t)]) for t in same_vehicle if results[id(t)].gauge_truth is not None]
    packed = [(t, results[id(t)]) for t in same_pack]
    found = {
        "gauge_bend": _pooled(gauged, "gauge_bend", GAUGE_BEND[1], GAUGE_FLOOR),
        "gauge_bottom": _pooled(gauged, "gauge_bottom", GAUGE_BOTTOM[1], GAUGE_FLOOR),
        "capacity_factor": _pooled(
            [(t, r) for t, r in packed if r.pack.capacity_ah is not None],
            "capacity_factor",
            sqrt(LABEL.std**2 + RETAINED.std**2),
            CAPACITY_FLOOR,
        ),
        "resistance_ohm": _resistance(packed),
    }
    return Priors(learned={name: item for name, item in found.items() if item is not None})


def _same_pack(test: RangeTest, of: RangeTest) -> bool:
    mine, theirs = of.sheet.pack, test.sheet.pack
    return (mine.name, mine.series, mine.rated_ah, mine.chemistry) == (
        theirs.name, theirs.series, theirs.rated_ah, theirs.chemistry,
    )  # fmt: skip


def _pooled(
    found: list[tuple[RangeTest, Result]], name: str, assumed: float, floor: float
) -> Learned | None:
    """An input's value over the tests that narrowed it; None of none."""
    told = []
    for test, result in found:
        item = next((item for item in result.inputs if item.name == name), None)
        if item is not None and item.standard_uncertainty <= NARROWED * assumed:
            told.append((item.value, item.standard_uncertainty, test.sheet.title))
    return _mean(told, floor)


def _resistance(found: list[tuple[RangeTest, Result]]) -> Learned | None:
    told = []
    for test, result in found:
        ohm = result.pack.resistance_ohm
        if ohm is not None:
            warm = 1 / float(resistance_factor(np.array([pack_temp_c(test)]))[0])
            told.append((ohm.value * warm, ohm.standard_uncertainty * warm, test.sheet.title))
    if not told:
        return None
    return _mean(told, RESISTANCE_FLOOR * min(value for value, _, _ in told))


def _mean(told: list[tuple[float, float, str]], floor: float) -> Learned | None:
    if not told:
        return None
    values = np.array([value for value, _, _ in told])
    weight = 1 / np.array([max(std, 1e-9) for _, std, _ in told]) ** 2
    mean = float(values @ weight / weight.sum())
    inner = 1 / sqrt(float(weight.sum()))
    # Beyond what their own u says, tests differ as rides do (Birge ratio).
    spread = sqrt(float(((values - mean) ** 2 * weight).sum()) / max(len(told) - 1, 1))
    return Learned(
        value=mean,
        standard_uncertainty=max(inner * max(spread, 1.0), floor),
        tests=tuple(title for _, _, title in told),
    )
