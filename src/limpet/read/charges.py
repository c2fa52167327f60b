"""Charges on the way: what went into the pack between two entries."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from limpet.assumptions import CHARGE_RATE_PER_H
from limpet.evidence.model import Entry, RangeTest
from limpet.pack import full_energy_wh
from limpet.read.stated import packs_together
from limpet.read.window import RideWindow
from limpet.units import SECONDS_PER_HOUR

FloatArray = NDArray[np.float64]

#: Of what a charger shows or takes, so much comes out of the pack again, and u of it; where only the time is
#: known the usual rate (`CHARGE_RATE_PER_H`) may be half of it off or more, relative (assumption).
KEPT, KEPT_STD = 0.90, 0.06
BY_TIME_STD = 0.5


@dataclass(frozen=True, slots=True, kw_only=True)
class Charges:
    """When the pack had been charged [s] and by how much, best value at the terminals [Wh]; shape (n,).

    `std` is u of all of it together, relative.
    """

    time_s: FloatArray
    energy_wh: FloatArray
    std: float


def charges_of(test: RangeTest, ride: RideWindow) -> Charges | None:
    """What was charged between a ride's start and its end; None where nothing was.

    Parameters
    ----------
    test : as recorded
    ride : the window

    Returns
    -------
    energy and charge [Wh, Ah] with their u
    """
    found = [
        (entry, wh)
        for entry in test.entries
        if ride.start_s < entry.time_s <= ride.end_s and (wh := _energy_wh(test, entry)) > 0
    ]
    if not found:
        return None
    energy = np.array([wh for _, wh in found])
    each = np.array([KEPT_STD if entry.charged_wh else BY_TIME_STD for entry, _ in found])
    return Charges(
        time_s=np.array([entry.time_s for entry, _ in found]),
        energy_wh=energy,
        # One charger, or one way of charging: its errors hang together.
        std=float((each * energy).sum() / energy.sum()),
    )


def was_charged(test: RangeTest) -> bool:
    """Whether anybody says so, with or without how much."""
    return any(
        entry.what == "charged" or entry.charged_wh or entry.charged_s for entry in test.entries
    )


def _energy_wh(test: RangeTest, entry: Entry) -> float:
    if entry.charged_wh:
        return KEPT * entry.charged_wh
    if entry.charged_s:
        hours = entry.charged_s / SECONDS_PER_HOUR
        whole = packs_together(test) * full_energy_wh(test.sheet.pack)
        # A charger that stands on after the pack is full gives no more.
        return min(CHARGE_RATE_PER_H.value * hours, 1.0) * whole
    return 0.0
