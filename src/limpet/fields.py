"""Every field of every form: what it is called, its kind and bounds, what is said below it.

The server's schemas take their types from here, refusals their names and units, the page its
labels, units and hints (through `web/src/api/core.json`, which `./limpet types` writes).
"""

from __future__ import annotations

from dataclasses import dataclass
from math import log10
from typing import Final, Literal

from limpet import bounds
from limpet.bounds import Span
from limpet.readers import ReaderUnits, in_unit, shown_in

#: What is shown of a bound in a unit that is large for it.
LEAST_SHOWN: Final = 0.001

#: How a form shows a number: in the reader's unit of its kind, as it is, or a share in percent.
Shown = Literal["unit", "bare", "percent"]


@dataclass(frozen=True, slots=True, kw_only=True)
class FormField:
    """A field that holds a number.

    `asks` is said below it, a number in braces being one of its own in the core's unit; `example` is
    a value in the core's unit, for a hint of how to write it; `unit` a unit of its
    kind that forms show instead of the reader's usual one.
    """

    name: str
    label: str
    span: Span
    shown: Shown = "unit"
    asks: str = ""
    unit: str = ""
    example: float | None = None
    needed: bool = False


def _field(
    name: str,
    label: str,
    span: Span,
    asks: str = "",
    *,
    shown: Shown = "unit",
    unit: str = "",
    example: float | None = None,
    needed: bool = False,
) -> FormField:
    return FormField(
        name=name,
        label=label,
        span=span,
        shown=shown,
        asks=asks,
        unit=unit,
        example=example,
        needed=needed,
    )


def _form(*fields: FormField) -> dict[str, FormField]:
    return {field.name: field for field in fields}


VEHICLE: Final = _form(
    _field("mass_kg", "Mass", bounds.VEHICLE_MASS, "Without rider, with its pack"),
    _field("max_power_w", "Motor power", bounds.MOTOR_POWER, "The most it can draw"),
    _field(
        "controller_current_limit_a", "Controller limit", bounds.CURRENT_LIMIT, "Amps from the pack"
    ),
    _field("max_speed_mps", "Top speed", bounds.TARGET_SPEED),
    _field(
        "regeneration",
        "Regeneration",
        bounds.REGENERATION,
        "Share of braking, 0 to 1",
        shown="bare",
    ),
    _field("cda_m2", "Air drag CdA", bounds.DRAG_AREA, "m², if you know it", shown="bare"),
    _field("crr", "Rolling resistance", bounds.ROLLING, "If you know it, like 0.010", shown="bare"),
    _field("drivetrain_efficiency", "Drive efficiency", bounds.EFFICIENCY, "0 to 1", shown="bare"),
    _field("aux_w", "Lights and controller", bounds.AUXILIARY),
)
STEP_DOWN: Final = _form(
    _field("below_v", "Below this voltage", bounds.PACK_VOLTAGE, example=44.0),
    _field(
        "gauge", "Where the gauge shows", bounds.GAUGE_SHARE, "Of the full pack", shown="percent"
    ),
    _field("max_speed_mps", "So fast", bounds.TARGET_SPEED, example=20 / 3.6, needed=True),
)
PACK: Final = _form(
    _field("nominal_v", "Volts on the label", bounds.PACK_VOLTAGE, "If the cells are not known"),
    _field("rated_ah", "Rated charge", bounds.PACK_CHARGE),
    _field("rated_wh", "Rated energy", bounds.PACK_ENERGY, "If the label says it"),
    _field("full_v", "Full", bounds.PACK_VOLTAGE, "Settled after a full charge"),
    _field("cutoff_v", "Cut-off", bounds.PACK_VOLTAGE, "Where the drive stops, under load"),
    _field(
        "equivalent_full_cycles",
        "Cycles so far",
        bounds.CYCLES,
        "Charge put through ÷ rated charge",
        shown="bare",
    ),
    _field(
        "retained_fraction",
        "Capacity left",
        bounds.RETAINED,
        "Share of fresh, like 0.85, if measured",
        shown="bare",
    ),
    _field("resistance_ohm", "Resistance", bounds.PACK_RESISTANCE, "Of the pack", unit="mΩ"),
)
RIDER: Final = _form(
    _field("mass_kg", "Mass", bounds.RIDER_MASS),
    _field("gear_kg", "Gear", bounds.LOAD, "Clothes, bag, locks, load"),
)
LEG: Final = _form(
    _field("length_m", "Length", bounds.LENGTH, example=12_000.0, needed=True),
    _field("climb_m", "Climb", bounds.CLIMB, example=40.0),
    _field("descent_m", "Descent", bounds.CLIMB, example=40.0),
    _field("bearing_deg", "Towards", bounds.BEARING, shown="bare"),
    _field("stops", "Stops", bounds.STOPS, shown="bare", example=4.0),
    _field("speed_mps", "Speed", bounds.SPEED),
)
ROUTE: Final = _form(
    _field(
        "readings_m",
        "Readings of one lap",
        bounds.LAP,
        "A wheel, a car, a track, a map: more readings give a better length",
        unit="m",
        example=1720.0,
    ),
)
TRIP: Final = _form(
    _field("target_mps", "Speed", bounds.TARGET_SPEED),
    _field("temp_c", "Temperature", bounds.AIR_TEMPERATURE),
    _field("wind_mps", "Wind", bounds.WIND),
    _field("wind_from_deg", "Wind from", bounds.BEARING, shown="bare"),
    _field("pressure_hpa", "Air pressure", bounds.AIR_PRESSURE),
    _field("humidity_pct", "Humidity", bounds.PERCENT, shown="bare"),
    _field("tyre_kpa", "Tyre pressure", bounds.TYRE_PRESSURE),
    _field("extra_load_kg", "Extra load", Span(kind="mass", low=-100, high=500)),
    _field(
        "known_consumption_wh_per_km",
        "Known consumption",
        bounds.CONSUMPTION,
        "Leave empty to use this vehicle’s tests",
    ),
    _field("reserve", "Keep back", Span(kind="share", low=0, high=0.99), shown="percent"),
    _field("probability", "How sure", bounds.PROBABILITY, shown="percent"),
    _field("start_energy_fraction", "Charged", bounds.START_SHARE, shown="percent"),
)
GUESS: Final = _form(
    _field("distance_m", "How far", Span(kind="distance", low=1, high=10_000_000), needed=True),
)
CLAIM: Final = _form(
    _field("rated_wh", "Energy on the label", bounds.PACK_ENERGY, example=480.0, needed=True),
    _field("distance_m", "Distance claimed", bounds.LENGTH, example=120_000.0, needed=True),
    _field("speed_mps", "At a speed of", bounds.CLAIMED_SPEED, example=25 / 3.6, needed=True),
    _field("load_kg", "Load", bounds.LOAD),
    _field("vehicle_mass_kg", "Vehicle", bounds.VEHICLE_MASS),
)
CELL: Final = _form(
    _field("capacity_ah", "Capacity", bounds.CELL_CHARGE, needed=True),
    _field("nominal_v", "Voltage", bounds.CELL_VOLTAGE, needed=True),
    _field("max_current_a", "Most current", bounds.CELL_CURRENT, needed=True),
    _field("resistance_ohm", "Resistance", bounds.CELL_RESISTANCE, unit="mΩ", needed=True),
    _field("mass_kg", "Mass", bounds.CELL_MASS, unit="g", needed=True),
)
RIDE: Final = _form(
    _field(
        "lap_length_m",
        "Length of the lap, if it is a measured loop",
        bounds.LAP,
        unit="m",
        example=1720.0,
    ),
    _field("reserve", "Reserve to keep", Span(kind="share", low=0, high=0.99), shown="percent"),
    _field("target_speed_mps", "Usual speed", bounds.SPEED, "On the flat"),
    _field("gear_kg", "Load with the rider", bounds.LOAD, "Clothes, bag, locks, parcels"),
)

