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
    ReadingSpan,
    assumed_resistance_ohm,
    full_energy_wh,
    knows_series,
    reading_span,
    voltage_limits,
)
from limpet.pack.ocv import OcvCurve, ocv_curve
from limpet.pack.spec import PackSpec
from limpet.pack.usable import cut_charge, is_lead, low_charge_factor, peukert_factor
from limpet.pack.warmth import mean_pack_temp_c, resistance_factor

__all__ = [
    "CHEMISTRIES",
    "FACTS",
    "FREEZING_C",
    "Chemistry",
    "CurveFamily",
    "Curves",
    "OcvCurve",
    "PackSpec",
    "ReadingSpan",
    "assumed_resistance_ohm",
    "capacity_factor",
    "capacity_factors",
    "curve_family",
    "cut_charge",
    "full_energy_wh",
    "is_lead",
    "knows_series",
    "low_charge_factor",
    "mean_pack_temp_c",
    "ocv_curve",
    "pack_faults",
    "peukert_factor",
    "reading_span",
    "resistance_factor",
    "voltage_limits",
]
