"""The cell chemistries that a test may name, and what is known of each."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

import numpy as np
from numpy.typing import NDArray

Chemistry = Literal["nmc", "nca", "lfp", "lmo", "lead_acid_agm", "lead_acid_flooded"]
CHEMISTRIES: tuple[Chemistry, ...] = get_args(Chemistry)


@dataclass(frozen=True, slots=True, kw_only=True)
class ChemistryFacts:
    """Limits of one cell (for lead-acid: one 2-V cell).

    `floor_v` is the loaded voltage under which riding on harms the cell or is unsafe [V];
    `nominal_v`, `lowest_v` and `highest_v` bound what a healthy cell can show [V]; a label counts its cells
    by `label_v` each, which it rounds (36 V is ten, 48 V thirteen, 52 V fourteen, 60 V sixteen or seventeen,
    72 V twenty), and a full pack by `full_v` (common practice, no source);
    `capacity_at` maps temperature [°C] to the share of the 25 °C capacity at a low rate [-].
    """

    nominal_v: float
    floor_v: float
    lowest_v: float
    highest_v: float
    label_v: float
    full_v: float
    capacity_at: tuple[tuple[float, float], ...]


#: At or below this a lithium pack is not to be charged [°C] (handbook section 16).
FREEZING_C = 0.0

_LAYERED_COLD = ((-10.0, 0.80), (0.0, 0.90), (10.0, 0.96), (25.0, 1.00))
_LFP_COLD = ((-10.0, 0.72), (0.0, 0.85), (10.0, 0.94), (25.0, 1.00))
_LEAD_COLD = ((-10.0, 0.75), (0.0, 0.85), (10.0, 0.93), (25.0, 1.00))

#: Floors: handbook section 8 (common practice, no source). Cold: from memory, typical makers'
#: data at a low rate; an assumption that the Method page names.
FACTS: dict[Chemistry, ChemistryFacts] = {
    "nmc": ChemistryFacts(
        nominal_v=3.65,
        floor_v=2.8,
        lowest_v=2.0,
        highest_v=4.35,
        label_v=3.65,
        full_v=4.2,
        capacity_at=_LAYERED_COLD,
    ),
    "nca": ChemistryFacts(
        nominal_v=3.6,
        floor_v=2.8,
        lowest_v=2.0,
        highest_v=4.35,
        label_v=3.6,
        full_v=4.2,
        capacity_at=_LAYERED_COLD,
    ),
    "lmo": ChemistryFacts(
        nominal_v=3.8,
        floor_v=3.0,
        lowest_v=2.0,
        highest_v=4.35,
        label_v=3.7,
        full_v=4.2,
        capacity_at=_LAYERED_COLD,
    ),
    "lfp": ChemistryFacts(
        nominal_v=3.2,
        floor_v=2.5,
        lowest_v=2.0,
        highest_v=3.75,
        label_v=3.2,
        full_v=3.6,
        capacity_at=_LFP_COLD,
    ),
    "lead_acid_agm": ChemistryFacts(
        nominal_v=2.0,
        floor_v=1.6,
        lowest_v=1.2,
        highest_v=2.6,
        label_v=2.0,
        full_v=2.15,
        capacity_at=_LEAD_COLD,
    ),
    "lead_acid_flooded": ChemistryFacts(
        nominal_v=2.0,
        floor_v=1.6,
        lowest_v=1.2,
        highest_v=2.6,
        label_v=2.0,
        full_v=2.15,
        capacity_at=_LEAD_COLD,
    ),
}


def capacity_factor(chemistry: Chemistry, temp_c: float) -> float:
    """Share of the 25 °C capacity that a pack gives at a temperature, at a low rate.

    Parameters
    ----------
    temp_c : of the pack or, failing that, of the air [°C], scalar

    Returns
    -------
    factor [-], scalar, 1 at and above 25 °C

    Notes
    -----
    Linear between the table's points; below -10 °C the coldest point is held, which flatters
    the pack: `analyse` adds a warning there. *Assumption*, from memory of makers' data.
    """
    return float(capacity_factors(chemistry, np.array([temp_c]))[0])


def capacity_factors(chemistry: Chemistry, temp_c: NDArray[np.float64]) -> NDArray[np.float64]:
    """`capacity_factor` for an array of temperatures [°C], of the same shape.

    Parameters
    ----------
    chemistry : of the cells
    temp_c : of the pack, any shape [°C]
    """
    temps, factors = zip(*FACTS[chemistry].capacity_at, strict=True)
    return np.asarray(np.interp(temp_c, temps, factors))
