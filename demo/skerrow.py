"""The mail round's range tests: vehicles, packs, riders and rides, all from seeds.

Nothing here is typed in from a ride: the generator rides, the instruments record, and a rider
notes at the roadside what the instruments show. Faults of real logs are put in on purpose and
named where they are made.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from datetime import datetime, timedelta, timezone
from functools import cache

import numpy as np

from limpet.evidence.model import (
    Claim,
    Conditions,
    Ending,
    EndReason,
    Entry,
    EntryKind,
    Gauge,
    Instrument,
    Instruments,
    LapInstrument,
    Protocol,
    Purpose,
    RangeTest,
    RiderSpec,
    SampleSources,
    SpeedPolicy,
    TestSheet,
    Tyres,
    VehicleSpec,
)
from limpet.pack import PackSpec
from limpet.road import Surface
from standins.instruments import Log, Meter, record, samples, with_gap
from standins.ride_generator import (
    Course,
    RidePlan,
    Truth,
    VehicleModel,
    Weather,
    ellipse,
    out_and_back,
    ride,
)

#: Open ocean: no place is meant.
ORIGIN = (47.5, -24.5)
ISLAND_TIME = timezone(timedelta(hours=0))


@dataclass(frozen=True, slots=True, kw_only=True)
class DemoVehicle:
    """A vehicle of the post office and how it moves."""

    spec: VehicleSpec
    model: VehicleModel
    trip_scale: float
    gauge: Gauge
    note: str


@dataclass(frozen=True, slots=True, kw_only=True)
class DemoPack:
    """A pack and what it still holds."""

    spec: PackSpec
    retained: float
    note: str

    @property
    def known_retained(self) -> float | None:
        """What the post office knows of it: a worn pack was measured, others were not."""
        return round(self.retained, 2) if self.retained < 0.9 else None


VEHICLES = {
    "Turnstone": DemoVehicle(
        spec=VehicleSpec(name="Turnstone", kind="kick_scooter", mass_kg=16.5),
        model=VehicleModel(
            mass_kg=16.5, cda_m2=0.58, crr=0.014, efficiency=0.76, aux_w=6, max_power_w=620
        ),
        trip_scale=1.062,
        gauge=Gauge(kind="bars", steps=5),
        note="Stand-up scooter, town letters. Its wheel counts long.",
    ),
    "Sandpiper": DemoVehicle(
        spec=VehicleSpec(name="Sandpiper", kind="bicycle", mass_kg=38.0),
        model=VehicleModel(
            mass_kg=38, cda_m2=0.60, crr=0.010, efficiency=0.80, aux_w=8, max_power_w=900
        ),
        trip_scale=1.018,
        gauge=Gauge(kind="bars", steps=5),
        note="Long-tail cargo bicycle, ridden on throttle for the tests.",
    ),
    "Dunlin": DemoVehicle(
        spec=VehicleSpec(name="Dunlin", kind="trike", mass_kg=64.0),
        model=VehicleModel(
            mass_kg=64, cda_m2=0.62, crr=0.0105, efficiency=0.78, aux_w=10, max_power_w=1100
        ),
        trip_scale=0.994,
        gauge=Gauge(kind="percent", steps=100),
        note="Home-built delivery trike.",
    ),
    "Whimbrel": DemoVehicle(
        spec=VehicleSpec(name="Whimbrel", kind="moped", mass_kg=86.0),
        model=VehicleModel(
            mass_kg=86,
            cda_m2=0.62,
            crr=0.012,
            efficiency=0.82,
            aux_w=22,
            max_power_w=3200,
            regeneration=0.5,
        ),
        trip_scale=1.04,
        gauge=Gauge(kind="percent", steps=100),
        note="Light moped with regeneration, parcels to the far farms.",
    ),
}

PACKS = {
    "Eider-1": DemoPack(
        spec=PackSpec(
            name="Eider-1", chemistry="nmc", series=10, parallel=4, rated_ah=12.8,
            full_v=42.0, cutoff_v=33.0, equivalent_full_cycles=35,
        ),
        retained=0.98,
        note="Turnstone's own.",
    ),
    "Eider-2": DemoPack(
        spec=PackSpec(
            name="Eider-2", chemistry="nmc", series=13, parallel=4, rated_ah=14.0,
            full_v=54.6, cutoff_v=39.0, equivalent_full_cycles=12,
        ),
        retained=1.0,
        note="Fresh.",
    ),
    "Eider-3": DemoPack(
        spec=PackSpec(
            name="Eider-3", chemistry="nmc", series=13, parallel=4, rated_ah=14.0,
            full_v=54.6, cutoff_v=39.0, equivalent_full_cycles=410,
        ),
        retained=0.81,
        note="Eider-2's worn twin.",
    ),
    "Fulmar-1": DemoPack(
        spec=PackSpec(
            name="Fulmar-1", chemistry="lfp", series=16, parallel=1, rated_ah=20.0,
            full_v=57.6, cutoff_v=44.8, equivalent_full_cycles=90,
        ),
        retained=0.96,
        note="Dunlin's own, built in the harbour workshop.",
    ),
    "Gannet-1": DemoPack(
        spec=PackSpec(
            name="Gannet-1", chemistry="nca", series=20, parallel=10, rated_ah=30.0,
            full_v=84.0, cutoff_v=62.0, equivalent_full_cycles=60,
        ),
        retained=0.97,
        note="Whimbrel's own.",
    ),
}  # fmt: skip

RIDERS = {
    "Ines": RiderSpec(name="Ines", mass_kg=64.0, gear_kg=4.0),
    "Tobias": RiderSpec(name="Tobias", mass_kg=81.0, gear_kg=7.0),
    "Maren": RiderSpec(name="Maren", mass_kg=72.0, gear_kg=5.0),
}

QUAY_LOOP_M = 1720.0
LIGHTHOUSE_M = 8900.0


def quay_loop() -> Course:
    """The measured lap round the harbour."""
    return ellipse(QUAY_LOOP_M, 3.0, stops=1)


def lighthouse_road() -> Course:
    """Out to the light and back, the climb at the far end."""
    return out_and_back(LIGHTHOUSE_M, 58.0, stops=3)


def peat_track() -> Course:
    """Gravel across the moor and round again."""
    return ellipse(6400.0, 24.0, crr_factor=1.9)


@dataclass(frozen=True, slots=True, kw_only=True)
class Round:
    """One range test to ride: who, with what, where, and what gets written down."""

    slug: str
    title: str
    purpose: Purpose
    started_at: datetime
    vehicle: str
    pack: str
    rider: str
    course: Callable[[], Course]
    weather: Weather
    surface: Surface
    target_mps: float
    policy: SpeedPolicy
    stop_at_m: float | None
    reserve: float
    logs: frozenset[str]
    every_m: float
    tyre_kpa: float
    gap: tuple[float, float] | None = None
    claim: Claim | None = None
    pause_at_m: float | None = None
    rest_after_s: int = 150


def _at(month: int, day: int, hour: int, minute: int) -> datetime:
    return datetime(2026, month, day, hour, minute, tzinfo=ISLAND_TIME)


_SPRING = Weather(temp_c=13, wind_mps=3.0, wind_from_deg=240, density_kgpm3=1.235)
_SUMMER = Weather(temp_c=19, wind_mps=2.0, wind_from_deg=200, density_kgpm3=1.21)
_AUTUMN = Weather(temp_c=9, wind_mps=4.0, wind_from_deg=90, density_kgpm3=1.25)
_FROST = Weather(temp_c=-1, wind_mps=2.5, wind_from_deg=20, density_kgpm3=1.29)

ROUNDS = (
    Round(
        slug="turnstone-quay-cutoff", title="Quay loop, to cut-off", purpose="floor",
        started_at=_at(5, 14, 9, 12), vehicle="Turnstone", pack="Eider-1", rider="Ines",
        course=quay_loop, weather=_SPRING, surface="smooth_paved", target_mps=5.6, policy="fixed",
        stop_at_m=None, reserve=0.2, logs=frozenset({"amp_hours", "volts", "laps", "trip", "gauge"}),
        every_m=QUAY_LOOP_M * 2, tyre_kpa=320,
    ),
    Round(
        slug="sandpiper-lighthouse", title="Lighthouse road, twice there and back", purpose="commute",
        started_at=_at(9, 22, 9, 31), vehicle="Sandpiper", pack="Eider-2", rider="Tobias",
        course=lighthouse_road, weather=_AUTUMN, surface="smooth_paved", target_mps=5.3, policy="with_traffic",
        stop_at_m=35_600, reserve=0.15, logs=frozenset({"samples", "track", "volts", "gauge"}),
        every_m=4450, tyre_kpa=300, gap=(2600, 420), rest_after_s=700,
    ),
    Round(
        slug="sandpiper-worn-twin", title="Lighthouse road on the worn pack", purpose="ageing",
        started_at=_at(9, 24, 10, 2), vehicle="Sandpiper", pack="Eider-3", rider="Tobias",
        course=lighthouse_road, weather=replace(_AUTUMN, temp_c=10), surface="smooth_paved", target_mps=5.3,
        policy="with_traffic", stop_at_m=17_800, reserve=0.15,
        logs=frozenset({"volts", "trip", "gauge"}), every_m=4450, tyre_kpa=300,
    ),
    Round(
        slug="sandpiper-quay-gentle", title="Quay loop, ridden gently", purpose="economy",
        started_at=_at(6, 18, 18, 5), vehicle="Sandpiper", pack="Eider-2", rider="Maren",
        course=quay_loop, weather=_SUMMER, surface="smooth_paved", target_mps=4.2, policy="gentle",
        stop_at_m=QUAY_LOOP_M * 18, reserve=0.2,
        logs=frozenset({"amp_hours", "watt_hours", "volts", "laps", "trip"}),
        every_m=QUAY_LOOP_M * 3, tyre_kpa=320,
    ),
    Round(
        slug="dunlin-peat", title="Peat track with the parcel box", purpose="everyday",
        started_at=_at(6, 3, 13, 40), vehicle="Dunlin", pack="Fulmar-1", rider="Maren",
        course=peat_track, weather=_SUMMER, surface="gravel", target_mps=4.4, policy="with_traffic",
        stop_at_m=19_400, reserve=0.2, logs=frozenset({"samples", "volts", "gauge"}),
        every_m=4800, tyre_kpa=240,
    ),
    Round(
        slug="dunlin-quay-volts", title="Quay loop on volts alone", purpose="everyday",
        started_at=_at(6, 9, 17, 20), vehicle="Dunlin", pack="Fulmar-1", rider="Tobias",
        course=quay_loop, weather=_SUMMER, surface="smooth_paved", target_mps=4.8, policy="fixed",
        stop_at_m=QUAY_LOOP_M * 10, reserve=0.2, logs=frozenset({"volts", "laps"}),
        every_m=QUAY_LOOP_M * 2, tyre_kpa=260,
    ),
    Round(
        slug="whimbrel-lighthouse-cutoff", title="Lighthouse road until it stopped", purpose="claim",
        started_at=_at(7, 7, 8, 15), vehicle="Whimbrel", pack="Gannet-1", rider="Ines",
        course=lighthouse_road, weather=_SUMMER, surface="smooth_paved", target_mps=9.8, policy="flat_out",
        stop_at_m=None, reserve=0.15,
        logs=frozenset({"samples", "track", "volts", "gauge_log"}), every_m=8900, tyre_kpa=210,
        claim=Claim(distance_m=95_000, speed_mps=7.0, load_kg=75),
    ),
    Round(
        slug="whimbrel-frost", title="Farm round in the frost", purpose="temperature",
        started_at=_at(11, 19, 8, 40), vehicle="Whimbrel", pack="Gannet-1", rider="Ines",
        course=lighthouse_road, weather=_FROST, surface="smooth_paved", target_mps=8.8, policy="with_traffic",
        stop_at_m=35_600, reserve=0.2,
        logs=frozenset({"samples", "volts", "gauge_log"}), every_m=8900, tyre_kpa=200,
        gap=(1500, 95), rest_after_s=300,
    ),
    Round(
        slug="turnstone-claim", title="The maker's 40 km, copied", purpose="claim",
        started_at=_at(5, 21, 9, 0), vehicle="Turnstone", pack="Eider-1", rider="Maren",
        course=quay_loop, weather=_SPRING, surface="smooth_paved", target_mps=4.3, policy="fixed",
        stop_at_m=QUAY_LOOP_M * 12, reserve=0.2, logs=frozenset({"volts", "laps", "trip"}),
        every_m=QUAY_LOOP_M * 2, tyre_kpa=340,
        claim=Claim(distance_m=40_000, speed_mps=4.2, load_kg=75),
    ),
    Round(
        slug="turnstone-frost", title="Town letters in the frost", purpose="temperature",
        started_at=_at(11, 20, 7, 55), vehicle="Turnstone", pack="Eider-1", rider="Ines",
        course=quay_loop, weather=_FROST, surface="wet_paved", target_mps=5.4, policy="with_traffic",
        stop_at_m=13_200, reserve=0.2, logs=frozenset({"samples", "track", "volts", "trip"}),
        every_m=3300, tyre_kpa=300, rest_after_s=660,
    ),
)  # fmt: skip


@cache
def ridden(slug: str) -> RangeTest:
    """One of the island's range tests, ridden and written down (always the same)."""
    item = next(item for item in ROUNDS if item.slug == slug)
    seed = 1000 + ROUNDS.index(item)
    vehicle, pack, rider = VEHICLES[item.vehicle], PACKS[item.pack], RIDERS[item.rider]
    load = (rider.mass_kg or 0) + (rider.gear_kg or 0)
    truth = ride(
        vehicle.model,
        pack.spec,
        item.course(),
        item.weather,
        RidePlan(
            rider_kg=load,
            target_mps=item.target_mps,
            stop_at_m=item.stop_at_m,
            rest_after_s=item.rest_after_s,
        ),
        retained=pack.retained,
        seed=seed,
    )
    rng = np.random.default_rng(seed)
    log = record(
        truth,
        Meter(
            voltage_gain=1 + float(rng.uniform(-0.003, 0.003)),
            current_gain=1 + float(rng.uniform(-0.008, 0.008)),
        ),
        trip_scale=vehicle.trip_scale,
        gps_scale=0.992,
        gauge_steps=vehicle.gauge.steps or 100,
        seed=seed + 1,
    )
    frame = None
    if "samples" in item.logs:
        frame = samples(
            truth,
            log,
            origin=ORIGIN,
            counters=item.vehicle != "Turnstone",
            track="track" in item.logs,
            gauge="gauge_log" in item.logs,
            seed=seed + 2,
        )
        if item.gap is not None:
            frame = with_gap(frame, *item.gap)
    return RangeTest(sheet=_sheet(item, truth), samples=frame, entries=_entries(item, truth, log))


