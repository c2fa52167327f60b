"""The mail round's range tests: vehicles, packs, riders and rides, all from seeds.

Nothing here is typed in from a ride: the generator rides, the instruments record, and a rider
notes at the roadside what the instruments show. Faults of real logs are put in on purpose and
named where they are made.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from datetime import datetime
from functools import cache

import numpy as np

from demo.island import (
    ISLAND_TIME,
    LIGHTHOUSE_M,
    ORIGIN,
    PACKS,
    QUAY_LOOP_M,
    RIDERS,
    VEHICLES,
    lighthouse_road,
    peat_track,
    quay_loop,
)
from limpet.evidence.model import (
    Claim,
    Conditions,
    Ending,
    EndReason,
    Entry,
    EntryKind,
    Instrument,
    Instruments,
    LapInstrument,
    Protocol,
    Purpose,
    RangeTest,
    SampleSources,
    TestSheet,
    Tyres,
)
from limpet.pack import PackSpec
from limpet.pack.labelled import with_what_is_taken
from limpet.road import Surface
from limpet.road.kinds import SpeedPolicy
from standins.instruments import Log, Meter, record, samples, with_gap
from standins.ride_generator import (
    Course,
    RidePlan,
    Truth,
    Weather,
    ride,
)

#: The ride that a newcomer is shown round on: the page finds it by its tag.
FIRST_LOOK = "sandpiper-lighthouse"


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
    #: A pack put in where the first has brought the ride so far [m].
    second_pack: str | None = None
    swap_at_m: float = 0.0
    #: What the rider knows of the pack, where it is less than its cells.
    label: PackSpec | None = None
    #: What the pack held then and how many cycles it had, and what the rider weighed, where that was otherwise.
    worn: tuple[float, float] | None = None
    rider_kg: float | None = None


def _at(month: int, day: int, hour: int, minute: int, year: int = 2026) -> datetime:
    return datetime(year, month, day, hour, minute, tzinfo=ISLAND_TIME)


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
    Round(
        slug="sandpiper-two-packs", title="To the light and back on two packs", purpose="everyday",
        started_at=_at(6, 25, 8, 50), vehicle="Sandpiper", pack="Eider-3", rider="Tobias",
        course=lighthouse_road, weather=_SUMMER, surface="smooth_paved", target_mps=5.5, policy="with_traffic",
        stop_at_m=35_600, reserve=0.15, logs=frozenset({"volts", "trip", "gauge"}), every_m=4450, tyre_kpa=310,
        second_pack="Eider-2", swap_at_m=22_250,
    ),
    Round(
        slug="turnstone-bars", title="What the bars and the display say", purpose="everyday",
        started_at=_at(7, 2, 16, 10), vehicle="Turnstone", pack="Eider-1", rider="Maren",
        course=quay_loop, weather=_SUMMER, surface="smooth_paved", target_mps=5.5, policy="with_traffic",
        stop_at_m=QUAY_LOOP_M * 11, reserve=0.2, logs=frozenset({"trip", "gauge", "shown"}),
        every_m=QUAY_LOOP_M * 2, tyre_kpa=320,
        label=PackSpec(**with_what_is_taken({"name": "Eider-1", "nominal_v": 36.0, "rated_ah": 12.5})),
    ),
    *(
        Round(
            slug=f"knot-{year}-{month}", title=f"Quay loop till empty, {season} {year}", purpose="ageing",
            started_at=_at(month, 12, 15, 10, year), vehicle="Knot", pack="Plover-1", rider="Maren",
            course=quay_loop, weather=weather, surface="smooth_paved", target_mps=5.2, policy="fixed",
            stop_at_m=None, reserve=0.2, logs=frozenset({"amp_hours", "volts", "laps", "trip", "gauge"}),
            every_m=QUAY_LOOP_M * 2, tyre_kpa=300, worn=worn, rider_kg=mass,
        )
        for year, month, season, weather, worn, mass in (
            (2024, 9, "autumn", _AUTUMN, (1.0, 4), 70.0),
            (2025, 3, "spring", _SPRING, (0.97, 95), 70.5),
            (2025, 9, "autumn", _AUTUMN, (0.93, 190), 71.0),
            (2026, 3, "spring", _SPRING, (0.89, 280), 72.0),
            (2026, 9, "autumn", _AUTUMN, (0.86, 360), 72.0),
        )
    ),
    # Two motors on one pack, alternating over two days: four runs that belong together.
    *(
        Round(
            slug=f"ruff-{motor}-{turn}", title=f"Ten laps on the {motor} motor, run {turn}", purpose="compare",
            started_at=_at(10, day, hour, 10), vehicle=f"Ruff, {motor} motor", pack="Eider-2", rider="Tobias",
            course=quay_loop, weather=weather, surface="smooth_paved", target_mps=5.6, policy="fixed",
            stop_at_m=QUAY_LOOP_M * 10, reserve=0.2,
            logs=frozenset({"amp_hours", "watt_hours", "volts", "laps", "trip"}),
            every_m=QUAY_LOOP_M * 2, tyre_kpa=320,
        )
        for motor, turn, day, hour, weather in (
            ("hub", 1, 3, 9, _AUTUMN),
            ("geared", 1, 3, 13, _AUTUMN),
            ("geared", 2, 4, 9, replace(_AUTUMN, wind_mps=2.0, temp_c=11)),
            ("hub", 2, 4, 13, replace(_AUTUMN, wind_mps=2.5, temp_c=12)),
        )
    ),
)  # fmt: skip


def _ride(item: Round, seed: int) -> tuple[Truth, Log]:
    """What happened, and what the instruments showed of it."""
    vehicle, pack, rider = VEHICLES[item.vehicle], PACKS[item.pack], RIDERS[item.rider]
    load = (item.rider_kg or rider.mass_kg or 0) + (rider.gear_kg or 0)
    truth = ride(
        vehicle.model,
        pack.spec,
        item.course(),
        item.weather,
        RidePlan(
            rider_kg=load,
            target_mps=item.target_mps,
            stop_at_m=item.swap_at_m or item.stop_at_m,
            rest_after_s=item.rest_after_s,
        ),
        retained=pack.retained if item.worn is None else item.worn[0],
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
    return truth, log


@cache
def ridden(slug: str) -> RangeTest:
    """One of the island's range tests, ridden and written down (always the same)."""
    item = next(item for item in ROUNDS if item.slug == slug)
    seed = 1000 + ROUNDS.index(item)
    truth, log = _ride(item, seed)
    frame = None
    if item.second_pack is not None:
        return _on_two_packs(item, truth, log)
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


