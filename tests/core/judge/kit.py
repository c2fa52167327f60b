"""Tests as comparisons see them, made by hand."""

from __future__ import annotations

from dataclasses import replace

from limpet.judge.comparand import Comparand, Figure, Ridden
from limpet.judge.places import Place

RIDDEN = Ridden(
    speed_mps=5.6,
    load_kg=85.0,
    wind_mps=2.0,
    temp_c=15.0,
    climb_m_per_km=6.0,
    stops_per_km=0.3,
    tyre_kpa=320.0,
    surface="smooth_paved",
)
#: What an energy meter of ±1.5% and a trip meter of ±2% leave of a consumption.
PARTS = (("trip", 0.6), ("energy", 0.35))


def seen(
    key: str, wh_per_km: float = 10.0, *, relative: float = 0.014, **more: object
) -> Comparand:
    """A metered ride of one bicycle on one pack."""
    ridden = {name: more.pop(name) for name in list(more) if hasattr(RIDDEN, name)}
    found = Comparand(
        key=key,
        title=f"Ride {key}",
        started_at=None,
        purpose="compare",
        vehicle="Plover",
        kind="bicycle",
        mass_kg=28.0,
        pack="Eider",
        pack_name="Eider",
        chemistry="nmc",
        rider="Ines",
        instruments={"energy": "Clamp", "trip": None},
        figures={"wh_per_km": Figure(value=wh_per_km, std=relative * wh_per_km, parts=PARTS)},
        metered=True,
        reached_end=False,
        reason="home",
        used_fraction=0.6,
        ridden=replace(RIDDEN, **ridden),
    )
    return replace(found, **more)


def place(
    name: str | None, at_m: float, energy_wh: float | None, laps: float | None = None
) -> Place:
    """An entry on the way."""
    return Place(
        name=name, laps=laps, at_m=at_m, time_s=at_m / 5, energy_wh=energy_wh, voltage_v=50.0, gauge=4.0
    )  # fmt: skip
