"""What makes a figure uncertain, and what would narrow it most."""

from __future__ import annotations

from dataclasses import dataclass
from math import sqrt

import numpy as np
from numpy.typing import NDArray

from limpet.notices import Notice
from limpet.quantity import Quantity
from limpet.state.remaining import Remaining

FloatArray = NDArray[np.float64]

#: Inputs that are told by the others and by the readings, not looked up: no one can take their spread
#: away by a better instrument.
_FOUND = ("consumption",)
#: A part below this is not worth a name [-].
LEAST_SHARE = 0.01
#: Advice is given for what narrows a figure at least to this share of its width, so many at most.
WORTH_IT, MOST_ADVICE = 0.93, 3
#: What takes an input's spread away.
ADVICE = {
    "lag": "wait_to_settle",
    "curve": "log_charge",
    "retained": "ride_to_the_end_once",
    "label": "ride_to_the_end_once",
    "voltage": "check_voltmeter",
    "current": "check_meter",
    "charge": "check_meter",
    "energy": "check_meter",
    "trip": "measure_wheel",
    "odometer": "measure_wheel",
    "gps": "measure_course",
    "lap": "measure_course",
    "height": "end_level",
    "gauge": "teach_gauge",
    "start": "note_start",
    "cutoff": "note_cutoff",
    "resistance_ohm": "note_loaded_pair",
    "cold": "note_pack_temperature",
    "way_ahead": "ride_further",
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Part:
    """An input's share of a figure's variance [-], the shares of all together 1."""

    input: str
    share_of_variance: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Advice:
    """What would narrow a figure, from ± now to ± then, relative half-widths [-]."""

    code: str
    figure: str
    relative_half_width_now: float
    then: float
    notice: Notice


def group_of(name: str) -> str:
    """What an input counts under: the pieces of a way, of a curve, of a gauge's map are one."""
    for stem in ("curve", "way_ahead", "way", "start", "gauge"):
        if name == stem or name.startswith(f"{stem}_"):
            return stem
    return name


def budget_of(remaining: Remaining, figure: FloatArray) -> tuple[Part, ...]:
    """The inputs' shares of a figure's variance, largest first.

    Parameters
    ----------
    figure : its draws, shape (J,)

    Notes
    -----
    A share is what the variance falls by when an input is known, given the readings:
    c·C⁻¹·cᵀ of its scores' covariance with the figure. What remains is the readings' own rounding
    and scatter. For independent inputs these are the (∂f/∂xᵢ)²·u²(xᵢ) of GUM 5.1.2.
    """
    known = _known(remaining, figure)
    total = sum(known.values())
    whole = max(total, 1.0)
    parts = [
        Part(input=name, share_of_variance=share / whole)
        for name, share in known.items()
        if share / whole >= LEAST_SHARE
    ]
    rest = 1.0 - sum(part.share_of_variance for part in parts)
    if rest >= LEAST_SHARE:
        parts.append(Part(input="readings", share_of_variance=rest))
    return tuple(sorted(parts, key=lambda part: -part.share_of_variance))


def advice_of(
    remaining: Remaining, name: str, draws: FloatArray, figure: Quantity
) -> tuple[Advice, ...]:
    """What would narrow a figure most, and to what, computed by taking that spread away."""
    if figure.value <= 0:
        return ()
    now = (figure.high - figure.low) / 2 / figure.value
    gains: dict[str, float] = {}
    for group, share in _known(remaining, draws).items():
        code = ADVICE.get(group)
        if code is not None and _applies(remaining, group):
            gains[code] = gains.get(code, 0.0) + share
    found = []
    for code, share in sorted(gains.items(), key=lambda item: -item[1])[:MOST_ADVICE]:
        factor = sqrt(max(1.0 - min(share, 0.98), 0.02))
        then = now * factor
        # What rounds to the same is no advice.
        if factor <= WORTH_IT and round(100 * then) < round(100 * now):
            found.append(
                Advice(
                    code=code,
                    figure=name,
                    relative_half_width_now=now,
                    then=then,
                    notice=Notice(code, now=now, then=then),
                )
            )
    return tuple(found)


def _applies(remaining: Remaining, group: str) -> bool:
    """Whether an advice fits what was recorded: nobody counts amp-hours who does."""
    metered = remaining.model.ride.metered_a is not None
    if group == "curve":
        return not metered
    if group == "lag":
        volts = remaining.model.ride.volts
        resting = volts.current_a == 0
        return bool((resting & (volts.share_unsettled > 0.4)).any())
    if group in ("retained", "label"):
        return metered
    if group in ("start", "cutoff"):
        inputs = [item for item in remaining.model.inputs if group_of(item.name) == group]
        return any("assumed" in item.source or "gauge" in item.source for item in inputs)
    if group == "resistance_ohm":
        return any(
            item.name == group and item.source == "assumed" for item in remaining.model.inputs
        )
    if group == "height":
        return any(
            item.name == group and "assumption" in item.source for item in remaining.model.inputs
        )
    return True


def _known(remaining: Remaining, figure: FloatArray) -> dict[str, float]:
    """What the variance of a figure falls by, as a share of it, where a group of inputs is known."""
    scores = remaining.posterior.scores
    apart = figure - figure.mean()
    variance = float(apart @ apart)
    if variance <= 0:
        return {}
    groups: dict[str, list[int]] = {}
    for row, item in enumerate(remaining.model.inputs):
        if item.name not in _FOUND and item.standard_uncertainty > 0:
            groups.setdefault(group_of(item.name), []).append(row)
    found = {}
    for group, rows in groups.items():
        mine = scores[rows] - scores[rows].mean(axis=1, keepdims=True)
        with_figure = mine @ apart
        inner = mine @ mine.T + 1e-6 * len(apart) * np.eye(len(rows))
        found[group] = float(with_figure @ np.linalg.solve(inner, with_figure)) / variance
    # Chance alone explains about rows/draws of any variance.
    return {
        group: max(share - len(groups[group]) / len(apart), 0.0) for group, share in found.items()
    }
