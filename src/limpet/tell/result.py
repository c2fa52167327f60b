"""What `analyse` gives: the result of bundle.md, each number with its unit and uncertainty."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from limpet.figures.budget import Advice
from limpet.figures.claimed import ClaimResult
from limpet.figures.climb import Climb
from limpet.figures.fade import Fade
from limpet.figures.gauge_habits import GaugeHabits
from limpet.figures.gauge_truth import GaugeStep
from limpet.figures.legs import Leg
from limpet.figures.pack_parts import PackPart
from limpet.figures.parts import (
    Budget,
    Consumption,
    InputResult,
    MethodResult,
    PackResult,
    Regeneration,
    plain,
)
from limpet.figures.plan_on import PlanOn
from limpet.figures.shown_ranges import ShownRange
from limpet.notices import Notice
from limpet.quantity import Quantity, QuantityJson
from limpet.read.line import Line
from limpet.read.window import RideWindow
from limpet.state.priors import PooledStep
from limpet.tell.workings import Working


@dataclass(frozen=True, slots=True, kw_only=True)
class Result:
    """The result of one range test.

    `started_fraction` of the first pack's usable energy, `gauge_full` what the gauge shows when full; they, `ride`, `energy_line` [Wh] and `distance_line` [m] are for drawing and are not in the JSON.
    """

    distance: Quantity | None
    energy: Quantity | None
    charge: Quantity | None
    consumption: Consumption | None
    energy_methods: tuple[MethodResult, ...]
    distance_methods: tuple[MethodResult, ...]
    energy_used_fraction: Quantity | None
    started_fraction: Quantity | None
    range_to_cutoff: Quantity | None
    range_to_reserve: Quantity | None
    reserve: float
    reserve_assumed: bool
    range_measured: bool
    pack: PackResult
    regeneration: Regeneration | None
    plan_on: PlanOn | None
    budget: Budget
    advice: tuple[Advice, ...]
    climb: Climb | None
    fade: Fade | None
    gauge_truth: tuple[GaugeStep, ...] | None
    gauge_pooled: tuple[PooledStep, ...] | None
    gauge_habits: GaugeHabits | None
    gauge_full: float
    shown_range: tuple[ShownRange, ...] | None
    claim: ClaimResult | None
    packs: tuple[PackPart, ...] | None
    legs: tuple[Leg, ...]
    inputs: tuple[InputResult, ...]
    verdict: tuple[Notice, ...]
    workings: tuple[Working, ...]
    warnings: tuple[Notice, ...]
    ride: RideWindow
    energy_line: Line | None
    distance_line: Line | None

    def to_json(self) -> dict[str, Any]:
        """The JSON of bundle.md; what the evidence cannot give is null."""
        return {
            "limpet_result": 1,
            "verdict": [notice.to_json() for notice in self.verdict],
            "distance": _json(self.distance),
            "energy": _json(self.energy),
            "charge": _json(self.charge),
            "consumption": None
            if self.consumption is None
            else {
                "wh_per_km": self.consumption.wh_per_km.to_json(),
                "wh_per_mi": self.consumption.wh_per_mi.to_json(),
            },
            "energy_methods": [method.to_json() for method in self.energy_methods],
            "distance_methods": [method.to_json() for method in self.distance_methods],
            "energy_used_fraction": _json(self.energy_used_fraction),
            "range_to_cutoff": _json(self.range_to_cutoff),
            "range_to_reserve": _json(self.range_to_reserve),
            "pack": {
                "resistance_ohm": _json(self.pack.resistance_ohm),
                "capacity_ah": _json(self.pack.capacity_ah),
                "usable_energy_wh": _json(self.pack.usable_energy_wh),
                "at_25_degc": plain(self.pack.at_25_degc),
                "retained_fraction": _json(self.pack.retained_fraction),
            },
            "regeneration": None
            if self.regeneration is None
            else {
                "energy_wh": self.regeneration.energy_wh,
                "fraction_of_drawn": self.regeneration.fraction_of_drawn,
            },
            "plan_on": plain(self.plan_on),
            "budget": plain(self.budget),
            "advice": [_advice(item) for item in self.advice],
            "climb": plain(self.climb),
            "fade": plain(self.fade),
            "gauge_truth": plain(self.gauge_truth),
            "gauge_pooled": plain(self.gauge_pooled),
            "gauge_habits": plain(self.gauge_habits),
            "shown_range": plain(self.shown_range),
            "claim": plain(self.claim),
            "packs": plain(self.packs),
            "legs": plain(self.legs),
            "inputs": plain(self.inputs),
            "workings": plain(self.workings),
            "warnings": [notice.to_json() for notice in self.warnings],
        }


def _advice(item: Advice) -> dict[str, Any]:
    return {
        "code": item.code,
        "message": item.notice.message,
        "figure": item.figure,
        "relative_half_width_now": item.relative_half_width_now,
        "then": item.then,
        "notice": item.notice.to_json(),
    }


def _json(quantity: Quantity | None) -> QuantityJson | None:
    return None if quantity is None else quantity.to_json()
