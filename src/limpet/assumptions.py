"""What is taken when nobody says: every default once, with its spread, its source, where it matters.

A *start value* of a kind of vehicle stands in `limpet.carry.start_values`, a fact of a chemistry in
`limpet.pack.chemistry`; everything else that stands in for a reading stands here.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator, Mapping
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass
from math import hypot, sqrt
from typing import Final, Literal

from limpet.errors import LimpetError
from limpet.units import METRES_PER_KM, METRES_PER_MILE

#: Where an assumption comes from.
PRACTICE: Final = "common practice, no source"
CHOICE: Final = "assumption"
HANDBOOK: Final = "assumption of the handbook"

Spread = tuple[float, float]


#: What somebody assumes instead, by name, asked for when the first of them is needed.
Changes = Mapping[str, Spread]
_changes: ContextVar[Callable[[], Changes] | None] = ContextVar("assumptions", default=None)
#: Endings of names that are units, left out where an assumption is named in words.
_UNITS: Final = re.compile(r"_(kg|c|pa|mps|deg|v|s|per_h|ohm_ah|pct)$")


@dataclass(frozen=True, slots=True, kw_only=True)
class Assumption:
    """A default: its value and standard uncertainty in a unit, its source, and where it matters.

    `value` and `std` are what is assumed here and now: within `as_assumed` somebody's own.
    """

    name: str
    default: float
    default_std: float
    unit: str
    source: str
    matters: str

    @property
    def value(self) -> float:
        """The value."""
        return self.spread[0]

    @property
    def std(self) -> float:
        """The standard uncertainty."""
        return self.spread[1]

    @property
    def spread(self) -> Spread:
        """Value and standard uncertainty."""
        return _changed().get(self.name, (self.default, self.default_std))

    @property
    def label(self) -> str:
        """Its name in words, without its unit."""
        words = _UNITS.sub("", self.name).replace("_", " ")
        return words[:1].upper() + words[1:]

    def faults_of(self, value: float, std: float) -> dict[str, str]:
        """What is wrong with other values, by `value` and `std`; empty when they can be taken.

        Notes
        -----
        A tenth to ten times the default, so that a slip of a unit is caught; what is about nothing, by
        three of its spreads. A share stays a share.
        """
        faults = {}
        low, high = self.span
        if not low <= value <= high:
            faults["value"] = f"is {value:g}, takes {low:g} to {high:g} {self.unit}".rstrip(" 1")
        widest = max(3 * self.default_std, abs(self.default) / 2, 1e-9)
        if not 0 <= std <= widest:
            faults["std"] = f"is {std:g}, takes 0 to {widest:g} {self.unit}".rstrip(" 1")
        return faults

    @property
    def span(self) -> Spread:
        """The least and the most that it may be changed to."""
        if self.default == 0:
            reach = 3 * self.default_std or 1.0
            return -reach, reach
        low, high = 0.1 * self.default, 10 * self.default
        if self.unit == "°C":
            return -40.0, 50.0
        if self.unit == "Pa":
            # What the density of air is known for.
            return 50_000.0, 110_000.0
        if self.name in _SHARES:
            return (0.0 if self.name == "reserve" else low), 0.99
        return low, high


#: Assumptions that are shares of a whole.
_SHARES: Final = frozenset(
    {"reserve", "charger_efficiency", "air_humidity", "retired_at", "retained_fraction"}
)
_ALL: dict[str, Assumption] = {}


@contextmanager
def as_assumed(find: Callable[[], Changes]) -> Iterator[None]:
    """Assume otherwise for a while: `find` gives (value, u) by name, and is called once, if at all."""
    found: list[Changes] = []

    def once() -> Changes:
        if not found:
            found.append(find())
        return found[0]

    token = _changes.set(once)
    try:
        yield
    finally:
        _changes.reset(token)


def _changed() -> Changes:
    find = _changes.get()
    return {} if find is None else find()


@dataclass(frozen=True, slots=True)
class Assumptions:
    """What somebody assumes, as a value: all defaults but for `changes`, (value, u) by name."""

    changes: tuple[tuple[str, Spread], ...] = ()

    @classmethod
    def of(cls, changes: Mapping[str, float | Spread]) -> Assumptions:
        """The defaults with some changes.

        Parameters
        ----------
        changes : by name, in the assumption's unit; a number alone keeps the default's u

        Raises
        ------
        LimpetError
            When there is no such assumption, or a value lies outside of what it may be.
        """
        spreads = {}
        for name, given in changes.items():
            if name not in _ALL:
                raise LimpetError(f"nothing named {name!r} is assumed; there is {', '.join(_ALL)}")
            value, std = given if isinstance(given, tuple) else (given, _ALL[name].default_std)
            for part, fault in _ALL[name].faults_of(value, std).items():
                raise LimpetError(f"{name}: {part} {fault}")
            spreads[name] = (float(value), float(std))
        return cls(tuple(sorted(spreads.items())))

    @contextmanager
    def hold(self) -> Iterator[None]:
        """Within it these are assumed, and nothing that is assumed around it."""
        with as_assumed(lambda: dict(self.changes)):
            yield


def assumed_otherwise() -> tuple[Assumption, ...]:
    """Those that are somebody's own here and now."""
    changed = _changed()
    return tuple(
        item
        for item in _ALL.values()
        if changed.get(item.name, (item.default, item.default_std)) != (item.default, item.default_std)
    )  # fmt: skip


