"""Riders at the roadside who bet on the line, on rides whose truth a porous-electrode model knows.

What they have differs by kind: a meter, volts at stops, a percent or bars that bend, a shown range that
freezes, two packs behind one gauge, a start that was not full, a first and a tenth ride. Gauges and displays
are made here after the trade's tables (handbook section 18), by no rule of the core's.
"""

from __future__ import annotations

from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Literal, get_args

import numpy as np
from scipy.stats import beta

from limpet.evidence.model import Conditions, Entry, Gauge, Instruments, Protocol, RangeTest, Start
from limpet.history import learn
from limpet.state.priors import NOTHING, Priors
from limpet.under_way import WayAhead
from limpet.under_way.follow import riding
from tests.calibration.cells import FOREIGN, CellRide, cell_rides
from tests.calibration.riders import shown_by_gauge, teacher, told

Kind = Literal[
    "meter",
    "volts at stops",
    "percent that bends",
    "bars",
    "shown range that freezes",
    "two packs, one gauge",
    "not full at the start",
    "nothing read but the start",
    "tenth ride, percent",
]
KINDS: tuple[Kind, ...] = get_args(Kind)
#: Readings between the start and the stop at which somebody asks.
STOPS = 3
#: What a rider wants to keep [-].
RESERVE = 0.2
#: Rides with a meter among those before the tenth, and what days differ by, relative (common practice, no
#: source: the same round on another day takes some 5 to 10% more or less).
METERED, DAYS = 4, 0.07


@dataclass(frozen=True)
class Bet:
    """What a rider was told of a way, and whether they came home."""

    kind: Kind
    told: float
    home: bool


@dataclass(frozen=True)
class Turn:
    """Where a rider turned who did as told, over the furthest turn that brings them home at all, and the
    same of the furthest turn that keeps the reserve [-]."""

    kind: Kind
    share: float
    possible: float


@dataclass(frozen=True)
class Rider:
    """A rider's ride: what the sheet says, what is read at a row, how far the pack truly goes, and
    went if it were full [m]."""

    kind: Kind
    ride: CellRide
    start: int
    range_m: float
    whole_m: float
    test: RangeTest
    reads: dict[str, np.ndarray]
    trip: np.ndarray
    priors: Priors

    def so_far(self, rows: list[int]) -> RangeTest:
        """The ride as it is known at the last of some rows."""
        entries = []
        for at in [self.start, *rows]:
            read = {name: float(values[at]) for name, values in self.reads.items()}
            if self.kind == "nothing read but the start" and at != self.start:
                read = {}
            if self.kind == "shown range that freezes" and at == self.start:
                read = {}
            entries.append(
                Entry(
                    time_s=float(self.ride.time_s[at] - self.ride.time_s[self.start]),
                    kind="start" if at == self.start else "checkpoint",
                    trip_m=round(float(self.trip[at] - self.trip[self.start]) / 100) * 100.0,
                    **read,
                )
            )
        return replace(self.test, entries=tuple(entries))

    def row_at(self, part: float) -> int:
        """Where so much of the range is ridden; volts at rest are read at the stop nearest to it."""
        end = int(np.searchsorted(self.ride.time_s, self.ride.end_s))
        ridden = self.ride.metres[self.start : end + 1] - self.ride.metres[self.start]
        row = self.start + int(np.searchsorted(ridden, part * ridden[-1]))
        if "voltage_rest_v" not in self.reads:
            return row
        stops = np.array([last for _, last in self.ride.pauses(10.0) if last > self.start] or [row])
        return int(stops[np.argmin(abs(stops - row))])

    def true_m(self, row: int) -> float:
        """How far it has truly come [m]."""
        return float(self.ride.metres[row] - self.ride.metres[self.start])


