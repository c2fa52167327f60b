"""Poor evidence is not an error: `analyse` answers whatever was noted, however odd."""

import json

import polars as pl
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from limpet.evidence.model import ENTRY_KINDS, Ending, Entry, RangeTest
from limpet.figures.strip import strip_of
from limpet.figures.traces import traces_of
from limpet.pack import PackSpec
from limpet.tell import analyse
from tests.strategies import sheet

SOME = st.none() | st.sampled_from([0.0, 1e-9, 1.0, 54.0, 3000.0])


@st.composite
def odd_tests(draw: st.DrawFn) -> RangeTest:
    times = sorted(draw(st.lists(st.sampled_from([0.0, 0.5, 60.0, 3600.0, 9000.0]), max_size=5)))
    entries = tuple(
        Entry(
            time_s=time, kind=draw(st.sampled_from(ENTRY_KINDS)), trip_m=draw(SOME), laps=draw(SOME),
            voltage_rest_v=draw(st.none() | st.sampled_from([0.0, 30.0, 42.0, 48.0, 54.4, 60.0])),
            voltage_load_v=draw(st.none() | st.sampled_from([0.0, 38.0, 50.0])),
            charge_ah=draw(SOME), energy_wh=draw(SOME), current_a=draw(SOME),
        )
        for time in times
    )  # fmt: skip
    rows = draw(st.integers(0, 4))
    column = st.lists(st.none() | st.sampled_from([0.0, 20.0, 50.0]), min_size=rows, max_size=rows)
    samples = None
    if rows:
        steps = draw(st.lists(st.sampled_from([0.1, 1.0, 60.0, 1e4]), min_size=rows, max_size=rows))
        data = {"time_s": [sum(steps[: k + 1]) for k in range(rows)]}
        for name in (
            "voltage_v",
            "current_a",
            "speed_mps",
            "distance_m",
            "charge_ah",
            "altitude_m",
        ):
            data[name] = draw(column)
        samples = pl.DataFrame(data, schema=dict.fromkeys(data, pl.Float64))
    chemistry = draw(st.sampled_from(["nmc", "lfp", "lead_acid_agm"]))
    series = 26 if chemistry.startswith("lead") else 13
    cutoff = draw(st.sampled_from([None, 39.0, 50.0]))
    pack = PackSpec(
        chemistry=chemistry,
        series=series,
        rated_ah=draw(st.sampled_from([0.5, 14.0])),
        cutoff_v=cutoff,
    )
    ending = draw(st.sampled_from([None, Ending(reason="cutoff"), Ending(reason="home")]))
    return RangeTest(sheet=sheet(pack=pack, ending=ending), entries=entries, samples=samples)


@given(odd_tests())
@settings(max_examples=25, deadline=None, suppress_health_check=[HealthCheck.too_slow])
def test_whatever_was_noted_gets_an_answer(test):
    result = analyse(test)
    printed = json.loads(json.dumps(result.to_json(), allow_nan=False))
    strip_of(test, result)
    traces_of(test.samples, result.distance_line)
    used = [method for method in printed["energy_methods"] if method["used"]]
    told = printed["energy_methods"] and (result.contradiction is None or printed["energy"])
    assert len(used) == (1 if told else 0)
    for name in ("energy", "distance", "range_to_cutoff"):
        if printed[name] is not None:
            assert printed[name]["low"] <= printed[name]["value"] <= printed[name]["high"]