def _taken(name: str, value: float, std: float, unit: str, source: str, matters: str) -> Assumption:
    found = Assumption(
        name=name, default=value, default_std=std, unit=unit, source=source, matters=matters
    )  # fmt: skip
    if name in _ALL:
        raise ValueError(f"{name} is assumed twice")
    _ALL[name] = found
    return found


def assumptions() -> tuple[Assumption, ...]:
    """All of them, in the order in which they are written here."""
    return tuple(_ALL.values())


# Load.
RIDER_KG: Final = _taken(
    "rider_mass_kg", 78.0, 12.0, "kg", CHOICE, "rolling, climbs and stops of a rider not weighed"
)
GEAR_KG: Final = _taken(
    "gear_kg", 5.0, 3.0, "kg", CHOICE, "clothes, bag and locks that were not weighed"
)
CLAIMED_LOAD_KG: Final = _taken(
    "claimed_load_kg", 60.0, 0.0, "kg", CHOICE,
    "the light rider of a maker's figure; generous on purpose, so that no claim is called "
    "impossible for a heavy one",
)  # fmt: skip

# What is kept back.
RESERVE: Final = _taken(
    "reserve", 0.20, 0.0, "1", HANDBOOK, "range to the reserve, and whether a trip arrives"
)

# Air and weather.
AIR_TEMP_C: Final = _taken(
    "air_temp_c", 15.0, 6.0, "°C", CHOICE, "air density, and a pack's capacity in the cold"
)
AIR_TEMP_ON_THE_WAY_C: Final = _taken(
    "air_temp_on_the_way_c",
    0.0,
    1.5,
    "°C",
    CHOICE,
    "how far a stated temperature is off on the way",
)
AIR_PRESSURE_PA: Final = _taken(
    "air_pressure_pa", 101_325.0, 0.0, "Pa", "ISO 2533 standard atmosphere", "air density"
)
AIR_HUMIDITY: Final = _taken("air_humidity", 0.7, 0.0, "1", CHOICE, "air density, below 1%")
WIND_GAIN: Final = _taken(
    "wind_gain", 1.0, 0.15, "1", CHOICE, "a stated wind at the rider's height"
)
WIND_OFFSET_MPS: Final = _taken(
    "wind_offset_mps", 0.0, 0.5, "m/s", CHOICE, "a stated wind at the rider's height"
)
WIND_FROM_DEG: Final = _taken(
    "wind_from_deg", 0.0, 15.0, "deg", CHOICE, "the direction of a stated wind"
)
#: What a gauge shows is what is left to this power (ln k of handbook section 9, the other way round).
GAUGE_BEND: Final = _taken(
    "gauge_bend",
    0.75,
    0.25,
    "1",
    HANDBOOK,
    "the linearity of a gauge that was never tested (1 = linear)",
)
WIND_UNKNOWN_MPS: Final = _taken(
    "wind_unknown_mps", 0.0, 1.3, "m/s", CHOICE, "wind from any direction, when none was noted"
)

