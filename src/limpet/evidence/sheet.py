"""The one list of what a test's sheet holds: its parts, their fields, and where each stands in test.json.

Forms, the API's schemas and refusals read it; every leaf of `TestSheet` is named here.
"""

from __future__ import annotations

from collections.abc import Mapping
from copy import deepcopy
from dataclasses import dataclass, is_dataclass
from typing import Any, Final, Literal, get_args, get_origin, get_type_hints

from limpet import bounds
from limpet.bounds import MOST_NOTE, MOST_TAG, MOST_TAGS, MOST_TITLE, Span
from limpet.evidence.model import TestSheet
from limpet.fields import FormField, Shown
from limpet.pack.labelled import as_given

ItemKind = Literal["number", "whole", "choice", "text", "lines", "flag", "moment", "steps", "tags"]
#: A whole number or nothing, text, a truth, rows: what a field of a part may hold.
Values = Mapping[str, Any]


@dataclass(frozen=True, slots=True, kw_only=True)
class SheetItem:
    """A field of a part: its name there, its path in test.json, what it is called and holds."""

    name: str
    path: tuple[str, ...]
    kind: ItemKind
    label: str
    asks: str = ""
    #: Of numbers.
    field: FormField | None = None
    #: The list of `limpet.words.CHOICES`.
    choices: str = ""
    longest: int = 0
    needed: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class SheetPart:
    """Fields that are changed together."""

    name: str
    label: str
    items: tuple[SheetItem, ...]

    def item(self, name: str) -> SheetItem:
        """A field of a name; KeyError when there is none."""
        for item in self.items:
            if item.name == name:
                return item
        raise KeyError(name)


def _number(
    path: str,
    label: str,
    span: Span,
    asks: str = "",
    *,
    shown: Shown = "unit",
    unit: str = "",
    whole: bool = False,
) -> SheetItem:
    name = _name(path)
    field = FormField(
        name=name,
        label=label,
        span=span,
        shown="bare" if whole else shown,
        asks=asks,
        unit=unit,
    )
    return SheetItem(
        name=name,
        path=tuple(path.split(".")),
        kind="whole" if whole else "number",
        label=label,
        asks=asks,
        field=field,
    )


def _other(
    path: str,
    label: str,
    kind: ItemKind,
    asks: str = "",
    *,
    choices: str = "",
    longest: int = 0,
    needed: bool = False,
) -> SheetItem:
    return SheetItem(
        name=_name(path),
        path=tuple(path.split(".")),
        kind=kind,
        label=label,
        asks=asks,
        choices=choices,
        longest=longest,
        needed=needed,
    )


def _choice(path: str, label: str, choices: str, asks: str = "", needed: bool = False) -> SheetItem:
    return _other(path, label, "choice", asks, choices=choices, needed=needed)


def _text(path: str, label: str, asks: str = "") -> SheetItem:
    return _other(path, label, "text", asks, longest=MOST_TITLE)


def _name(path: str) -> str:
    """A field's name in its part: its path without the part, the steps joined."""
    steps = path.split(".")
    return "_".join(steps[1:] if len(steps) > 1 else steps)


def _accuracy(instrument: str, label: str) -> tuple[SheetItem, SheetItem]:
    """What an instrument is called, and how good it is."""
    base = f"instruments.{instrument}"
    return (
        _text(f"{base}.name", f"{label}: name", "The same name is the same instrument"),
        _number(f"{base}.accuracy_pct", f"{label}: good to ±", bounds.PERCENT, "Percent of the reading",
                shown="bare"),
    )  # fmt: skip


