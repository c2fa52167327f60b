"""A test as its instruments would have read it, had they been set right as earlier tests taught."""

from __future__ import annotations

from dataclasses import replace
from math import sqrt
from typing import Any

from limpet.evidence.model import Instrument, Instruments, RangeTest, WallInstrument
from limpet.state.priors import Learned, Priors

#: Instruments that are set right, and the columns of an entry that they fill.
COLUMNS = {"trip": ("trip_m",), "odometer": ("odometer_m",)}


def calibrated(test: RangeTest, priors: Priors) -> RangeTest:
    """Readings divided by the learned factor of their instrument, whose u is then its accuracy.

    Parameters
    ----------
    test : as recorded
    priors : with the learned factors of its instruments [-]

    Returns
    -------
    a test with readings as they should have been

    Notes
    -----
    Speeds of a logger that counts the wheel go with its distance.
    """
    for name, columns in COLUMNS.items():
        factor = priors.learned.get(name)
        if factor is None:
            continue
        entries = tuple(
            replace(
                entry,
                **{
                    column: getattr(entry, column) / factor.value
                    for column in columns
                    if getattr(entry, column) is not None
                },
            )
            for entry in test.entries
        )
        tools = test.sheet.instruments or Instruments()
        samples = test.samples
        counts = "trip" if tools.samples is None else tools.samples.distance or "trip"
        if samples is not None and counts == name:
            samples = samples.with_columns(
                [
                    samples[column] / factor.value
                    for column in ("distance_m", "speed_mps")
                    if column in samples.columns
                ]
            )
        own = replace(getattr(tools, name) or Instrument(), accuracy_pct=_percent(factor))
        changed: dict[str, Any] = {name: own}
        sheet = replace(test.sheet, instruments=replace(tools, **changed))
        test = replace(test, sheet=sheet, entries=entries, samples=samples)
    return _with_charger(test, priors.learned.get("wall"))


def _with_charger(test: RangeTest, share: Learned | None) -> RangeTest:
    """The charger's share as it was learned, unless the test states it."""
    tools = test.sheet.instruments or Instruments()
    wall = tools.wall or WallInstrument()
    if share is None or wall.efficiency is not None:
        return test
    wall = replace(wall, efficiency=share.value, accuracy_pct=_percent(share))
    return replace(test, sheet=replace(test.sheet, instruments=replace(tools, wall=wall)))


def _percent(found: Learned) -> float:
    """The half-width whose rectangular u is what was learned."""
    return 100 * sqrt(3) * found.standard_uncertainty / found.value