def all_tests() -> dict[str, RangeTest]:
    """Every range test of the island by its slug."""
    return {item.slug: ridden(item.slug) for item in ROUNDS}


def _sheet(item: Round, truth: Truth) -> TestSheet:
    vehicle, pack = VEHICLES[item.vehicle], PACKS[item.pack]
    reason: EndReason = "cutoff" if truth.reached_cutoff else "home"
    return TestSheet(
        title=item.title,
        purpose=item.purpose,
        started_at=item.started_at,
        vehicle=vehicle.spec,
        pack=pack.spec,
        packs_used=1,
        rider=RIDERS[item.rider],
        conditions=Conditions(
            temp_start_c=item.weather.temp_c,
            temp_end_c=item.weather.temp_c + 1,
            wind_mps=item.weather.wind_mps,
            wind_from_deg=item.weather.wind_from_deg,
            pressure_hpa=1013,
            humidity_pct=78,
            surface=item.surface,
        ),
        tyres=Tyres(pressure_kpa=item.tyre_kpa),
        protocol=Protocol(
            end_rule="cutoff" if item.stop_at_m is None else "route_end",
            reserve=item.reserve,
            speed_policy=item.policy,
            target_speed_mps=item.target_mps,
            propulsion="throttle_only",
        ),
        instruments=Instruments(
            voltage=Instrument(accuracy_pct=0.5),
            current=Instrument(accuracy_pct=1.0),
            charge=Instrument(accuracy_pct=1.5),
            energy=Instrument(accuracy_pct=2.0),
            trip=Instrument(accuracy_pct=5.0),
            gps=Instrument(accuracy_pct=2.0),
            lap=LapInstrument(length_m=QUAY_LOOP_M, accuracy_pct=0.5)
            if "laps" in item.logs
            else None,
            gauge=vehicle.gauge,
            samples=SampleSources(distance="trip") if "samples" in item.logs else None,
        ),
        claim=item.claim,
        ending=Ending(reason=reason, note=""),
    )


