"""The pack: chemistries, their curves, and what a label promises."""

from limpet.pack.check import pack_faults
from limpet.pack.chemistry import (
    CHEMISTRIES,
    FACTS,
    FREEZING_C,
    Chemistry,
    capacity_factor,
    capacity_factors,
)
from limpet.pack.family import CurveFamily, Curves, curve_family
from limpet.pack.label import (
    assumed_resistance_ohm,
    full_energy_wh,
    voltage_limits,
)
from limpet.pack.ocv import CURVE_STD, CURVE_STD_AT_ENDS, NoCurveError, OcvCurve, ocv_curve
from limpet.pack.spec import PackSpec
from limpet.pack.warmth import mean_pack_temp_c, resistance_factor

__all__ = [
    "CHEMISTRIES",
    "CURVE_STD",
    "CURVE_STD_AT_ENDS",
    "FACTS",
    "FREEZING_C",
    "Chemistry",
    "CurveFamily",
    "Curves",
    "NoCurveError",
    "OcvCurve",
    "PackSpec",
    "assumed_resistance_ohm",
    "capacity_factor",
    "capacity_factors",
    "curve_family",
    "full_energy_wh",
    "mean_pack_temp_c",
    "ocv_curve",
    "pack_faults",
    "resistance_factor",
    "voltage_limits",
]
