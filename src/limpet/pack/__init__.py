"""The pack: chemistries, their curves, and what a label promises."""

from limpet.pack.chemistry import CHEMISTRIES, FACTS, Chemistry, capacity_factor
from limpet.pack.label import (
    LABEL_STD,
    RETAINED_STD,
    assumed_resistance_ohm,
    full_energy_wh,
    voltage_limits,
)
from limpet.pack.ocv import NoCurveError, OcvCurve, ocv_curve
from limpet.pack.spec import PackSpec

__all__ = [
    "CHEMISTRIES",
    "FACTS",
    "LABEL_STD",
    "RETAINED_STD",
    "Chemistry",
    "NoCurveError",
    "OcvCurve",
    "PackSpec",
    "assumed_resistance_ohm",
    "capacity_factor",
    "full_energy_wh",
    "ocv_curve",
    "voltage_limits",
]
