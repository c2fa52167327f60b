"""The one list of what samples and entries hold: name, words, kind, bounds.

Files, forms, the API's schemas and the database's rows read their fields and bounds here.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from limpet.bounds import MOST_NOTE, MOST_PACKS, MOST_WORDS, Span
from limpet.fields import FormField
from limpet.units import Kind


@dataclass(frozen=True, slots=True, kw_only=True)
class Column:
    """A column of numbers, from `low` to `high` in the unit that its name ends in, or of words.

    `hint` ends a refusal: what would be right. Words with `choices` are one of those. `kind` is None for a bare number such as laps.
    `label` is what forms and sentences call it, `asks` what a form says below it, `decimals` how
    many it shows.
    """

    name: str
    words: str
    kind: Kind | None = None
    low: float = 0.0
    high: float = 0.0
    hint: str = ""
    longest: int = 0
    choices: tuple[str, ...] = ()
    label: str = ""
    asks: str = ""
    decimals: int = 0

    @property
    def is_text(self) -> bool:
        """Whether it holds words."""
        return self.longest > 0

    @property
    def span(self) -> Span:
        """Its bounds."""
        return Span(kind=self.kind or "share", low=self.low, high=self.high)

    @property
    def field(self) -> FormField:
        """The column as a field of a form."""
        return FormField(
            name=self.name,
            label=self.label or self.name,
            span=self.span,
            shown="bare" if self.kind is None else "unit",
            asks=self.asks,
        )


def _number(
    name: str,
    words: str,
    kind: Kind | None,
    low: float,
    high: float,
    hint: str = "",
    *,
    form: tuple[str, str, int] = ("", "", 0),
) -> Column:
    label, asks, decimals = form
    return Column(
        name=name,
        words=words,
        kind=kind,
        low=low,
        high=high,
        hint=hint or f"{low:g} to {high:g}",
        label=label,
        asks=asks,
        decimals=decimals,
    )


def _words(name: str, words: str, longest: int, choices: tuple[str, ...] = ()) -> Column:
    return Column(name=name, words=words, longest=longest, choices=choices)


#: No cell of any chemistry shows this [V]; a pack above S times it was logged in millivolts.
ABSURD_CELL_V: Final = 20.0
#: The longest test [s], 400 days: a clock's seconds or milliseconds are no time since the start.
LONGEST_TEST_S: Final = 400 * 86_400.0
#: Farther than any odometer of such a vehicle [m].
_FAR_M = 2e9
_METER_AH, _METER_WH = 1e6, 1e8

#: What an event was.
EVENTS: Final = (
    "walked", "mode", "pedalled", "wind", "rain", "warning", "power_cut", "tilt_back", "overheated", "beeping", "speed_step",
    "puncture", "tracker_off", "charged", "overnight", "fall", "other",
)  # fmt: skip
_COLUMNS: Final = {
    item.name: item
    for item in (
        _number("time_s", "Seconds since started_at", "time", -86_400, LONGEST_TEST_S,
                "seconds since the start, not a clock's"),
        _number("voltage_v", "Pack voltage [V]", "voltage", 0, 2000, "zero or more"),
        _number("current_a", "Pack current, positive when discharging [A]", "current", -5000, 5000,
                "amperes, not milliamperes",
                form=("Amps", "Read with the loaded volts", 1)),
        _number("charge_ah", "The meter's own running charge counter [Ah]", "charge",
                -_METER_AH, _METER_AH, "amp-hours, not milliamp-hours",
                form=("Amp-hours", "The meter’s counter", 2)),
        _number("energy_wh", "The meter's own running energy counter [Wh]", "energy",
                -_METER_WH, _METER_WH, "watt-hours, not joules",
                form=("Watt-hours", "The meter’s counter", 1)),
        _number("distance_m", "Running distance [m]", "distance", -_FAR_M, _FAR_M, "metres"),
        _number("latitude_deg", "Latitude, WGS 84 [deg]", "angle", -90, 90,
                "degrees north, negative for south"),
        _number("longitude_deg", "Longitude, WGS 84 [deg]", "angle", -180, 360,
                "degrees east, negative for west"),
        _number("altitude_m", "Height [m]", "length", -500, 9000, "metres"),
        _number("battery_temp_c", "Pack temperature [degC]", "temperature", -60, 200,
                "degrees Celsius",
                form=("Pack temperature", "Stop above {60}", 0)),
        _number("motor_temp_c", "Motor temperature [degC]", "temperature", -60, 400,
                "degrees Celsius",
                form=("Motor temperature", "Where a sensor shows it", 0)),
        _number("controller_temp_c", "Controller temperature [degC]", "temperature", -60, 400,
                "degrees Celsius"),
        _number("cell_min_v", "Voltage of the lowest cell [V]", "voltage", 0, ABSURD_CELL_V,
                "volts of one cell, not millivolts",
                form=("Lowest cell", "As the BMS shows it", 2)),
        _number("gauge", "What the vehicle's own gauge shows, in its own steps", None,
                -10_000, 10_000,
                form=("Gauge", "Bars, dots or percent it shows", 0)),
        _number("trip_m", "Trip meter [m]", "distance", 0, _FAR_M, "metres, zero or more",
                form=("Trip meter", "Since the start", 2)),
        _number("gps_m", "Distance shown by a GPS track [m]", "distance", 0, _FAR_M,
                "metres, zero or more",
                form=("Track", "What the tracker shows", 2)),
        _number("odometer_m", "Odometer [m]", "distance", 0, _FAR_M, "metres, zero or more",
                form=("Odometer", "The whole figure", 2)),
        _number("laps", "Completed laps, a decimal for a part lap", None, 0, 100_000,
                "zero or more",
                form=("Laps", "Completed; 2.5 is two and a half", 1)),
        _number("voltage_rest_v", "Resting pack voltage: standing still, throttle closed [V]", "voltage",
                0, 2000, "zero or more",
                form=("Resting volts", "Standing, throttle closed", 1)),
        _number("voltage_load_v", "Pack voltage under load [V]", "voltage", 0, 2000,
                "zero or more",
                form=("Volts under load", "As read on the move", 1)),
        _words("kind", "start, checkpoint, lap, stop, resume, turn, swap, event, settle or end", 12),
        _words("what", "What an event was: " + ", ".join(EVENTS), 12, EVENTS),
        _words("place", "Name of a checkpoint; the same name is the same place", MOST_WORDS),
        _number("pack", "Which of several packs a reading or a swap is of, from 1", None,
                1, MOST_PACKS, "1, 2, …"),
        _number("shown_range_m", "Range shown on the display [m]", "distance", 0, _FAR_M,
                "metres, zero or more",
                form=("Shown range", "What the display shows", 1)),
        _number("speedometer_mps", "What the speedometer shows while speed_mps is held [m/s]", "speed",
                0, 120, "metres a second, not km/h times ten"),
        _number("walked_m", "Pushed or carried since the entry before [m]", "distance", 0, _FAR_M,
                "metres, zero or more",
                form=("Walked", "Pushed since the entry before", 2)),
        _number("untracked_m", "Missed by the tracker since the entry before [m]", "distance",
                0, _FAR_M, "metres, zero or more",
                form=("Untracked", "Missed by the track since then", 2)),
        _number("ascent_m", "Climb counted since the start [m]", "length", 0, 100_000,
                "metres, zero or more",
                form=("Ascent", "Counted since the start", 0)),
        _number("descent_m", "Descent counted since the start [m]", "length", 0, 100_000,
                "metres, zero or more",
                form=("Descent", "Counted since the start", 0)),
        _number("air_temp_c", "Air temperature [degC]", "temperature", -60, 60, "degrees Celsius",
                form=("Air", "In the shade", 0)),
        _number("wind_mps", "Wind [m/s]", "speed", 0, 60, "metres a second"),
        _number("wind_from_deg", "Where the wind comes from [deg]", "angle", 0, 360,
                "degrees, 0 to 360, from north by east"),
        _number("charged_wh", "Charged on the way since the entry before [Wh]", "energy",
                0, 1_000_000, "watt-hours, zero or more"),
        _number("charged_s", "How long that took [s]", "time", 0, 30 * 86_400.0, "seconds"),
        _number("wall_wh", "At the socket, for the charge after the ride [Wh]", "energy", 0, 1_000_000,
                "watt-hours, zero or more",
                form=("Charged at the wall", "By a plug-in meter, until full", 0)),
        _words("confirmed", "yes: what looks odd in it was checked and is right", 3, ("yes",)),
        _words("photo", "Picture of the display, a file of the bundle", MOST_WORDS),
        _words("mode", "Riding mode", MOST_WORDS),
        _words("note", "Anything else", MOST_NOTE),
    )
}  # fmt: skip
#: Over ground in a log, which may run backwards; held, in an entry.
_LOGGED_SPEED = _number(
    "speed_mps", "Speed over ground [m/s]", "speed", -60, 120, "metres a second, not km/h times ten"
)
_SPEED_HELD = _number(
    "speed_mps", "Speed held [m/s]", "speed", 0, 120, "metres a second, not km/h times ten",
    form=("Speed held", "On the flat", 1),
)  # fmt: skip


def _table(*names: str, speed: Column) -> dict[str, Column]:
    return {name: speed if name == "speed_mps" else _COLUMNS[name] for name in names}


#: samples.csv, in order. All are numbers; time is strictly increasing.
SAMPLE_COLUMNS: Final = _table(
    "time_s", "voltage_v", "current_a", "charge_ah", "energy_wh", "speed_mps", "distance_m",
    "latitude_deg", "longitude_deg", "altitude_m", "battery_temp_c", "motor_temp_c",
    "controller_temp_c", "cell_min_v", "gauge",
    speed=_LOGGED_SPEED,
)  # fmt: skip

#: entries.csv, in order.
ENTRY_COLUMNS: Final = _table(
    "time_s", "kind", "trip_m", "gps_m", "odometer_m", "laps", "voltage_rest_v",
    "voltage_load_v", "current_a", "charge_ah", "energy_wh", "gauge", "speed_mps",
    "battery_temp_c", "motor_temp_c", "cell_min_v", "mode", "what", "place", "pack", "shown_range_m",
    "speedometer_mps", "walked_m", "untracked_m", "ascent_m", "descent_m", "air_temp_c", "wind_mps",
    "wind_from_deg", "charged_wh", "charged_s", "wall_wh", "confirmed", "photo", "note",
    speed=_SPEED_HELD,
)  # fmt: skip
ENTRY_TEXT: Final = frozenset(name for name, item in ENTRY_COLUMNS.items() if item.is_text)


#: What a form calls the readings of an entry.
ENTRY_LABELS: Final = {name: item.label for name, item in ENTRY_COLUMNS.items() if item.label}


def label_of(name: str) -> str:
    """What a sentence calls a reading, such as "trip meter"; its own name where it has no label."""
    column = ENTRY_COLUMNS.get(name) or SAMPLE_COLUMNS.get(name)
    return name if column is None or not column.label else column.label.lower()


def pack_voltage_limit(name: str, series: int) -> float | None:
    """What a pack's voltage of so many cells cannot pass [V]; None for other columns."""
    if name not in ("voltage_v", "voltage_rest_v", "voltage_load_v"):
        return None
    return min(ABSURD_CELL_V * series, _COLUMNS[name].high)