def _entries(item: Round, truth: Truth, log: Log) -> tuple[Entry, ...]:
    """What the rider notes: at the start, every so often, at the end and after settling."""
    moving = np.flatnonzero(truth.speed_mps > 0.05)
    start, end = max(int(moving[0]) - 1, 0), int(moving[-1]) + 1
    total = float(truth.distance_m[-1])
    noted = [_entry(item, truth, log, start, "start", rest=True)]
    at = item.every_m
    while at < total - 0.25 * item.every_m:
        row = truth.row_at_distance(at)
        # The light stands at every odd multiple of the way out.
        turn = item.course is lighthouse_road and round(at / LIGHTHOUSE_M) % 2 == 1
        turn = turn and abs(at - LIGHTHOUSE_M * round(at / LIGHTHOUSE_M)) < 1
        kind: EntryKind = "turn" if turn else "lap" if "laps" in item.logs else "checkpoint"
        noted.append(_entry(item, truth, log, row, kind, rest=False))
        at += item.every_m
    noted.append(_entry(item, truth, log, min(end, len(log.time_s) - 1), "end", rest=False))
    noted.append(_entry(item, truth, log, len(log.time_s) - 1, "settle", rest=True))
    return tuple(noted)


def _entry(item: Round, truth: Truth, log: Log, row: int, kind: EntryKind, *, rest: bool) -> Entry:
    logs = item.logs
    # Riders read the pulling voltage while pulling: the lowest of the half minute before.
    pulling = log.voltage_v[max(row - 30, 0) : row + 1].min()
    shows_gauge = logs & {"gauge", "gauge_log"}
    return Entry(
        time_s=float(log.time_s[row]),
        kind=kind,
        trip_m=round(float(log.trip_m[row]), -1) if logs & {"trip", "samples"} else None,
        laps=round(float(truth.distance_m[row]) / QUAY_LOOP_M, 1) if "laps" in logs else None,
        voltage_rest_v=round(float(log.voltage_v[row]), 1) if rest and "volts" in logs else None,
        voltage_load_v=round(float(pulling), 1) if not rest and "volts" in logs else None,
        charge_ah=round(float(log.charge_ah[row]), 2) if "amp_hours" in logs else None,
        energy_wh=round(float(log.energy_wh[row]), 1) if "watt_hours" in logs else None,
        gauge=float(log.gauge[row]) if shows_gauge else None,
        note=_NOTES.get((item.slug, kind)),
    )


_NOTES: dict[tuple[str, EntryKind], str] = {
    ("turnstone-quay-cutoff", "end"): "Cut out on the rise by the fish sheds.",
    ("sandpiper-lighthouse", "turn"): "Wind behind from here.",
    ("sandpiper-lighthouse", "start"): "Logger lost its card for some minutes on the way out.",
    ("whimbrel-frost", "checkpoint"): "The gauge fell to 20 on the hill and came back.",
    ("dunlin-quay-volts", "settle"): "Volts hardly move on this pack.",
}
