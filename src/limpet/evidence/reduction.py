"""What a stretch of samples comes to: sums that can be carried on without reading it again."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, fields, replace
from typing import TYPE_CHECKING, Any

import numpy as np
from numpy.typing import NDArray

from limpet.evidence.gaps import gap_threshold_s
from limpet.evidence.trapezoid import integral, seconds_between
from limpet.units import SECONDS_PER_HOUR

if TYPE_CHECKING:
    import polars as pl

FloatArray = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True)
class Edge:
    """What was known first, or last, in a stretch: each reading with the time it is of [s]."""

    time_s: float
    electric_s: float | None = None
    voltage_v: float | None = None
    current_a: float | None = None
    rolling_s: float | None = None
    speed_mps: float | None = None
    distance_m: float | None = None

    def or_from(self, other: Edge) -> Edge:
        """This edge, with what it does not know taken from the next stretch's."""
        mine = {name: value for name, value in _values(self).items() if value is not None}
        return Edge(**{**_values(other), **mine})

    def turned(self) -> Edge:
        """The same with the current the other way round."""
        return self if self.current_a is None else replace(self, current_a=-self.current_a)


@dataclass(frozen=True, slots=True, kw_only=True)
class Reduction:
    """A stretch of samples in sums; nothing is counted across its gaps.

    `energy_wh` and `charge_ah` are net, by the trapezoidal rule where volts and amps are both
    known; `returned_wh` is what came back, 0 or more. `rolled_m` is the speed over time,
    `counted_m` what the running distance rose by (a fall is a reset). `longest_step_s` is the
    longest pause that is none; pauses beyond it are gaps.
    """

    count: int
    first: Edge
    last: Edge
    longest_step_s: float
    gaps: int = 0
    energy_wh: float = 0.0
    charge_ah: float = 0.0
    returned_wh: float = 0.0
    rolled_m: float = 0.0
    counted_m: float = 0.0
    lowest_v: float | None = None
    lowest_cell_v: float | None = None
    hottest_pack_c: float | None = None

    def then(self, later: Reduction) -> Reduction:
        """This stretch and the one after it, the step between them counted as any other.

        Raises
        ------
        ValueError
            When the other does not come after.
        """
        if later.first.time_s <= self.last.time_s:
            raise ValueError("a stretch can be carried on only by a later one")
        threshold = max(self.longest_step_s, later.longest_step_s)
        step = _step(self.last, later.first, threshold)
        return Reduction(
            count=self.count + later.count,
            first=self.first.or_from(later.first),
            last=later.last.or_from(self.last),
            longest_step_s=threshold,
            gaps=self.gaps + step.gaps + later.gaps,
            energy_wh=self.energy_wh + step.energy_wh + later.energy_wh,
            charge_ah=self.charge_ah + step.charge_ah + later.charge_ah,
            returned_wh=self.returned_wh + step.returned_wh + later.returned_wh,
            rolled_m=self.rolled_m + step.rolled_m + later.rolled_m,
            counted_m=self.counted_m + step.counted_m + later.counted_m,
            lowest_v=_least(self.lowest_v, later.lowest_v),
            lowest_cell_v=_least(self.lowest_cell_v, later.lowest_cell_v),
            hottest_pack_c=_most(self.hottest_pack_c, later.hottest_pack_c),
        )

    def turned(self) -> Reduction:
        """The same from an instrument that counts the current the other way round."""
        return replace(
            self,
            first=self.first.turned(),
            last=self.last.turned(),
            energy_wh=-self.energy_wh,
            charge_ah=-self.charge_ah,
            # What was drawn comes back: net is drawn less returned.
            returned_wh=max(self.energy_wh + self.returned_wh, 0.0),
        )

    def to_json(self) -> dict[str, Any]:
        """As it is kept beside its samples."""
        kept = _values(self)
        return {**kept, "first": _values(self.first), "last": _values(self.last)}

    @classmethod
    def from_json(cls, kept: Any) -> Reduction | None:
        """From what was kept; None when it is of a shape that is not known any more."""
        if not isinstance(kept, Mapping) or set(kept) != {item.name for item in fields(cls)}:
            return None
        try:
            return cls(**{**kept, "first": Edge(**kept["first"]), "last": Edge(**kept["last"])})
        except TypeError:
            return None


