"""Where along a ride its energy was read: between two such moments it is known, elsewhere laid out by assumption."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from limpet.evidence.gaps import gap_threshold_s
from limpet.evidence.model import RangeTest
from limpet.read.window import RideWindow

FloatArray = NDArray[np.float64]

#: What each meter's method reads, of a log and of an entry; other methods know an energy as a whole alone.
_COLUMNS: Final[dict[str, str]] = {
    "sampled": "current_a",
    "energy_counter": "energy_wh",
    "charge_counter": "charge_ah",
}
#: A reading noted so shortly before or after a moment is of it [s].
NEAR_S = 30.0


@dataclass(frozen=True, slots=True)
class WhereRead:
    """Moments at which a meter was read [s], rising, and how near one must lie to a moment to be of it [s]."""

    time_s: FloatArray
    near_s: float

    def at(self, time_s: float) -> bool:
        """Whether it was read at a moment."""
        if len(self.time_s) == 0:
            return False
        after = int(np.searchsorted(self.time_s, time_s))
        near = self.time_s[max(after - 1, 0) : after + 1]
        return bool(np.abs(near - time_s).min() <= self.near_s)


NOWHERE: Final = WhereRead(np.zeros(0), 0.0)


def energy_read_at(test: RangeTest, ride: RideWindow, method: str) -> WhereRead:
    """Where a method's meter was read.

    Parameters
    ----------
    test : as recorded
    ride : its window: a counter that was noted at all stood at what it began with at the start
    method : the one that the energy is taken from

    Returns
    -------
    WhereRead; nowhere for what is known as a whole alone
    """
    column = _COLUMNS.get(method)
    if column is None:
        return NOWHERE
    logged = test.log.known(column)
    if logged is not None and len(logged[0]) > 1:
        return WhereRead(logged[0], max(NEAR_S, gap_threshold_s(logged[0])))
    if method == "sampled":
        return NOWHERE
    noted, _ = test.readings(column)
    if len(noted) == 0:
        return NOWHERE
    return WhereRead(np.unique(np.concatenate([[ride.start_s], noted])), NEAR_S)
