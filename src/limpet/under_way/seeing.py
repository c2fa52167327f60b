"""What a reading at a place further on would say of the energy that is left there."""

from __future__ import annotations

from dataclasses import dataclass
from math import hypot, sqrt
from typing import Any, Final

import numpy as np
from numpy.typing import NDArray

from limpet.evidence.model import RangeTest
from limpet.pack import low_charge_factor
from limpet.read.readings import Reading, gauge_steps
from limpet.state.remaining import (
    LOADED_STD_V,
    OWN_STD_V,
    SHOWN_STD,
    STEP_LAG,
    STEP_STD,
    UNREAD_STD,
    unsettled,
)
from limpet.state.state_model import led
from limpet.state.uncertain_inputs import CAME_OF_SHOWN
from limpet.under_way.now import Now

FloatArray = NDArray[np.float64]

#: Volts are read on a display of tenths, and nobody says how long the pack has rested (assumption).
DISPLAY_V = 0.1
#: A counter shows hundredths, and single watt-hours.
COUNTER_AH, COUNTER_WH = 0.01, 1.0
#: A reading that narrows what is known by less than this says nothing [-].
LEAST_GAIN = 0.08


#: Shares of usable energy left at which it is told what an instrument would show.
LEFT: Final = (0.0, 0.03, 0.08, 0.16, 0.27, 0.4, 0.53, 0.65, 0.76, 0.85, 0.92, 0.97, 1.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class Sight:
    """What one kind of reading would show in each draw.

    `shown` at the shares `LEFT` of usable energy left, shape (8, J); `std` one standard uncertainty of
    reading it, of its log where `by_log`.
    """

    name: str
    shown: FloatArray
    std: float
    by_log: bool = False

    def to_json(self) -> dict[str, Any]:
        """As it goes to a device: with no more digits than its reading is worth."""
        worth = self.std * np.abs(self.shown).mean() if self.by_log else self.std
        digits = 1 - int(np.floor(np.log10(max(float(worth), 1e-9))))
        # What is read by its log is never nothing.
        rounded = np.maximum(np.round(self.shown, digits), 1.0 if self.by_log else -np.inf)
        return {
            "name": self.name,
            "left": list(LEFT),
            "shown": (rounded if digits > 0 else rounded.astype(int)).tolist(),
            "std": float(f"{self.std:.4g}"),
            "by_log": self.by_log,
        }


@dataclass(frozen=True, slots=True, kw_only=True)
class Narrows:
    """How well the share left would be known if a reading was made now: one standard uncertainty."""

    name: str
    sure: float


@dataclass(frozen=True, slots=True, kw_only=True)
class _Seen:
    """A reading as each draw has it, shape (J,), and u of reading it."""

    shown: FloatArray
    std: float


def sights_of(seen: RangeTest, now: Now, rows: NDArray[np.intp]) -> tuple[Sight, ...]:
    """What each kind of reading would show, in some of the draws."""
    by_name: dict[str, list[_Seen]] = {}
    for share in LEFT:
        for name, found in _shown(seen, now, share * now.usable_wh).items():
            by_name.setdefault(name, []).append(found)
    sights = [
        Sight(name=name, shown=np.stack([one.shown[rows] for one in found]), std=found[0].std)
        for name, found in by_name.items()
    ]
    came = now.found.remaining
    if now.found.evidence.progress.basis in ("charge", "energy"):
        # Beside a meter a promise adds nothing.
        return tuple(sights)
    factor = (
        came.value("came_of_shown")
        if "came_of_shown" in came.model.rows
        else CAME_OF_SHOWN[0]
        * np.exp(
            CAME_OF_SHOWN[1] / CAME_OF_SHOWN[0]
            * np.random.default_rng(17).standard_normal(len(now.usable_wh))
        )
    )  # fmt: skip
    promised = np.stack([share * now.usable_wh / now.per_m / factor for share in LEFT])
    sights.append(
        Sight(
            name="shown_range_m",
            shown=np.maximum(promised[:, rows], 1.0),
            std=SHOWN_STD,
            by_log=True,
        )
    )
    return tuple(sights)


def narrows_of(seen: RangeTest, now: Now) -> tuple[Narrows, ...]:
    """What a reading of each kind would do now.

    Notes
    -----
    The regression of what is left on what would be shown, over the draws: one step of an ensemble's
    linear update, with the error of the reading in it.
    """
    share = now.left_wh / now.usable_wh
    about = share - share.mean()
    found = []
    for name, one in _shown(seen, now, now.left_wh).items():
        spread = one.shown - one.shown.mean()
        variance = float(spread @ spread) / len(spread) + one.std**2
        both = float(spread @ about) / len(spread)
        left = float(about @ about) / len(about) - both**2 / max(variance, 1e-12)
        found.append(Narrows(name=name, sure=sqrt(max(left, 1e-8))))
    return tuple(found)


#: Volts at rest as a rider notes them on the way.
_AT_A_STOP: Final = Reading(
    kind="rest", time_s=0.0, value=0.0, step=DISPLAY_V, settled_s=None, source="entry"
)


def _shown(seen: RangeTest, now: Now, left_wh: FloatArray) -> dict[str, _Seen]:
    """What the pack's instruments would show in each draw with so much left."""
    found, state = now.found.remaining, now.found.remaining.state
    pack, series = seen.sheet.pack, now.found.remaining.model.ride.series
    delivered = np.maximum(state.capacity_ah * series * (1 - state.lost), 1e-9)
    # Of several packs in turn the one that is in use is looked at.
    one = np.clip(left_wh % np.maximum(state.usable * delivered, 1e-9), 0.0, None)
    one = np.where(left_wh > 0, np.where(one > 0, one, left_wh), 0.0)
    stored = state.cut_stored + one / delivered
    charge = state.curves.charge_at_energy(stored[None])
    open_v = state.curves.voltage(charge)[0]
    lag = found.value("lag") * state.current_a / np.maximum(state.capacity_ah, 1e-6)
    gain = found.value("voltage")
    part = unsettled(_AT_A_STOP)
    amps = state.current_a * found.value("pull")
    low = low_charge_factor(charge, found.value("low_charge_resistance"))[0]
    sag = amps * state.resistance_ohm * low
    shown = {
        "voltage_rest_v": _Seen(
            shown=series * (open_v - part * lag) * gain,
            std=hypot(
                DISPLAY_V / sqrt(12),
                series * hypot(OWN_STD_V, found.model.ride.volts.unsettled_std_v * part),
            ),
        ),
        "voltage_load_v": _Seen(
            shown=(series * (open_v - lag) - sag) * gain,
            std=hypot(
                series * LOADED_STD_V,
                UNREAD_STD * 0.5 * pack.rated_ah * float(state.resistance_ohm.mean()),
            ),
        ),
    }
    steps = _steps(seen, now)
    if steps is not None:
        share = one / np.maximum(state.usable * delivered, 1e-9)
        if "gauge_leads" in found.model.rows:
            share = led(share, found.value("gauge_leads"))
        bottom = found.value("gauge_bottom")
        map_ = np.clip((share - bottom) / (1 - bottom), 1e-3, 1.2) ** found.value("gauge_bend")
        step = 1.0
        drop = found.value("gauge_drop") if "gauge_drop" in found.model.rows else 0.0
        shown["gauge"] = _Seen(
            shown=(map_ - drop) * steps + STEP_LAG * step,
            std=hypot(
                found.model.ride.gauges.map_std,
                STEP_STD * step / steps,
                found.model.ride.gauges.swing,
            )
            * steps,
        )
    ended = found.at_ends(state.charge, state.cut_charge)[-1]
    for name, amount, std in (
        ("charge_ah", (ended - charge[0]) * state.capacity_ah, COUNTER_AH),
        ("energy_wh", np.maximum(now.left_wh - left_wh, 0.0), COUNTER_WH),
    ):
        last = next((e for e in reversed(seen.entries) if getattr(e, name) is not None), None)
        if last is not None:
            shown[name] = _Seen(shown=getattr(last, name) + np.asarray(amount), std=std)
    return shown


def _steps(seen: RangeTest, now: Now) -> float | None:
    """Steps of the vehicle's gauge; None where nobody said that it has one."""
    read = [item for item in now.found.evidence.readings if item.kind == "gauge"]
    tools = seen.sheet.instruments
    if read or (tools is not None and tools.gauge is not None and tools.gauge.kind is not None):
        return gauge_steps(seen, read)
    return None
