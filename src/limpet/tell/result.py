"""What `analyse` gives: the result of bundle.md, each number with its unit and uncertainty."""

from __future__ import annotations

from dataclasses import dataclass, fields
from html import escape
from typing import Any, Self

from limpet.figures.budget import Advice
from limpet.figures.figures import Figures
from limpet.figures.parts import plain
from limpet.notices import Notice
from limpet.quantity import Quantity, QuantityJson
from limpet.tell.workings import Working


@dataclass(frozen=True, slots=True, kw_only=True, repr=False)
class Result(Figures):
    """The result of one range test: its figures, and what is told of them."""

    verdict: tuple[Notice, ...]
    workings: tuple[Working, ...]
    warnings: tuple[Notice, ...]

    @classmethod
    def of(
        cls,
        figures: Figures,
        *,
        verdict: tuple[Notice, ...],
        workings: tuple[Working, ...],
        warnings: tuple[Notice, ...],
    ) -> Self:
        """Figures with what is told of them."""
        values = {item.name: getattr(figures, item.name) for item in fields(Figures)}
        return cls(**values, verdict=verdict, workings=workings, warnings=warnings)

    def __repr__(self) -> str:
        return f"Result({', '.join(f'{name}={value}' for name, value in self._headline())})"

    def _repr_html_(self) -> str:
        """For a notebook: the headline figures as a table."""
        rows = "".join(
            f"<tr><th>{name.replace('_', ' ')}</th><td>{escape(str(value))}</td></tr>"
            for name, value in self._headline()
        )
        return f"<table>{rows}</table>"

    def _headline(self) -> list[tuple[str, Quantity]]:
        """Name and figure of what there is, in the order of the method."""
        used = None if self.consumption is None else self.consumption.wh_per_km
        figures = {
            "distance": self.distance,
            "energy": self.energy,
            "consumption": used,
            "range_to_cutoff": self.range_to_cutoff,
            "range_to_reserve": self.range_to_reserve,
        }
        return [(name, value) for name, value in figures.items() if value is not None]

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