def rider_of(ride: CellRide, kind: Kind, rng: np.random.Generator) -> Rider | None:
    """A rider with a kind of evidence on a ride; None where the ride gives none."""
    item = told(ride, "percent", rng)
    if item is None:
        return None
    end = int(np.searchsorted(ride.time_s, ride.end_s))
    pack = item.test.sheet.pack
    nominal_ah = ride.needs_ah / pack.series
    left = 1 - ride.energy[: end + 1] / ride.energy[end]
    start, range_m, two = 0, float(ride.metres[end]), kind == "two packs, one gauge"
    whole_m = range_m
    sheet = replace(
        item.test.sheet,
        ending=None,
        protocol=Protocol(reserve=RESERVE),
        # Half of them noted that it is calm, as it is; of the others nobody knows.
        conditions=replace(
            item.test.sheet.conditions or Conditions(), wind_mps=0.0 if rng.random() < 0.5 else None
        ),
        start=Start(full=True),
        purpose="everyday",
    )
    if kind == "not full at the start":
        start = int(np.searchsorted(-left, -rng.uniform(0.5, 0.9)))
        range_m -= float(ride.metres[start])
        sheet = replace(sheet, start=None if rng.random() < 0.5 else Start(full=False))
    reads: dict[str, np.ndarray] = {}
    volts = np.round(ride.volts * pack.series * (1 + rng.uniform(-0.005, 0.005)), 1)
    shows = _a_percent(rng)
    percent = shows(ride, pack.series)[: end + 1]
    gauge = Gauge(kind="percent", steps=100)
    if kind == "meter":
        reads["charge_ah"] = np.round(
            ride.charge * nominal_ah * (1 + rng.uniform(-0.015, 0.015)), 2
        )
    if kind in ("volts at stops", "nothing read but the start"):
        reads["voltage_rest_v"] = volts
    if kind in ("percent that bends", "tenth ride, percent"):
        reads["gauge"] = percent
    if kind == "not full at the start":
        reads |= {"gauge": percent} if rng.random() < 0.5 else {"voltage_rest_v": volts}
    if kind == "bars":
        gauge = Gauge(kind="bars", steps=5)
        reads["gauge"] = np.ceil(percent / 20)
    if kind == "shown range that freezes":
        reads["shown_range_m"] = _shown_range(left, range_m, rng)
    if two:
        # The same ride once more on the second pack. The gauge shows the fuller one, or both.
        range_m, whole_m = 2 * range_m, 2 * whole_m
        whole = (1 + left) / 2
        reads["gauge"] = (
            np.full(end + 1, 100.0) if rng.random() < 0.5 else np.round(100 * whole**0.8)
        )
        use: Literal["in_parallel", "in_sequence"] = (
            "in_parallel" if rng.random() < 0.5 else "in_sequence"
        )
        sheet = replace(sheet, packs_used=2, packs_use=use)
        if use == "in_sequence":
            reads["gauge"] = percent
    sheet = replace(sheet, instruments=Instruments(gauge=gauge))
    test = RangeTest(sheet=sheet)
    priors = NOTHING
    if kind == "tenth ride, percent":
        # Some of the nine before had a meter. The same vehicle, rider and gauge; days differ as they do.
        days = [
            replace(ride, metres=ride.metres * np.exp(rng.normal(0, DAYS))) for _ in range(METERED)
        ]
        priors = learn([teacher(day, rng, shows(day, pack.series)) for day in days], item.test)
    trip = ride.metres * (1 + rng.uniform(-0.04, 0.04))
    return Rider(kind, ride, start, range_m, whole_m, test, reads, trip, priors)


def _a_percent(rng: np.random.Generator) -> Callable[[CellRide, int], np.ndarray]:
    """A vehicle's percent: half of them count, bent as those of the trade's tables; half go by volts."""
    if rng.random() < 0.5:
        return lambda ride, series: shown_by_gauge(ride, ride.volts * series, series, 100)
    bend, full = np.exp(-rng.uniform(0.1, 0.55)), rng.uniform(0.0, 0.06)

    def counted(ride: CellRide, series: int) -> np.ndarray:
        end = int(np.searchsorted(ride.time_s, ride.end_s))
        left = 1 - ride.energy / ride.energy[end]
        shown = np.clip(left + full * left, 0, 1) ** bend
        return np.asarray(np.round(100 * np.clip(shown, 0, 1)))

    return counted


