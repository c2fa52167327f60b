"""What a comparison answers: the JSON of compare.md."""

from __future__ import annotations

from dataclasses import asdict, dataclass
from typing import Any, Literal

from limpet.judge.along import Arising
from limpet.judge.comparand import Name
from limpet.judge.day import Factor
from limpet.judge.pairs import Pair
from limpet.judge.spread import By
from limpet.notices import Notice
from limpet.quantity import Quantity

Verdict = Literal["first_less", "second_less", "no_difference_shown", "not_comparable"]
Question = Literal[
    "vehicle", "pack", "speed", "wind", "load", "temperature", "climb", "stops", "tyres", "surface",
    "pedalling", "repeat",
]  # fmt: skip
Side = Literal["first", "second"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Change:
    """What carrying to the conditions of the first test did to a side's figure, in the figure's unit."""

    name: Factor
    applied_to: Side
    change: Quantity


@dataclass(frozen=True, slots=True, kw_only=True)
class Run:
    """One test of a side: its figure as found and as carried."""

    key: str
    title: str
    side: Side
    as_found: Quantity
    carried: Quantity


@dataclass(frozen=True, slots=True, kw_only=True)
class Comparison:
    """Two tests, or two groups of tests, against each other.

    Differences are of the second over the first. `smallest_seen` is the relative difference that would
    have been shown in four of five such comparisons, `runs_needed` how many more of each show
    `wanted`, None where no number does. `alike_runs` of each, ridden on one way with one meter in turns,
    would show `alike_seen`: what the next rides can do when more like these cannot; None once it is shown.
    `settle_runs` of each are what is offered and what is said: more like these where they are few, else alike.
    `judged_by` says how: single runs by what runs are known to differ by, groups by Welch, or rides in turns
    in pairs. `run_spread` is what runs differ by once carried [-], one standard deviation, and
    `learned_runs` how many earlier ones beside those of the sides taught it.
    """

    verdict: Verdict
    question: Question
    quantity: Name | None = None
    unit: str = ""
    difference: Quantity | None = None
    relative_difference: Quantity | None = None
    as_found: Quantity | None = None
    corrections: tuple[Change, ...] = ()
    runs: tuple[Run, ...] = ()
    smallest_seen: float | None = None
    wanted: float | None = None
    runs_needed: int | None = None
    alike_runs: int | None = None
    alike_seen: float | None = None
    settle_runs: int | None = None
    judged_by: By | None = None
    run_spread: float | None = None
    learned_runs: int = 0
    pairs: tuple[Pair, ...] = ()
    along: Arising | None = None
    reasons: tuple[Notice, ...] = ()
    warnings: tuple[Notice, ...] = ()

    def to_json(self) -> dict[str, Any]:
        """The JSON of compare.md."""
        per = self.quantity or "wh_per_km"

        def told(quantity: Quantity | None) -> Any:
            return None if quantity is None else quantity.to_json()

        return {
            "limpet_compare": 1,
            "verdict": self.verdict,
            "question": self.question,
            "quantity": self.quantity,
            "difference": told(self.difference),
            "relative_difference": told(self.relative_difference),
            "as_found": told(self.as_found),
            "corrections": [
                {"name": item.name, "applied_to": item.applied_to, per: item.change.to_json()}
                for item in self.corrections
            ],
            "runs": [
                {
                    "title": run.title,
                    "side": run.side,
                    "as_found": run.as_found.to_json(),
                    "carried": run.carried.to_json(),
                }
                for run in self.runs
            ],
            "smallest_seen": self.smallest_seen,
            "wanted": self.wanted,
            "runs_needed": self.runs_needed,
            "alike_runs": self.alike_runs,
            "alike_seen": self.alike_seen,
            "settle_runs": self.settle_runs,
            "judged_by": self.judged_by,
            "run_spread": self.run_spread,
            "learned_runs": self.learned_runs,
            "along": None if self.along is None else asdict(self.along),
            "paired": [pair.to_json() for pair in self.pairs],
            "reasons": [notice.to_json() for notice in self.reasons],
            "warnings": [notice.to_json() for notice in self.warnings],
        }