PLAN: Final = _form(
    _field("wanted", "Precise to ±", Span(kind="share", low=0.005, high=0.5), shown="percent"),
    _field("charger_w", "Charger", Span(kind="power", low=1, high=100_000)),
)
SIZE: Final = _form(
    _field(
        "retired_at",
        "Still makes it at",
        Span(kind="share", low=0.3, high=1),
        "Share of its capacity left",
        shown="percent",
    ),
)

#: By the name that the page knows them by.
FORMS: Final = {
    "vehicle": VEHICLE,
    "step_down": STEP_DOWN,
    "pack": PACK,
    "rider": RIDER,
    "leg": LEG,
    "route": ROUTE,
    "trip": TRIP,
    "guess": GUESS,
    "claim": CLAIM,
    "cell": CELL,
    "ride": RIDE,
    "plan": PLAN,
    "size": SIZE,
}


def bounds_in(field: FormField, units: ReaderUnits) -> str:
    """The bounds of a field as its form shows them, such as "2 to 4,409 lb".

    Parameters
    ----------
    field : of the one list of fields
    units : the reader's
    """
    span = field.span
    if field.shown == "percent":
        return f"{100 * span.low:g} to {100 * span.high:g}%"
    if field.shown == "bare":
        return f"{span.low:g} to {span.high:g}"
    unit = field.unit or shown_in(span.kind, units)[0]
    low, high = in_unit(span.kind, span.low, unit), in_unit(span.kind, span.high, unit)
    # A centimetre in miles is a number that nobody reads.
    begins = "above 0" if 0 < low < LEAST_SHOWN else _plain(low)
    return f"{begins} to {_plain(high)} {unit}".rstrip()


def value_in(field: FormField, value: float, units: ReaderUnits) -> str:
    """A number of a field as its form shows it, such as "200%" for a share of 2.

    Parameters
    ----------
    field : of the one list of fields
    value : in the core's unit
    units : the reader's
    """
    if field.shown == "percent":
        return f"{100 * value:,.6g}%"
    if field.shown == "bare":
        return f"{value:,.6g}"
    unit = field.unit or shown_in(field.span.kind, units)[0]
    return f"{in_unit(field.span.kind, value, unit):,.6g} {unit}".rstrip()


def _plain(value: float) -> str:
    """A bound in at most four digits, without an exponent."""
    digits = max(0, 3 - int(log10(abs(value)))) if abs(value) >= LEAST_SHOWN else 0
    text = f"{value:,.{digits}f}"
    return text.rstrip("0").rstrip(".") if "." in text else text
