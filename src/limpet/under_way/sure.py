"""How sure anything may be said of a ride: nothing near certain until a reading has shown charge."""

from __future__ import annotations

from typing import Final

from limpet.evidence.model import RangeTest
from limpet.state.priors import Priors
from limpet.under_way.matter import SHOULD

#: Readings of an entry that show how much is in the pack.
SHOW_CHARGE: Final = ("voltage_rest_v", "voltage_load_v", "gauge", "charge_ah", "energy_wh")
#: A chance without such a reading is told as no more than this: under the rung that says "should" [-].
MOST_UNSHOWN: Final = SHOULD - 0.01


def shows_charge(seen: RangeTest, priors: Priors) -> bool:
    """Whether anything on a ride has shown charge.

    Parameters
    ----------
    seen : what was recorded so far
    priors : what earlier tests taught

    Notes
    -----
    Volts, a gauge or a meter; or its rider has just charged a pack whose capacity a test has measured.
    What was taken for granted shows nothing.
    """
    if any(getattr(entry, name) is not None for entry in seen.entries for name in SHOW_CHARGE):
        return True
    if any(seen.column(name) is not None for name in ("voltage_v", "charge_ah", "energy_wh")):
        return True
    said = seen.sheet.start
    return said is not None and bool(said.just_charged) and "capacity_factor" in priors.learned
