"""Hypothesis strategies and small builders for tests: packs, sheets, entries, sample tables."""

from __future__ import annotations

import json
from datetime import timedelta, timezone
from typing import Any

import polars as pl
from hypothesis import strategies as st

from limpet.evidence.columns import ENTRY_COLUMNS
from limpet.evidence.model import (
    ENTRY_KINDS,
    Conditions,
    Ending,
    Entry,
    Instrument,
    Instruments,
    Protocol,
    RangeTest,
    RiderSpec,
    TestSheet,
    VehicleSpec,
)
from limpet.pack import PackSpec

PACK = PackSpec(
    name="Eider-2",
    chemistry="nmc",
    series=13,
    parallel=4,
    rated_ah=14.0,
    full_v=54.6,
    cutoff_v=39.0,
)


def sheet(**changes: Any) -> TestSheet:
    """A sheet with the least in it, and what a test wants."""
    values: dict[str, Any] = {
        "title": "Quay loop",
        "vehicle": VehicleSpec(kind="bicycle", name="Sandpiper", mass_kg=38.0),
        "pack": PACK,
    }
    return TestSheet(**{**values, **changes})


def accuracies(**percent: float) -> Instruments:
    """Instruments of stated accuracy."""
    return Instruments(**{name: Instrument(accuracy_pct=x) for name, x in percent.items()})


def range_test(
    *entries: Entry, samples: dict[str, list[float]] | pl.DataFrame | None = None, **changes: Any
) -> RangeTest:
    """A range test of entries and sample columns."""
    frame = pl.DataFrame(samples) if isinstance(samples, dict) else samples
    return RangeTest(sheet=sheet(**changes), entries=entries, samples=frame)


#: The least test.json that is accepted.
MINIMAL: dict[str, Any] = {
    "bundle": 1,
    "title": "Quay loop",
    "vehicle": {"kind": "bicycle"},
    "pack": {"chemistry": "nmc", "series": 13, "rated_ah": 14.0},
}


def minimal(**changes: Any) -> bytes:
    """The least test.json with changes at its top level."""
    return json.dumps({**MINIMAL, **changes}).encode()


#: An hour ahead of UTC, UTC itself, and three and a half hours behind.
ZONES = tuple(timezone(timedelta(minutes=minutes)) for minutes in (60, 0, -210))


def within(name: str) -> st.SearchStrategy[float]:
    """Numbers that a column of entries may hold."""
    return st.floats(ENTRY_COLUMNS[name].low, ENTRY_COLUMNS[name].high)


positive = st.floats(0.001, 1e5, allow_nan=False)
words = st.text(
    st.characters(exclude_categories=("Cs", "Cc"), exclude_characters="\ufeff\x85\u2028\u2029"),
    max_size=20,
)
notes = st.one_of(
    st.none(), words.filter(bool), st.sampled_from(["=1+1", 'a "quoted", one', "two\nlines"])
)


@st.composite
def sheets(draw: st.DrawFn) -> TestSheet:
    """Sheets with any of their parts left out."""
    chemistry = draw(st.sampled_from(["nmc", "nca", "lfp"]))
    series = draw(st.integers(3, 30))
    return TestSheet(
        title=draw(words.filter(bool)),
        vehicle=VehicleSpec(kind="moped", mass_kg=draw(st.none() | st.floats(1, 500))),
        pack=PackSpec(chemistry=chemistry, series=series, rated_ah=draw(st.floats(1, 200))),
        purpose=draw(st.sampled_from([None, "floor", "claim"])),
        started_at=draw(st.none() | st.datetimes(timezones=st.sampled_from(ZONES))),
        rider=draw(st.none() | st.builds(RiderSpec, mass_kg=st.floats(30, 150))),
        conditions=draw(st.none() | st.builds(Conditions, temp_start_c=st.floats(-30, 45))),
        protocol=draw(st.none() | st.builds(Protocol, reserve=st.floats(0, 0.9))),
        ending=draw(st.none() | st.builds(Ending, reason=st.sampled_from(["home", "cutoff"]))),
    )


@st.composite
def entry_lists(draw: st.DrawFn) -> tuple[Entry, ...]:
    """Entries in order of time with any readings."""
    # Two alike at one moment are one: the format leaves exact duplicates out.
    times = sorted(draw(st.lists(st.floats(0, 1e5), min_size=1, max_size=6, unique=True)))
    volts = st.none() | st.floats(0.1, 50)
    return tuple(
        Entry(
            time_s=time,
            kind=draw(st.sampled_from(ENTRY_KINDS)),
            trip_m=draw(st.none() | within("trip_m")),
            voltage_rest_v=draw(volts),
            charge_ah=draw(st.none() | within("charge_ah")),
            gauge=draw(st.none() | within("gauge")),
            mode=draw(notes),
            note=draw(notes),
        )
        for time in times
    )


@st.composite
def sample_tables(draw: st.DrawFn) -> pl.DataFrame:
    """Sample tables with gaps in their columns and a column of the rider's own."""
    steps = draw(st.lists(st.floats(0.01, 100), min_size=1, max_size=8))
    rows = len(steps)
    times = [sum(steps[: k + 1]) for k in range(rows)]
    column = st.lists(st.none() | st.floats(0.1, 50), min_size=rows, max_size=rows)
    return pl.DataFrame(
        {
            "time_s": pl.Series(times, dtype=pl.Float64),
            "voltage_v": pl.Series(draw(column), dtype=pl.Float64),
            "altitude_m": pl.Series(draw(column), dtype=pl.Float64),
            "weather": pl.Series(["dry"] * rows, dtype=pl.String),
        }
    )