def _values(row: Edge | Reduction) -> dict[str, Any]:
    """Its own values by name; `dataclasses.asdict` copies each of them, which a batch a second feels."""
    return {item.name: getattr(row, item.name) for item in fields(row)}


def _step(before: Edge, after: Edge, threshold_s: float) -> Reduction:
    """What lies between two stretches, from the last that was known to the first."""
    time = np.array([before.time_s, after.time_s])
    found = _sums(
        _pair(before.electric_s, after.electric_s),
        _pair(before.voltage_v, after.voltage_v),
        _pair(before.current_a, after.current_a),
        _pair(before.rolling_s, after.rolling_s),
        _pair(before.speed_mps, after.speed_mps),
        _pair(before.distance_m, after.distance_m),
        threshold_s,
    )
    gaps = int(time[1] - time[0] > threshold_s)
    return Reduction(
        count=0, first=before, last=after, longest_step_s=threshold_s, gaps=gaps, **found
    )


def _pair(before: float | None, after: float | None) -> FloatArray:
    return np.array([] if before is None or after is None else [before, after])


def reduced(samples: pl.DataFrame) -> Reduction:
    """A stretch of samples in sums.

    Parameters
    ----------
    samples : `time_s` strictly increasing and any of the columns of bundle.md; at least one row

    Notes
    -----
    The trapezoidal rule, as `read.logged` has it; gaps by the stretch's own rhythm.
    """
    columns = {
        name: samples[name].cast(float).to_numpy() for name in _READ if name in samples.columns
    }
    time = columns["time_s"]
    threshold_s = gap_threshold_s(time)
    nothing = np.full(len(time), np.nan)
    volts, amps, speed, metres = (columns.get(name, nothing) for name in _SUMMED)
    electric, rolling, counted = ~np.isnan(volts * amps), ~np.isnan(speed), ~np.isnan(metres)
    found = _sums(
        time[electric], volts[electric], amps[electric],
        time[rolling], speed[rolling], metres[counted], threshold_s,
    )  # fmt: skip

    def edge(at: int) -> Edge:
        known = {"time_s": float(time[at])}
        if electric.any():
            known["electric_s"] = float(time[electric][at])
            known["voltage_v"] = float(volts[electric][at])
            known["current_a"] = float(amps[electric][at])
        if rolling.any():
            known["rolling_s"] = float(time[rolling][at])
            known["speed_mps"] = float(speed[rolling][at])
        if counted.any():
            known["distance_m"] = float(metres[counted][at])
        return Edge(**known)

    return Reduction(
        count=len(time),
        first=edge(0),
        last=edge(-1),
        longest_step_s=threshold_s,
        gaps=int((np.diff(time) > threshold_s).sum()),
        lowest_v=_extreme(np.fmin, columns.get("voltage_v")),
        lowest_cell_v=_extreme(np.fmin, columns.get("cell_min_v")),
        hottest_pack_c=_extreme(np.fmax, columns.get("battery_temp_c")),
        **found,
    )


_SUMMED = ("voltage_v", "current_a", "speed_mps", "distance_m")
_READ = ("time_s", *_SUMMED, "cell_min_v", "battery_temp_c")


def _sums(
    electric_s: FloatArray,
    voltage_v: FloatArray,
    current_a: FloatArray,
    rolling_s: FloatArray,
    speed_mps: FloatArray,
    distance_m: FloatArray,
    threshold_s: float,
) -> dict[str, float]:
    """The integrals of a stretch; its arrays hold what is known of each kind, and may be empty."""
    power, seconds = voltage_v * current_a, seconds_between(electric_s, threshold_s)
    return {
        "energy_wh": integral(power, seconds) / SECONDS_PER_HOUR,
        "charge_ah": integral(current_a, seconds) / SECONDS_PER_HOUR,
        "returned_wh": abs(integral(np.minimum(power, 0.0), seconds)) / SECONDS_PER_HOUR,
        "rolled_m": integral(speed_mps, seconds_between(rolling_s, threshold_s)),
        "counted_m": float(np.maximum(np.diff(distance_m), 0.0).sum()),
    }


def _extreme(pick: np.ufunc, values: FloatArray | None) -> float | None:
    if values is None or np.isnan(values).all():
        return None
    return float(pick.reduce(values))


def _least(one: float | None, other: float | None) -> float | None:
    return min((value for value in (one, other) if value is not None), default=None)


def _most(one: float | None, other: float | None) -> float | None:
    return max((value for value in (one, other) if value is not None), default=None)