# Instruments: ± a maker's percent of the reading, rectangular (GUM 4.3.7).
InstrumentName = Literal[
    "voltage", "current", "charge", "energy", "trip", "gps", "odometer", "lap", "wall"
]
_PERCENT: Final[dict[InstrumentName, float]] = {
    "voltage": 1.0,
    "current": 2.0,
    "charge": 2.0,
    "energy": 2.5,
    # They differ by 2 to 12% (handbook section 1).
    "trip": 5.0,
    "gps": 2.5,
    "odometer": 5.0,
    "lap": 1.0,
    # What is left of the charger's 0.84 to 0.92 once its middle is taken (handbook section 4).
    "wall": 4.5,
}
INSTRUMENT_PCT: Final[dict[InstrumentName, Assumption]] = {
    name: _taken(
        f"{name}_accuracy_pct", percent, 0.0, "%", CHOICE, f"what {name} counts, without a data sheet"
    )
    for name, percent in _PERCENT.items()
}  # fmt: skip

# The pack.
RETAINED: Final = _taken("retained_fraction", 0.965, 0.04, "1", CHOICE, "a pack of unknown age")
UNKNOWN_PACK: Final = _taken(
    "unknown_pack", 1.0, 0.7, "1", CHOICE, "the energy of a pack with no label"
)
LOST_PER_CYCLE: Final = _taken(
    "lost_per_cycle", 0.0004, 0.0, "1", CHOICE, "what is left of a pack whose cycles are counted"
)
LOST_PER_MONTH: Final = _taken(
    "lost_per_month", 0.0042, 0.0, "1", CHOICE, "when a pack is to be tested again, without a trend"
)
LABEL: Final = _taken(
    # Packs give 0 to 13% more than they say, evenly; a few more than that (`Input.shape` soft_top).
    "label",
    1.065,
    0.065 / sqrt(3),
    "1",
    PRACTICE,
    "the energy that a label stands for",
)
RETIRED_AT: Final = _taken(
    "retired_at", 0.80, 0.0, "1", PRACTICE, "what is left of a pack when it is replaced"
)
RESISTANCE_OHM_AH: Final = _taken(
    # 40 mΩ for a cell group of 3 Ah with its share of the wiring.
    "resistance_ohm_ah",
    0.12,
    0.4 * 0.12,
    "Ω·Ah",
    CHOICE,
    "sag, where the drive fades, losses",
)
WORN_RESISTANCE: Final = _taken(
    # 60% more at 80% left.
    "worn_resistance",
    3.0,
    0.0,
    "1",
    CHOICE,
    "resistance that grows as capacity goes",
)
WARMING: Final = _taken(
    "pack_warming", 1.0, 0.35, "1", CHOICE, "the heat that a pack makes and keeps in the cold"
)
UNSETTLED_V: Final = _taken(
    "unsettled_v", 0.0, 0.010, "V", HANDBOOK, "a cell's voltage read before it has settled"
)
SETTLE_S: Final = _taken(
    "settle_s", 600.0, 0.0, "s", HANDBOOK, "when a resting voltage counts as settled"
)
FULL_WITHIN_V: Final = _taken(
    "full_within_v", 0.05, 0.0, "V", HANDBOOK, "when a cell counts as full at the start"
)
SAID_FULL: Final = _taken(
    "said_full", 1.0, 0.02, "1", HANDBOOK, "a start that a display or charger shows as full"
)
START_SHOWN: Final = _taken(
    "start_shown", 0.0, 0.05, "1", HANDBOOK, "a start below full, by the display or by the sheet"
)
CHARGE_RATE_PER_H: Final = _taken(
    "charge_rate_per_h", 0.2, 0.0, "1/h", CHOICE, "how long charging takes in a schedule"
)
CHARGE_TAPER: Final = _taken(
    "charge_taper", 1.15, 0.0, "1", CHOICE, "what the tapering end of a charge adds"
)

# Riding.
RUN_TO_RUN: Final = _taken(
    "run_to_run", 1.0, 0.08, "1", HANDBOOK, "the next ride, after a single one"
)
RUN_CARRIED: Final = _taken(
    "run_carried", 1.0, 0.025, "1", CHOICE,
    "two rides that are compared: how they vary once load, speed and weather are adjusted for",
)  # fmt: skip
PRICE: Final = _taken(
    "price_per_kwh", 0.30, 0.0, "1/kWh", CHOICE,
    "what a distance costs, in your own money: put your price here",
)  # fmt: skip
CHARGER: Final = _taken(
    "charger_efficiency", 0.88, 0.023, "1", HANDBOOK,
    "what a ride gets of the energy at the socket: the energy by a meter at the wall, and what a distance costs",
)  # fmt: skip
PER_KM: Final = _taken(
    "per_km", 1.0, 0.15, "1", CHOICE, "one kilometre against the next on a road and day"
)
USUAL_CLIMB_M_PER_KM: Final = _taken(
    "usual_climb", 8.0, 5.0, "m/km", CHOICE, "a route whose hills are unknown"
)
HIDDEN_STANDING: Final = _taken(
    "hidden_standing", 1.10, 0.08, "1", CHOICE,
    "the speed ridden over the average between entries: stops that were not noted"
)  # fmt: skip
UNSTATED_SPEED: Final = _taken(
    "unstated_speed", 1.0, 0.12, "1", CHOICE, "the speed, when none was given"
)
STOP_WAIT_S: Final = _taken("stop_wait_s", 15.0, 0.0, "s", CHOICE, "time at a stop")