def _on_two_packs(item: Round, truth: Truth, log: Log) -> RangeTest:
    """The first pack's part, a swap at the roadside, and the rest on the second."""
    first = _entries(item, truth, log)
    rest = replace(
        item, pack=item.second_pack or item.pack, second_pack=None, swap_at_m=0.0,
        stop_at_m=(item.stop_at_m or 0.0) - item.swap_at_m,
    )  # fmt: skip
    second = _ride(rest, 1500 + ROUNDS.index(item))
    at_s, at_m = first[-1].time_s + 240, first[-2].trip_m or 0.0
    later = [
        replace(
            entry, time_s=entry.time_s + at_s, trip_m=None if entry.trip_m is None else entry.trip_m + at_m,
            kind="swap" if number == 0 else entry.kind, pack=2.0,
        )
        for number, entry in enumerate(_entries(rest, *second))
    ]  # fmt: skip
    # Where the first was taken out was no end of the ride, but a halt.
    halt = [replace(entry, kind="stop", pack=1.0) for entry in first[-2:]]
    sheet = replace(_sheet(item, second[0]), packs_used=2, packs_use="in_sequence")
    return RangeTest(sheet=sheet, entries=(*first[:-2], *halt, *later))


def all_tests() -> dict[str, RangeTest]:
    """Every range test of the island by its slug."""
    return {item.slug: ridden(item.slug) for item in ROUNDS}


def _sheet(item: Round, truth: Truth) -> TestSheet:
    vehicle, pack, rider = VEHICLES[item.vehicle], PACKS[item.pack].spec, RIDERS[item.rider]
    if item.worn is not None:
        pack = replace(pack, equivalent_full_cycles=item.worn[1])
    reason: EndReason = "cutoff" if truth.reached_cutoff else "home"
    return TestSheet(
        title=item.title,
        purpose=item.purpose,
        tags=_tags(item),
        started_at=item.started_at,
        vehicle=vehicle.spec,
        pack=item.label or pack,
        packs_used=1,
        rider=replace(rider, mass_kg=item.rider_kg or rider.mass_kg),
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


def _tags(item: Round) -> tuple[str, ...]:
    """What the mail round sorts its tests by: the way, and the frost that it tries its packs for."""
    ways = {quay_loop: "quay", lighthouse_road: "lighthouse", peat_track: "peat"}
    way = ways.get(item.course)
    first = "start here" if item.slug == FIRST_LOOK else None
    return tuple(tag for tag in (first, way, "frost" if item.weather is _FROST else None) if tag)


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
        shown_range_m=_promised_m(item, log, row) if "shown" in logs else None,
        note=_NOTES.get((item.slug, kind)),
    )


def _promised_m(item: Round, log: Log, row: int) -> float:
    """What the display shows: the maker's figure, by the bars, as if the last were like the first."""
    steps = VEHICLES[item.vehicle].gauge.steps or 100
    return round(40_000.0 * float(log.gauge[row]) / steps, -3)


_NOTES: dict[tuple[str, EntryKind], str] = {
    ("turnstone-quay-cutoff", "end"): "Cut out on the rise by the fish sheds.",
    ("sandpiper-lighthouse", "turn"): "Wind behind from here.",
    ("sandpiper-lighthouse", "start"): "Logger lost its card for some minutes on the way out.",
    ("whimbrel-frost", "checkpoint"): "The gauge fell to 20 on the hill and came back.",
    ("turnstone-bars", "end"): "It promises 16 km more; I did not try.",
    ("dunlin-quay-volts", "settle"): "Volts hardly move on this pack.",
}
