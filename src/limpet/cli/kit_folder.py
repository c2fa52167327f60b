"""A folder of bundles of one pack or one vehicle: which of several is meant, and its tests oldest first."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable
from pathlib import Path

from limpet.cli.shared import bundles_in
from limpet.errors import LimpetError
from limpet.evidence.model import RangeTest


def tests_of(
    folder: Path, wanted: str | None, option: str, name_of: Callable[[RangeTest], str | None]
) -> tuple[str, list[RangeTest]]:
    """The tests in a folder of the one piece of kit, or of the one that is named.

    Parameters
    ----------
    folder : of bundles
    wanted : the name; None where all bundles that have one have the same
    option : that names it, without its dashes
    name_of : a test's kit, None where it has no name

    Returns
    -------
    its name, and its tests with a date, oldest first

    Raises
    ------
    LimpetError
        When there is none, or several and nobody says which.
    """
    tests = bundles_in(folder)
    counted = Counter(name for test in tests if (name := name_of(test)) is not None)
    if not counted:
        raise LimpetError(f"{folder}: no bundle in it names its {option}; fill in its name")
    if wanted is None:
        if len(counted) > 1:
            there = ", ".join(f"{name} ({count})" for name, count in counted.most_common(12))
            raise LimpetError(f"{folder}: holds tests of {there}; say which with --{option} NAME")
        (wanted,) = counted
    if wanted not in counted:
        raise LimpetError(f"{folder}: no test of a {option} named {wanted!r}; there is {', '.join(list(counted)[:12])}")  # fmt: skip
    mine = [test for test in tests if name_of(test) == wanted]
    dated = [test for test in mine if test.sheet.started_at is not None]
    if not dated:
        raise LimpetError(f"{folder}: no test of {wanted} says when it was ridden (started_at)")
    return wanted, sorted(dated, key=_when)


def _when(test: RangeTest) -> float:
    assert test.sheet.started_at is not None
    return test.sheet.started_at.timestamp()