#: What a bare number in a trip file may be off, relative to it [-]: it was measured or read once,
#: with care (assumption).
TYPED_STD: Final[dict[str, float]] = {
    "vehicle_mass_kg": 0.02,
    "rider_mass_kg": 0.02,
    "gear_kg": 0.10,
    "cda_m2": 0.05,
    "crr": 0.08,
    "drivetrain_efficiency": 0.03,
    "aux_w": 0.15,
    "max_power_w": 0.05,
    "resistance_ohm": 0.20,
    "known_consumption_wh_per_km": 0.05,
}

#: Plausible consumption by kind of vehicle [Wh/mi] (common practice, no source), and how far
#: outside it anybody is asked: the spans are rough.
PLAUSIBLE_WH_PER_MI: Final[dict[str, Spread]] = {
    "skateboard": (12, 25),
    "self_balancing": (12, 25),
    "kick_scooter": (15, 35),
    "bicycle": (15, 35),
    "fast_bicycle": (25, 60),
    "trike": (15, 35),
    "moped": (35, 65),
    "light_motorcycle": (40, 110),
    "motorcycle": (60, 160),
    "conversion": (150, 300),
}
PLAUSIBLE_SLACK: Final = 1.5


def load_kg(rider_mass_kg: float | None, gear_kg: float | None) -> Spread:
    """Rider and gear together, as noted or as assumed: value and u of what was assumed [kg].

    Parameters
    ----------
    rider_mass_kg, gear_kg : as noted [kg]; None where nobody did
    """
    rider = RIDER_KG.spread if rider_mass_kg is None else (rider_mass_kg, 0.0)
    gear = GEAR_KG.spread if gear_kg is None else (gear_kg, 0.0)
    return rider[0] + gear[0], hypot(rider[1], gear[1])


#: Of what a year's runs differ by so much is left on days alike, whose weather is reckoned apart [-] (handbook
#: section 12: 4.6% of 8% by simulations; a little more, for what those leave out).
LIKE_DAYS: Final = 0.69


def like_days_std() -> float:
    """How far one run differs from the next on a day like it, relative [-]."""
    return LIKE_DAYS * RUN_TO_RUN.std


def retained_after(cycles: float | None) -> Spread:
    """What is left of a pack that nobody measured, after so many equivalent full cycles [-]."""
    if cycles is None:
        return RETAINED.spread
    left = max(1 - LOST_PER_CYCLE.value * cycles, 0.3)
    return left, 0.02 + 0.5 * (1 - left)


def worn_resistance(retained_fraction: float) -> float:
    """Resistance of a worn pack over a fresh one's, by what is left of its capacity [-]."""
    return 1 + WORN_RESISTANCE.value * max(1 - retained_fraction, 0.0)


def is_plausible(kind: str, wh_per_mi: float) -> bool:
    """Whether a consumption is near what a kind of vehicle uses; unknown kinds always are.

    Parameters
    ----------
    kind : of vehicle
    wh_per_mi : at the pack's terminals
    """
    span = PLAUSIBLE_WH_PER_MI.get(kind)
    if span is None:
        return True
    return span[0] / PLAUSIBLE_SLACK <= wh_per_mi <= span[1] * PLAUSIBLE_SLACK


def plausible_span(kind: str, wh_per_mi: float) -> dict[str, float]:
    """A consumption and the span that is plausible for a kind, as a notice holds them [Wh/km].

    Parameters
    ----------
    kind : of vehicle that has a span
    wh_per_mi : the consumption to check
    """
    low, high = PLAUSIBLE_WH_PER_MI[kind]
    names = ("wh_per_km", "low_wh_per_km", "high_wh_per_km")
    per_km = METRES_PER_KM / METRES_PER_MILE
    return {name: value * per_km for name, value in zip(names, (wh_per_mi, low, high), strict=True)}
