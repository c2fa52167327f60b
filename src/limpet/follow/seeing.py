"""What a reading at a place further on would say of the energy that is left there."""

from __future__ import annotations

from dataclasses import dataclass
from math import hypot, sqrt
from typing import Any, Final

import numpy as np
from numpy.typing import NDArray

from limpet.evidence.model import RangeTest
from limpet.follow.now import Now
from limpet.follow.onward import Onward
from limpet.pack import low_charge_factor
from limpet.result.left import (
    GAUGE_STD,
    LOADED_STD_V,
    OWN_STD_V,
    STEP_LAG,
    STEP_STD,
    UNREAD_STD,
    UNSETTLED_STD_V,
    unsettled,
)
from limpet.result.readings import Reading, gauge_steps
from limpet.result.state import led

FloatArray = NDArray[np.float64]

#: Volts are read on a display of tenths, and nobody says how long the pack has rested (assumption).
DISPLAY_V = 0.1
#: A counter shows hundredths, and single watt-hours.
COUNTER_AH, COUNTER_WH = 0.01, 1.0
#: A reading that narrows what is known by less than this says nothing [-].
LEAST_GAIN = 0.08


@dataclass(frozen=True, slots=True, kw_only=True)
class Sight:
    """What one kind of reading says at each place: shape (places,).

    Where it shows `shown`, the share left is `left`; `per` share for each unit more; `sure` one
    standard uncertainty once it is read.
    """

    name: str
    shown: FloatArray
    left: FloatArray
    per: FloatArray
    sure: FloatArray

    def to_json(self) -> dict[str, Any]:
        """As it goes to a device."""
        return {
            "name": self.name,
            "shown": np.round(self.shown, 3).tolist(),
            "left": np.round(self.left, 4).tolist(),
            "per": [float(f"{value:.4g}") for value in self.per],
            "sure": np.round(self.sure, 4).tolist(),
        }


@dataclass(frozen=True, slots=True, kw_only=True)
class _Seen:
    """A reading as each draw has it, shape (J,), and u of reading it."""

    shown: FloatArray
    std: float


def sights_of(seen: RangeTest, onward: Onward, places: FloatArray) -> tuple[Sight, ...]:
    """What each kind of reading would say at some places.

    Notes
    -----
    The regression of what is left on what would be shown, over the draws: one step of an ensemble's
    linear update, with the error of the reading in it.
    """
    rows: dict[str, list[tuple[float, float, float, float]]] = {}
    for place in places.tolist():
        left = onward.left_wh(place)
        share = left / onward.now.usable_wh
        for name, found in _shown(seen, onward.now, left).items():
            spread = found.shown - found.shown.mean()
            about = share - share.mean()
            variance = float(spread @ spread) / len(spread) + found.std**2
            both = float(spread @ about) / len(spread)
            per = both / max(variance, 1e-12)
            sure = sqrt(max(float(about @ about) / len(about) - per * both, 1e-8))
            row = (float(found.shown.mean()), float(share.mean()), per, sure)
            rows.setdefault(name, []).append(row)
    return tuple(
        Sight(name=name, shown=table[:, 0], left=table[:, 1], per=table[:, 2], sure=table[:, 3])
        for name, table in ((name, np.array(row)) for name, row in rows.items())
    )


#: Volts at rest as a rider notes them on the way.
_AT_A_STOP: Final = Reading(
    kind="rest", time_s=0.0, value=0.0, step=DISPLAY_V, settled_s=None, source="entry"
)


def _shown(seen: RangeTest, now: Now, left_wh: FloatArray) -> dict[str, _Seen]:
    """What the pack's instruments would show in each draw with so much left."""
    found, state = now.found.left, now.found.left.state
    pack, series = seen.sheet.pack, now.found.left.model.ride.series
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
            std=hypot(DISPLAY_V / sqrt(12), series * hypot(OWN_STD_V, UNSETTLED_STD_V * part)),
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
            std=hypot(GAUGE_STD, STEP_STD * step / steps) * steps,
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
    read = [item for item in now.found.found if item.kind == "gauge"]
    tools = seen.sheet.instruments
    if read or (tools is not None and tools.gauge is not None and tools.gauge.kind is not None):
        return gauge_steps(seen, read)
    return None
