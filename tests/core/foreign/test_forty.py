"""Strangers' logs of many shapes against the ride that they were made from: read right, or said to be unsure.

The script that makes them (`strangers`) knows the truth; two of them are read by pandas and DuckDB as well.
"""

import io

import duckdb
import numpy as np
import pandas as pd
import pytest

from limpet.foreign.guess import look_at
from limpet.foreign.raw import read_raw
from limpet.foreign.taken import taken
from tests.core.foreign.strangers import PER, SERIES, SHAPES, Shape

#: Columns that are put in to lead astray.
ASTRAY = ("Motor Current", "Max", "Throttle", "Wh/km")
#: Shapes that a reader may be unsure of, if it says so.
MAY_BE_UNSURE = 2


def read(shape: Shape):
    raw = read_raw(shape.name_of_file, shape.data())
    look = look_at(raw)
    return look, taken(raw, look.mapping("Logger", raw))


def errors_of(shape: Shape, got) -> list[str]:
    """What was read otherwise than it was ridden."""
    truth, found = shape.truth(), got.samples
    rows = min(found.height, len(truth["time_s"]))
    wrong = [] if abs(found.height - len(truth["time_s"])) <= 2 else [f"{found.height} rows"]
    if np.max(np.abs(found["time_s"].to_numpy()[:rows] - truth["time_s"][:rows])) > 0.26:
        wrong.append("time_s")
    if shape.began is not None and (
        got.started_at is None or got.started_at.replace(tzinfo=None) != shape.began
    ):
        wrong.append(f"began {got.started_at}")
    meant = {c.truth: c for c in shape.columns if not c.head.startswith(ASTRAY)}
    names = {
        {"charge_left_ah": "charge_ah", "power_w": "current_a"}.get(name, name)
        for name in meant
        if not name.startswith("cell_")
    }
    if any(name.startswith("cell_") for name in meant):
        names |= {"voltage_v", "cell_min_v"}
    for name in names:
        if name not in found.columns:
            wrong.append(f"no {name}")
            continue
        values = found[name].to_numpy()[:rows]
        is_true = (
            np.min([truth[f"cell_{k + 1}"] for k in range(SERIES)], axis=0)
            if name == "cell_min_v"
            else truth[name]
        )[:rows]
        column = meant.get(name)
        near = 0.02 if column is None else 0.6 * 10.0**-column.digits * PER[column.unit] + 1e-6
        if name == "charge_ah":
            values, is_true, near = values - values[0], is_true - is_true[0], 0.02
        if np.nanmax(np.abs(values - is_true)) > near:
            wrong.append(f"{name} off by {np.nanmax(np.abs(values - is_true)):.3g}")
    wrong += [f"{name} out of nothing" for name in set(found.columns) - names - {"time_s"}]
    return wrong


def test_forty_shapes_and_more_are_read_right_untouched_and_none_is_silently_wrong():
    assert len(SHAPES) >= 40
    missed = {}
    for shape in SHAPES:
        look, got = read(shape)
        wrong = errors_of(shape, got)
        assert not wrong or look.unsure, f"{shape.name} is silently wrong: {wrong}"
        if wrong or look.unsure:
            missed[shape.name] = (wrong, [notice.message for notice in look.unsure])
    assert len(missed) <= MAY_BE_UNSURE, missed


@pytest.mark.parametrize("shape", SHAPES, ids=lambda shape: shape.name)
def test_every_column_says_why_it_is_taken_for_what_it_is(shape):
    look, _ = read(shape)
    assert look.time_why
    for guess in look.columns:
        assert guess.read is None or guess.why, guess.source


@pytest.mark.parametrize(
    "name", ["plain names", "units in brackets", "kilowatts and kilowatt-hours"]
)
def test_pandas_and_duckdb_read_the_same_numbers(name, tmp_path):
    shape = next(each for each in SHAPES if each.name == name)
    look, got = read(shape)
    path = tmp_path / "log.csv"
    path.write_bytes(shape.data())
    by_pandas = pd.read_csv(io.BytesIO(shape.data()))
    by_duckdb = duckdb.sql(f"select * from read_csv('{path}')").df()
    for guess in look.columns:
        if guess.read is None or guess.read.quantity not in got.samples.columns:
            continue
        ours = got.samples[guess.read.quantity].to_numpy() / PER[guess.read.unit or ""]
        for other in (by_pandas, by_duckdb):
            assert ours == pytest.approx(other[guess.source].to_numpy(), rel=1e-12, abs=1e-12)
