"""How often the core's intervals hold the truth, how far it leans, and how wide they are."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass, field, replace
from math import log
from statistics import median
from typing import Literal

import numpy as np

from limpet.history import learn
from limpet.pack import curve_family
from limpet.quantity import Quantity
from limpet.state.priors import NOTHING, Priors
from limpet.tell import analyse
from limpet.under_way import follow
from tests.calibration.cells import FOREIGN, CellRide, cell_rides
from tests.calibration.riders import KINDS, LEARNED, Kind, Told, teacher, told

FIGURES = ("distance", "energy", "range_to_cutoff", "capacity_ah", "range_left")


@dataclass(slots=True)
class Cell:
    """One figure of one kind of evidence over many rides."""

    held: int = 0
    silent: int = 0
    errors: list[float] = field(default_factory=list)
    halves: list[float] = field(default_factory=list)

    def see(self, answer: Quantity | None, truth: float) -> None:
        """One answer beside what is true."""
        if answer is None:
            self.silent += 1
            return
        self.held += answer.low <= truth <= answer.high
        self.errors.append(answer.value / truth - 1)
        self.halves.append((answer.high - answer.low) / 2 / truth)

    @property
    def coverage(self) -> float:
        """Share of the answers whose interval holds the truth [-]."""
        return self.held / len(self.errors) if self.errors else float("nan")

    @property
    def bias(self) -> float:
        """Median relative error [-]."""
        return median(self.errors) if self.errors else float("nan")

    @property
    def half_width(self) -> float:
        """Median half-width relative to the truth [-]."""
        return median(self.halves) if self.halves else float("nan")


#: The core's own set of a cell, where it has one: left out, the cell is like none of them.
OWN_SET = {
    "Chen2020": "nmc811_chen2020",
    "OKane2022": "nmc811_chen2020",
    "Mohtat2020": "nmc532_mohtat2020",
    "NCA_Kim2011": "nca_kim2011",
    "ORegan2022": "nmc811_oregan2022",
}
#: How far days of one vehicle lie apart at most in what a kilometre takes, log (assumption: hills and winds).
SAME_VEHICLE = 0.3
#: The same round on another day takes so much more or less, log (common practice, no source: 5 to 10%).
DAYS = 0.07
Cells = Literal["family", "left_out", "foreign"]


#: Kinds of evidence that earlier rides sharpen.
TAUGHT: tuple[Kind, ...] = (
    "volts at every stop", "two volts", "volts while pulling", "percent", "bars", "laps and volts",
)  # fmt: skip


def answers(
    item: Told, without: str = "", priors: Priors = NOTHING, *, under_way: bool = True
) -> dict[str, tuple[Quantity | None, float]]:
    """The core's figures of a test, each with what is true."""
    family = curve_family(item.test.sheet.pack.chemistry, without=without)
    result = analyse(item.test, priors, family=family)
    found = {
        "distance": (result.distance, item.distance_m),
        "energy": (result.energy, item.energy_wh),
        "range_to_cutoff": (result.range_to_cutoff, item.range_to_cutoff_m),
        "capacity_ah": (result.pack.capacity_ah, item.capacity_ah),
    }
    if under_way and item.kind != "metered to the end" and not without:
        left_m = item.range_to_cutoff_m - item.distance_m
        found["range_left"] = (follow(item.test, priors=priors).range_left_to_cutoff, left_m)
    return found


def table(
    riders: int,
    seed: int = 1,
    cells: Cells = "family",
    kinds: tuple[Kind, ...] = KINDS,
    *,
    under_way: bool = True,
    every: int = 1,
    taught: int = 0,
) -> dict[tuple[str, str], Cell]:
    """Every kind of evidence of every ride, by so many riders each: (kind, figure) → how it holds.

    What is told of one chemistry alone stands beside it, at (kind, "figure chemistry").

    Parameters
    ----------
    cells : those that the core knows a set of; the same with that set left out; or cells of another
        chemistry than it was told
    every : of the rides every so manieth only
    taught : so many metered rides of the same vehicle and pack, to their end on other days, went before
    under_way : whether what `follow` says is left is asked too, which takes longer than all else
    """
    found: dict[tuple[str, str], Cell] = defaultdict(Cell)
    for number, ride in enumerate(cell_rides()):
        if number % every or (ride.parameters in FOREIGN) is not (cells == "foreign"):
            continue
        without = OWN_SET.get(ride.parameters, "") if cells == "left_out" else ""
        if cells == "left_out" and not without:
            continue
        for kind in kinds:
            for rider in range(riders):
                rng = np.random.default_rng([seed, number, KINDS.index(kind), rider])
                item = told(ride, kind, rng)
                if item is not None:
                    priors = NOTHING
                    if taught:
                        item, priors = with_teachers(item, ride, rng, taught)
                    if kind == LEARNED:
                        priors = learn(
                            [teacher(another(ride, rng), rng) for _ in range(3)], item.test
                        )
                    found_here = answers(item, without, priors, under_way=under_way)
                    for figure, (answer, truth) in found_here.items():
                        found[kind, figure].see(answer, truth)
                        found[kind, f"{figure} {ride.chemistry}"].see(answer, truth)
    return found


def with_teachers(
    item: Told, ride: CellRide, rng: np.random.Generator, count: int
) -> tuple[Told, Priors]:
    """A rider's test of a pack with a name, and what its earlier rides taught."""
    pack = replace(item.test.sheet.pack, name="Eider")
    named = replace(item.test, sheet=replace(item.test.sheet, pack=pack))
    days = [replace(ride, metres=ride.metres * np.exp(rng.normal(0, DAYS))) for _ in range(count)]
    return replace(item, test=named), learn([teacher(day, rng, pack=pack) for day in days], named)


def another(ride: CellRide, rng: np.random.Generator) -> CellRide:
    """Another day of such a vehicle: rides of one cell are of several, told apart by what a kilometre takes."""
    days = [item for item in cell_rides() if item.parameters == ride.parameters]
    others = [item for item in days if item is not ride]
    alike = [item for item in others if abs(log(_per_m(item) / _per_m(ride))) < SAME_VEHICLE]
    among = alike or others
    return among[int(rng.integers(len(among)))]


def _per_m(ride: CellRide) -> float:
    """What a metre took, in amp-hours of a cell's own size times what the vehicle needs of them."""
    end = int(np.searchsorted(ride.time_s, ride.end_s))
    return float(ride.energy[end]) * ride.needs_ah / float(ride.metres[end])


def printed(found: dict[tuple[str, str], Cell]) -> str:
    """The table as lines."""
    lines = [
        f"{'evidence':<28}{'figure':<21}{'n':>5}{'silent':>8}{'held':>7}{'bias':>8}{'± half':>8}"
    ]
    for (kind, figure), cell in found.items():
        count = len(cell.errors) + cell.silent
        lines.append(
            f"{kind:<28}{figure:<21}{count:>5}{cell.silent:>8}{100 * cell.coverage:>6.0f}%"
            f"{100 * cell.bias:>+7.1f}%{100 * cell.half_width:>7.1f}%"
        )
    return "\n".join(lines)