SHEET_PARTS: Final[dict[str, SheetPart]] = {
    part.name: part
    for part in (
        SheetPart(
            name="test",
            label="The test",
            items=(
                _other("title", "Title", "text", longest=MOST_TITLE, needed=True),
                _choice("purpose", "What it was to answer", "purpose"),
                _other("started_at", "Started", "moment"),
                _other("tags", "Tags", "tags", f"At most {MOST_TAGS}", longest=MOST_TAG),
            ),
        ),
        SheetPart(
            name="vehicle",
            label="Vehicle",
            items=(
                _choice("vehicle.kind", "Kind", "vehicle_kind", needed=True),
                _text("vehicle.name", "Name"),
                _number(
                    "vehicle.mass_kg", "Mass", bounds.SHEET_MASS, "Without rider, with its pack"
                ),
                _number(
                    "vehicle.regeneration",
                    "Regeneration",
                    bounds.REGENERATION,
                    "Share of braking, 0 to 1",
                    shown="bare",
                ),
                _number("vehicle.max_speed_mps", "Top speed", bounds.SPEED),
                _other("vehicle.step_down", "When low", "steps"),
            ),
        ),
        SheetPart(
            name="pack",
            label="Pack",
            items=(
                _text("pack.name", "Name"),
                _choice("pack.chemistry", "Chemistry", "chemistry"),
                _number(
                    "pack.series",
                    "Cells in series",
                    bounds.CELLS_IN_SERIES,
                    "The S of 13s4p",
                    whole=True,
                ),
                _number(
                    "pack.parallel",
                    "Cells in parallel",
                    bounds.CELLS_IN_PARALLEL,
                    "The P of 13s4p",
                    whole=True,
                ),
                _number("pack.rated_ah", "Rated charge", bounds.PACK_CHARGE),
                _number("pack.rated_wh", "Rated energy", bounds.PACK_ENERGY),
                _number("pack.nominal_v", "Volts on the label", bounds.PACK_VOLTAGE),
                _number("pack.full_v", "Full", bounds.PACK_VOLTAGE, "Settled after a full charge"),
                _number(
                    "pack.cutoff_v",
                    "Cut-off",
                    bounds.PACK_VOLTAGE,
                    "Where the drive stops, under load",
                ),
                _number(
                    "pack.equivalent_full_cycles",
                    "Cycles so far",
                    bounds.CYCLES,
                    "Charge put through ÷ rated charge",
                    shown="bare",
                ),
            ),
        ),
        SheetPart(
            name="packs",
            label="Packs used",
            items=(
                _number(
                    "packs_used",
                    "How many",
                    Span(kind="share", low=1, high=bounds.MOST_PACKS),
                    whole=True,
                ),
                _choice("packs_use", "How", "packs_use"),
            ),
        ),
        SheetPart(
            name="start",
            label="Charge at the start",
            items=(
                _other("start.full", "Full, as the charger or the display said", "flag"),
                _other("start.just_charged", "Came off its charger within the hour", "flag"),
                _number(
                    "start.energy_fraction", "Or charged to", bounds.START_SHARE, shown="percent"
                ),
            ),
        ),
        SheetPart(
            name="rider",
            label="Rider",
            items=(
                _text("rider.name", "Name"),
                _number("rider.mass_kg", "Mass", bounds.SHEET_MASS),
                _number("rider.gear_kg", "Gear", bounds.LOAD, "Clothes, bag, locks, load"),
                _number(
                    "rider.pedal_power_w",
                    "Pedalled with",
                    bounds.PEDALLING,
                    "About 50 to 150 W, if you pedalled",
                ),
            ),
        ),
        SheetPart(
            name="conditions",
            label="Conditions",
            items=(
                _number("conditions.temp_start_c", "Air at the start", bounds.SHEET_TEMPERATURE),
                _number("conditions.temp_end_c", "Air at the end", bounds.SHEET_TEMPERATURE),
                _number("conditions.wind_mps", "Wind", bounds.SHEET_WIND),
                _number(
                    "conditions.wind_from_deg",
                    "Wind from",
                    bounds.BEARING,
                    "Degrees; 0 is north, 90 east",
                    shown="bare",
                ),
                _number("conditions.pressure_hpa", "Air pressure", bounds.AIR_PRESSURE),
                _number("conditions.humidity_pct", "Humidity", bounds.PERCENT, shown="bare"),
                _choice("conditions.surface", "Surface", "surface"),
            ),
        ),
        SheetPart(
            name="tyres",
            label="Tyres",
            items=(_number("tyres.pressure_kpa", "Pressure", bounds.TYRE_PRESSURE),),
        ),
        SheetPart(
            name="protocol",
            label="Rules of the ride",
            items=(
                _choice("protocol.speed_policy", "Speed", "speed_policy"),
                _number("protocol.target_speed_mps", "Speed to hold", bounds.SPEED),
                _choice("protocol.propulsion", "Driven by", "propulsion"),
                _choice("protocol.end_rule", "To end", "end_rule"),
                _number("protocol.reserve", "Keep back", bounds.KEPT_BACK, shown="percent"),
            ),
        ),
        SheetPart(
            name="gauge",
            label="Gauge",
            items=(
                _text("instruments.gauge.name", "Name"),
                _choice("instruments.gauge.kind", "It shows", "gauge_kind"),
                _number(
                    "instruments.gauge.steps",
                    "Steps when full",
                    bounds.GAUGE_STEPS,
                    "5 of five bars; 100 of percent",
                    whole=True,
                ),
            ),
        ),
        SheetPart(
            name="instruments",
            label="Instruments",
            items=(
                *_accuracy("trip", "Trip meter"),
                *_accuracy("gps", "Track"),
                *_accuracy("odometer", "Odometer"),
                _text("instruments.lap.name", "Lap: name", "The same name is the same lap"),
                _number("instruments.lap.length_m", "Lap: length", bounds.LAP, unit="m"),
                _number(
                    "instruments.lap.accuracy_pct",
                    "Lap: good to ±",
                    bounds.PERCENT,
                    "Percent of the length",
                    shown="bare",
                ),
                *_accuracy("voltage", "Volts"),
                *_accuracy("current", "Amps"),
                *_accuracy("charge", "Amp-hours"),
                *_accuracy("energy", "Watt-hours"),
                *_accuracy("wall", "Meter at the wall"),
                _number(
                    "instruments.wall.efficiency",
                    "Charger: passes on",
                    bounds.CHARGER_SHARE,
                    "What a ride gets of the energy at the socket",
                    shown="percent",
                ),
                _text("instruments.samples.name", "The log: name", "What logged the samples"),
                _choice(
                    "instruments.samples.distance", "The log’s distance is from", "distance_source"
                ),
            ),
        ),
        SheetPart(
            name="claim",
            label="The maker’s figure",
            items=(
                _number("claim.distance_m", "Distance claimed", bounds.LENGTH),
                _number("claim.speed_mps", "At a speed of", bounds.SPEED),
                _number("claim.load_kg", "With a load of", bounds.LOAD),
            ),
        ),
        SheetPart(
            name="ending",
            label="Ending",
            items=(
                _choice("ending.reason", "It ended", "end_reason"),
                _other("ending.note", "In words", "lines", longest=MOST_NOTE),
            ),
        ),
    )
}


