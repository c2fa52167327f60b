"""The made-up island of Skerrow: who and what rides there, and its three roads."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import timedelta, timezone

from limpet.evidence.model import (
    Gauge,
    RiderSpec,
    VehicleSpec,
)
from limpet.pack import PackSpec
from standins.ride_generator import (
    Course,
    VehicleModel,
    ellipse,
    out_and_back,
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
    "Knot": DemoVehicle(
        spec=VehicleSpec(name="Knot", kind="skateboard", mass_kg=8.5),
        model=VehicleModel(
            mass_kg=8.5, cda_m2=0.47, crr=0.0145, efficiency=0.80, aux_w=4, max_power_w=900
        ),
        trip_scale=1.03,
        gauge=Gauge(kind="bars", steps=4),
        note="Long board. Its pack is ridden empty every spring and autumn.",
    ),
}

#: One bicycle with one motor and then another: what the two differ by is known.
_RUFF = VehicleModel(mass_kg=27, cda_m2=0.56, crr=0.009, efficiency=0.70, aux_w=6, max_power_w=800)
for _motor, _efficiency in (("hub", 0.70), ("geared", 0.84)):
    VEHICLES[f"Ruff, {_motor} motor"] = DemoVehicle(
        spec=VehicleSpec(name=f"Ruff, {_motor} motor", kind="bicycle", mass_kg=27.0),
        model=replace(_RUFF, efficiency=_efficiency),
        trip_scale=1.012,
        gauge=Gauge(kind="bars", steps=5),
        note=f"The spare bicycle with the {_motor} motor in it.",
    )

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
    "Plover-1": DemoPack(
        spec=PackSpec(
            name="Plover-1", chemistry="nmc", series=10, parallel=2, rated_ah=6.0,
            full_v=42.0, cutoff_v=30.0, equivalent_full_cycles=360,
        ),
        retained=0.86,
        note="Knot's own, since it was new.",
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
