"""What a pack's label promises, in the core's terms."""

from __future__ import annotations

from dataclasses import dataclass

from limpet.assumptions import RESISTANCE_OHM_AH
from limpet.pack.chemistry import FACTS
from limpet.pack.family import BOTTOM_TOP_V
from limpet.pack.ocv import ocv_curve
from limpet.pack.spec import PackSpec


def full_energy_wh(pack: PackSpec) -> float:
    """Energy of one fresh pack from full to empty at no load [Wh].

    Parameters
    ----------
    pack : by its label or what is taken

    Notes
    -----
    The label's Wh; without one, rated Ah × S × the chemistry's mean open-circuit voltage.
    """
    if pack.rated_wh is not None:
        return pack.rated_wh
    return pack.rated_ah * pack.series * ocv_curve(pack.chemistry).mean_v


def voltage_limits(pack: PackSpec) -> tuple[float, float, bool]:
    """Full and cut-off voltage of a pack [V], and whether the cut-off had to be assumed.

    Parameters
    ----------
    pack : by its label or what is taken

    Returns
    -------
    (full [V], cut-off [V], whether the cut-off is assumed)

    Notes
    -----
    Without a noted cut-off the chemistry's floor is taken, the latest a drive should stop
    (*assumption*); without a full voltage, the top of the chemistry's curve.
    """
    assumed = pack.cutoff_v is None
    cutoff = pack.series * FACTS[pack.chemistry].floor_v if pack.cutoff_v is None else pack.cutoff_v
    if pack.full_v is not None:
        return pack.full_v, cutoff, assumed
    return pack.series * BOTTOM_TOP_V[pack.chemistry][1], cutoff, assumed


#: No cell of such packs has more: a point was left out [V].
MOST_CELL_V = 5.0


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadingSpan:
    """What a pack's volts may read: full, at cut-off, and the most that such cells can have [V].

    `likely_full_v` and `likely_cutoff_v` stand in for what was not said; all three are None where the
    number of cells is unknown.
    """

    likely_full_v: float | None
    likely_cutoff_v: float | None
    most_v: float | None


def reading_span(pack: PackSpec) -> ReadingSpan:
    """What a pack's volts may read, for whoever types them."""
    if not knows_series(pack):
        return ReadingSpan(likely_full_v=None, likely_cutoff_v=None, most_v=None)
    full, cutoff, _ = voltage_limits(pack)
    return ReadingSpan(
        likely_full_v=round(full, 1),
        likely_cutoff_v=round(cutoff, 1),
        most_v=round(MOST_CELL_V * pack.series, 1),
    )


def knows_series(pack: PackSpec) -> bool:
    """Whether anything tells how many cells are in series: their number, or the volts of a label."""
    return "series" not in pack.taken or pack.nominal_v is not None or pack.full_v is not None


def assumed_resistance_ohm(pack: PackSpec) -> float:
    """10-s resistance of one pack when nothing was measured [Ω] (*assumption*, ±50%)."""
    return RESISTANCE_OHM_AH.value * pack.series / pack.rated_ah
