"""A range test as recorded: the one value that every source becomes and `analyse` reads."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime
from typing import TYPE_CHECKING, Annotated, Any, Literal, get_args

import numpy as np
from numpy.typing import NDArray
from pydantic import BeforeValidator, Field

from limpet.bounds import (
    CHARGER_SHARE,
    GAUGE_SHARE,
    MOST_PACKS,
    MOST_TAGS,
    PEDALLING,
    REGENERATION,
    START_SHARE,
    Bearing,
    Celsius,
    Hectopascal,
    Kilopascal,
    LapMetres,
    Load,
    Mass,
    Metres,
    Name,
    NoteText,
    Percent,
    Share,
    Speed,
    Tag,
    TargetSpeed,
    Volts,
    WindSpeed,
)
from limpet.evidence.log import Log
from limpet.evidence.streams import MOST_OFFSET_S, Stream
from limpet.notices import Notice
from limpet.pack.labelled import with_what_is_taken
from limpet.pack.spec import PackSpec
from limpet.road.kinds import SpeedPolicy, Surface, VehicleKind

if TYPE_CHECKING:
    import polars as pl

Purpose = Literal[
    "floor", "everyday", "economy", "claim", "compare", "ageing", "temperature", "commute"
]
EndRule = Literal["cutoff", "speed_floor", "gauge_reserve", "voltage_reserve", "route_end"]
Propulsion = Literal["throttle_only", "assist", "mixed"]
EndReason = Literal["cutoff", "protect", "speed_floor", "reserve", "home", "aborted"]
EntryKind = Literal[
    "start", "checkpoint", "lap", "stop", "resume", "turn", "swap", "event", "settle", "end"
]
#: How a trip uses several packs; of those of a test one may also wait in the bag.
TripPackUse = Literal["single", "in_sequence", "in_parallel"]
PackUse = Literal["single", "in_sequence", "in_parallel", "spare"]
DistanceSource = Literal["trip", "gps", "laps"]
ENTRY_KINDS: tuple[EntryKind, ...] = get_args(EntryKind)


#: Rules that a controller may have for a fading pack.
MOST_STEPS_DOWN = 20


@dataclass(frozen=True, slots=True, kw_only=True)
class StepDown:
    """A controller's rule: from here on it holds at most this speed.

    Either under `below_v`, the loaded voltage, or where its own `gauge` shows this share of its full, or less.

    Raises
    ------
    ValueError
        When neither is said, or both are.
    """

    max_speed_mps: TargetSpeed
    below_v: Volts | None = None
    gauge: Annotated[float, GAUGE_SHARE.field()] | None = None

    def __post_init__(self) -> None:
        """One rule has one trigger."""
        if (self.below_v is None) == (self.gauge is None):
            raise ValueError("a step down needs either below_v or gauge")


@dataclass(frozen=True, slots=True, kw_only=True)
class VehicleSpec:
    """The vehicle, as tested."""

    kind: VehicleKind
    name: Name | None = None
    mass_kg: Mass | None = None
    regeneration: Annotated[float, REGENERATION.field()] | None = None
    max_speed_mps: Speed | None = None
    step_down: Annotated[tuple[StepDown, ...], Field(max_length=MOST_STEPS_DOWN)] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class RiderSpec:
    """Who rode, as a load."""

    name: Name | None = None
    mass_kg: Mass | None = None
    gear_kg: Load | None = None
    pedal_power_w: Annotated[float, PEDALLING.field()] | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Conditions:
    """Weather and surface."""

    temp_start_c: Celsius | None = None
    temp_end_c: Celsius | None = None
    wind_mps: WindSpeed | None = None
    wind_from_deg: Bearing | None = None
    pressure_hpa: Hectopascal | None = None
    humidity_pct: Percent | None = None
    surface: Surface | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Tyres:
    """Tyre pressure, gauge [kPa]."""

    pressure_kpa: Kilopascal | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Protocol:
    """The rules that the ride was to follow."""

    end_rule: EndRule | None = None
    reserve: Share | None = None
    speed_policy: SpeedPolicy | None = None
    target_speed_mps: Speed | None = None
    propulsion: Propulsion | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Instrument:
    """A maker's "± x % of the reading"; the same name in two tests is the same instrument."""

    name: Name | None = None
    accuracy_pct: Percent | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class LapInstrument:
    """A measured loop."""

    name: Name | None = None
    length_m: LapMetres | None = None
    accuracy_pct: Percent | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class WallInstrument:
    """The meter at the socket and the charger behind it: `efficiency` is what a ride gets of it [-], good to `accuracy_pct`."""

    name: Name | None = None
    efficiency: Annotated[float, CHARGER_SHARE.field()] | None = None
    accuracy_pct: Percent | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Gauge:
    """The vehicle's own gauge."""

    name: Name | None = None
    kind: Literal["percent", "bars", "dots"] | None = None
    steps: Annotated[int, Field(ge=1, le=1000)] | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class SampleSources:
    """What logged `samples.csv`, and which instrument its distance and speed come from."""

    name: Name | None = None
    distance: DistanceSource | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class StreamPlace:
    """Where a further instrument's file of samples lies: its clock's offset from the test's [s], its pack,
    and what it is called in full."""

    offset_s: Annotated[float, Field(ge=-MOST_OFFSET_S, le=MOST_OFFSET_S)] | None = None
    pack: Annotated[int, Field(ge=1, le=MOST_PACKS)] | None = None
    name: Name | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Instruments:
    """What measured, and how well."""

    voltage: Instrument | None = None
    current: Instrument | None = None
    charge: Instrument | None = None
    energy: Instrument | None = None
    trip: Instrument | None = None
    gps: Instrument | None = None
    odometer: Instrument | None = None
    lap: LapInstrument | None = None
    gauge: Gauge | None = None
    wall: WallInstrument | None = None
    samples: SampleSources | None = None
    #: Further files of samples, by the name between "samples-" and ".csv".
    streams: Annotated[dict[str, StreamPlace], Field(max_length=8)] | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Claim:
    """What the maker says."""

    distance_m: Metres | None = None
    speed_mps: Speed | None = None
    load_kg: Load | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Start:
    """How full the pack was at the start: full, as a charger or a display said, or a share of usable
    energy; `just_charged` where it came off its charger within the hour."""

    full: bool | None = None
    just_charged: bool | None = None
    energy_fraction: Annotated[float, START_SHARE.field()] | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Ending:
    """Why the ride stopped."""

    reason: EndReason | None = None
    note: NoteText | None = None