def _shown_range(left: np.ndarray, range_m: float, rng: np.random.Generator) -> np.ndarray:
    """A promise by the last kilometres and a factor of its own, that stands still for stretches."""
    factor = np.exp(rng.normal(0.12, 0.25))
    shown = left * range_m * factor * np.exp(np.interp(
        np.linspace(0, 6, len(left)), np.arange(7), rng.normal(0, 0.08, 7)
    ))  # fmt: skip
    at = 0
    while at < len(shown):
        still = int(rng.integers(1, max(len(shown) // 10, 2)))
        shown[at : at + still] = shown[at]
        at += still
    return np.asarray(np.maximum(np.round(shown / 1000) * 1000, 1.0))


def bets_of(rider: Rider, rng: np.random.Generator) -> list[Bet]:
    """At a stop somebody asks of ways of several lengths whether they come home; none is told by readings
    that contradict each other."""
    part = rng.uniform(0.15, 0.8)
    rows = sorted({rider.row_at(part * (k + 1) / STOPS) for k in range(STOPS)})
    test = rider.so_far(rows)
    left_m = rider.range_m - rider.true_m(rows[-1])
    plain = riding(test, priors=rider.priors)
    if plain.following.contradicts:
        return []
    done_m = plain.onward.now.done_m
    middle = plain.following.range_left_to_cutoff.value
    bets = []
    for length_m in middle * np.concatenate(
        [rng.uniform(0.15, 0.75, 3), rng.uniform(0.75, 1.5, 2)]
    ):
        ahead = WayAhead(onward="given", from_m=done_m, until_m=done_m + max(length_m, 200.0))
        way = riding(test, ahead=ahead, priors=rider.priors).following.way
        if way is None:
            continue
        bets.append(Bet(rider.kind, way.reaches_probability, bool(left_m >= length_m)))
    return bets


def turn_of(rider: Rider) -> Turn | None:
    """A rider goes out, reads at every twelfth of the range, and turns when told."""
    rows: list[int] = []
    turned_m = 0.0
    for k in range(1, 9):
        row = rider.row_at(k / 12)
        if rows and (row <= rows[-1] or turned_m < rider.true_m(row)):
            if row <= rows[-1]:
                continue
            break
        rows.append(row)
        found = riding(rider.so_far(rows), priors=rider.priors)
        way, onward = found.following.way, found.onward
        if found.following.contradicts:
            # Told that the readings can't be true, nobody goes on.
            turned_m = max(rider.true_m(row), turned_m if np.isfinite(turned_m) else 0.0)
            break
        if way is None:
            turned_m = np.inf
            continue
        # By the trip meter, whatever that shows too much of.
        scale = rider.true_m(rows[-1]) / max(onward.now.done_m, 1.0)
        turn_m = onward.now.done_m if way.turn_by_m is None else way.turn_by_m
        turned_m = max(turn_m * scale, rider.true_m(rows[-1]))
    # The reserve is a share of a full pack, whatever it began with.
    possible = 1 - RESERVE * rider.whole_m / rider.range_m
    return Turn(rider.kind, float(2 * turned_m / rider.range_m), float(possible))


#: The rungs of the ladder of words: from which chance on each is said.
RUNGS = (0.0, 0.20, 0.50, 0.80, 0.95, 0.99, 1.01)


@dataclass(frozen=True)
class Outcome:
    """What came of all bets and turns."""

    bets: list[Bet]
    turns: list[Turn]
    silent: int = 0

    def sure(self, kind: Kind) -> tuple[int, int]:
        """How many were told over 95% home at all, and how many of them were stranded."""
        mine = [bet for bet in self.bets if bet.kind == kind and bet.told > 0.95]
        return len(mine), sum(not bet.home for bet in mine)

    def early(self, kind: Kind) -> float:
        """The middle of how much too early they turned, of the way out that keeps the reserve [-]."""
        return float(
            np.median([1 - turn.share / turn.possible for turn in self.turns if turn.kind == kind])
        )

    def stranded(self, kind: Kind) -> float:
        """The share of those who turned when told and did not come home."""
        return float(np.mean([turn.share > 1 for turn in self.turns if turn.kind == kind]))

    def rungs(self) -> list[tuple[float, float, int, float, float]]:
        """Each rung: from, to, bets, the mean chance told, the share that came home."""
        found = []
        for low, high in pairwise(RUNGS):
            mine = [bet for bet in self.bets if low <= bet.told < high]
            if mine:
                told_mean = float(np.mean([bet.told for bet in mine]))
                home = float(np.mean([bet.home for bet in mine]))
                found.append((low, high, len(mine), told_mean, home))
        return found

    def __str__(self) -> str:
        lines = [f"{'evidence':<30}{'told > 95%':>12}{'stranded':>10}{'at most':>9}{'turned':>8}"
                 f"{'stranded':>10}{'too early':>11}"]  # fmt: skip
        for kind in dict.fromkeys(bet.kind for bet in self.bets):
            count, lost = self.sure(kind)
            share, most = lost / max(count, 1), upper_bound(lost, count)
            turned = sum(turn.kind == kind for turn in self.turns)
            lines.append(
                f"{kind:<30}{count:>12}{100 * share:>9.1f}%{100 * most:>8.1f}%{turned:>8}"
                + (
                    f"{100 * self.stranded(kind):>9.1f}%{100 * self.early(kind):>10.0f}%"
                    if turned
                    else ""
                )
            )
        lines += [""] + [
            f"told {100 * low:.0f} to {min(100 * high, 100):.0f}%: {count:>5} bets, "
            f"mean {100 * mean:.1f}%, came home {100 * home:.1f}%"
            for low, high, count, mean, home in self.rungs()
        ]
        return "\n".join([*lines, "", f"readings contradicted each other: {self.silent} stops"])


def upper_bound(lost: int, count: int, confidence: float = 0.95) -> float:
    """The upper bound of a share (Clopper and Pearson 1934, by SciPy's beta quantile)."""
    return 1.0 if count == lost else float(beta.ppf(confidence, lost + 1, count - lost))


def outcome(
    every: int = 1, riders: int = 1, kinds: tuple[Kind, ...] = KINDS, processes: int = 1
) -> Outcome:
    """All bets of so many riders of each kind on every so manieth ride.

    Parameters
    ----------
    processes : so many at once
    """
    jobs = [
        (number, kind, who)
        for number, ride in enumerate(cell_rides())
        if ride.parameters not in FOREIGN
        for kind in kinds
        for who in range(riders)
    ][:: max(every, 1)]
    if processes > 1:
        with ProcessPoolExecutor(processes) as pool:
            found = list(pool.map(_one, jobs, chunksize=4))
    else:
        found = [_one(job) for job in jobs]
    return Outcome(
        bets=[bet for bets, _ in found for bet in bets or ()],
        silent=sum(bets == [] for bets, _ in found),
        turns=[turn for _, turn in found if turn is not None],
    )


def _one(job: tuple[int, Kind, int]) -> tuple[list[Bet] | None, Turn | None]:
    number, kind, who = job
    rng = np.random.default_rng([5, number, KINDS.index(kind), who])
    rider = rider_of(cell_rides()[number], kind, rng)
    if rider is None:
        return None, None
    return bets_of(rider, rng), turn_of(rider) if who == 0 else None