def values_of(document: Mapping[str, Any], part: SheetPart) -> dict[str, Any]:
    """What a part holds, by its fields' names; None where nothing is said.

    Parameters
    ----------
    document : test.json as stored; what is taken of a pack that nobody described is left out
    """
    given = dict(document)
    if isinstance(given.get("pack"), dict):
        given["pack"] = as_given(given["pack"])
    return {item.name: _at(given, item.path) for item in part.items}


def with_values(document: Mapping[str, Any], part: SheetPart, values: Values) -> dict[str, Any]:
    """test.json with a part's fields set, everything else as it was; what is None is not said.

    Parameters
    ----------
    values : by the fields' names; fields that are not named keep what they hold
    """
    found = deepcopy(dict(document))
    if isinstance(found.get("pack"), dict):
        found["pack"] = as_given(found["pack"])
    for item in part.items:
        if item.name in values:
            _set(found, item.path, values[item.name])
    return found


def item_at(path: tuple[str, ...]) -> tuple[SheetPart, SheetItem] | None:
    """The part and field at a path of test.json; None when it is nobody's."""
    for part in SHEET_PARTS.values():
        for item in part.items:
            if item.path == path[: len(item.path)]:
                return part, item
    return None


def _at(document: Mapping[str, Any], path: tuple[str, ...]) -> Any:
    found: Any = document
    for step in path:
        if not isinstance(found, Mapping):
            return None
        found = found.get(step)
    return found


def _set(document: dict[str, Any], path: tuple[str, ...], value: Any) -> None:
    *above, last = path
    holder = document
    trail = []
    for step in above:
        inner = holder.get(step)
        if not isinstance(inner, dict):
            inner = {}
            holder[step] = inner
        trail.append((holder, step))
        holder = inner
    empty = value is None or value == "" or value == []
    if empty:
        holder.pop(last, None)
    else:
        holder[last] = value
    # An object of nothing is not said either; a vehicle stands, whatever it holds.
    for above_holder, step in reversed(trail):
        if not above_holder[step]:
            del above_holder[step]


def choices_of(item: SheetItem) -> tuple[str, ...]:
    """What a choice may be, in the model's own order.

    Notes
    -----
    Not in the order of a form: to Python two literals of the same words are one type, and whichever was
    made first would lend its order to the other's schema.
    """
    if not item.choices:
        return ()
    hint: Any = TestSheet
    for step in item.path:
        hint = get_type_hints(_dataclass_of(hint))[step]
    literal = next(part for part in (hint, *get_args(hint)) if get_origin(part) is Literal)
    found: tuple[str, ...] = get_args(literal)
    return found


def _dataclass_of(hint: Any) -> Any:
    return next(part for part in (hint, *get_args(hint)) if is_dataclass(part))