def _unknown_pack() -> PackSpec:
    """A pack of which nothing is said."""
    return PackSpec(**with_what_is_taken({}))


@dataclass(frozen=True, slots=True, kw_only=True)
class TestSheet:
    """All of test.json: what was tested, by whom, under which rules and conditions."""

    __test__ = False  # not a pytest class, whatever its name begins with

    bundle: Literal[1] = 1
    title: Annotated[str, Field(min_length=1, max_length=300)]
    vehicle: VehicleSpec
    pack: Annotated[PackSpec, BeforeValidator(with_what_is_taken)] = field(
        default_factory=_unknown_pack
    )
    purpose: Purpose | None = None
    tags: Annotated[tuple[Tag, ...], Field(max_length=MOST_TAGS)] = ()
    started_at: datetime | None = None
    packs_used: Annotated[int, Field(ge=1, le=MOST_PACKS)] | None = None
    packs_use: PackUse | None = None
    rider: RiderSpec | None = None
    conditions: Conditions | None = None
    tyres: Tyres | None = None
    protocol: Protocol | None = None
    instruments: Instruments | None = None
    claim: Claim | None = None
    start: Start | None = None
    ending: Ending | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Entry:
    """What the rider wrote down at one moment; `None` is "not read"."""

    time_s: float
    kind: EntryKind
    trip_m: float | None = None
    gps_m: float | None = None
    odometer_m: float | None = None
    laps: float | None = None
    voltage_rest_v: float | None = None
    voltage_load_v: float | None = None
    current_a: float | None = None
    charge_ah: float | None = None
    energy_wh: float | None = None
    gauge: float | None = None
    speed_mps: float | None = None
    battery_temp_c: float | None = None
    motor_temp_c: float | None = None
    cell_min_v: float | None = None
    mode: str | None = None
    what: str | None = None
    place: str | None = None
    pack: float | None = None
    shown_range_m: float | None = None
    speedometer_mps: float | None = None
    walked_m: float | None = None
    untracked_m: float | None = None
    ascent_m: float | None = None
    descent_m: float | None = None
    air_temp_c: float | None = None
    wind_mps: float | None = None
    wind_from_deg: float | None = None
    charged_wh: float | None = None
    charged_s: float | None = None
    wall_wh: float | None = None
    confirmed: str | None = None
    photo: str | None = None
    note: str | None = None
    extra: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True, slots=True, kw_only=True)
class RangeTest:
    """One range test as recorded.

    `samples` has `time_s` first, strictly increasing, and any of the columns of bundle.md as
    float64 with nulls for "not known"; other columns are text and carried along. `extra` holds
    what test.json had beyond the format, by dotted path.
    """

    sheet: TestSheet
    samples: pl.DataFrame | None = None
    entries: tuple[Entry, ...] = ()
    route_gpx: bytes | None = None
    notices: tuple[Notice, ...] = ()
    extra: Mapping[str, Any] = field(default_factory=dict)
    #: Pictures of the display by their names in a bundle, which entries refer to.
    photos: Mapping[str, bytes] = field(default_factory=dict)
    #: What each instrument sent, where there are several: `samples` is what they make together.
    streams: tuple[Stream, ...] = ()
    #: The samples, opened once.
    log: Log = field(init=False, repr=False, compare=False)

    def __post_init__(self) -> None:
        object.__setattr__(self, "log", Log(self.samples))

    @property
    def started_at(self) -> datetime | None:
        """When time_s = 0 was, with its offset from UTC."""
        return self.sheet.started_at

    def column(self, name: str) -> NDArray[np.float64] | None:
        """A sample column, shape (n,), NaN where not known; None when it is absent or empty."""
        return self.log.column(name)

    def readings(self, name: str) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
        """Times [s] and values of one entry field where it was read, both of shape (k,)."""
        pairs = [
            (entry.time_s, value)
            for entry in self.entries
            if (value := getattr(entry, name)) is not None
        ]
        table = np.array(pairs, dtype=np.float64).reshape(-1, 2)
        return table[:, 0], table[:, 1]
