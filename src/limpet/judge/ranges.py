"""How far one pack went in its tests, brought to one set of conditions: laps and a distance tell its age."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from math import exp, hypot

from limpet.assumptions import RUN_CARRIED
from limpet.judge.carrying import carried
from limpet.judge.comparand import Comparand
from limpet.judge.measured import measured
from limpet.judge.named_errors import few_draws_of_many


def ranges_at_first(tests: Sequence[Comparand]) -> dict[str, tuple[float, float]]:
    """Range to cut-off of each test as the first of them was ridden [m], with u, by the tests' keys.

    Parameters
    ----------
    tests : of one pack, oldest first

    Notes
    -----
    Only tests of the vehicle that most of them were ridden on, and none that was pedalled by who knows how much: the road load
    of another says nothing of the pack. u is of the ratio to the first test, in which what both have in
    common goes out, with what differs from run to run (`run_carried`).
    """
    usable = [
        test
        for test in tests
        if test.ridden.legs_known
        and (figure := test.figures.get("range_to_cutoff")) is not None
        and figure.value > 0
    ]
    if not usable:
        return {}
    usual, _ = Counter((test.vehicle, test.kind) for test in usable).most_common(1)[0]
    same = [test for test in usable if (test.vehicle, test.kind) == usual]
    first = same[0]
    found = {}
    with few_draws_of_many(len(same)):
        base = measured(first, "range_to_cutoff")
        for test in same:
            ratio = carried(test, first, "range_to_cutoff", frozenset()).log - base
            value = first.figures["range_to_cutoff"].value * exp(float(ratio.mean()))
            found[test.key] = (value, value * hypot(float(ratio.std()), RUN_CARRIED.std))
    return found
