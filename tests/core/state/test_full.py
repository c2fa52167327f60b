"""What a pack began with: when it counts as full, and when nobody knows (handbook section 4, "Full?")."""

from __future__ import annotations

import pytest

from limpet.evidence.model import Ending, Entry, Protocol, Start
from limpet.figures.findings import find
from limpet.pack import PackSpec
from limpet.state.priors import Learned, Priors
from limpet.tell import analyse
from tests.strategies import range_test


def start_of(volts=None, *, chemistry="nmc", series=13, **sheet):
    """The start of a short ride, as an input: (value, u, shape)."""
    rows = (
        Entry(time_s=0.0, kind="start", trip_m=0.0, voltage_rest_v=volts),
        Entry(time_s=1800.0, kind="end", trip_m=9000.0),
    )
    pack = PackSpec(chemistry=chemistry, series=series, rated_ah=14.0)
    inputs = find(range_test(*rows, pack=pack, **sheet), draws=20).remaining.model.inputs
    return next(item for item in inputs if item.name == "start_1")


def span(item):
    assert item.shape == "rectangular"
    half = item.standard_uncertainty * 3**0.5
    return pytest.approx((item.value - half, item.value + half))


@pytest.mark.parametrize("per_cell", [3.33, 3.35, 3.45, 3.60])
def test_iron_phosphate_off_its_charger_is_80_to_100_percent(per_cell):
    found = start_of(per_cell * 16, chemistry="lfp", series=16)
    assert span(found) == (0.8, 1.0)


def test_iron_phosphate_lower_than_that_is_anything():
    assert span(start_of(3.32 * 16, chemistry="lfp", series=16)) == (0.0, 1.0)


def test_who_says_just_charged_is_full():
    found = start_of(3.35 * 16, chemistry="lfp", series=16, start=Start(just_charged=True))
    assert (found.value, found.standard_uncertainty, found.shape) == (1.0, 0.03, "shortfall")
    assert start_of(54.0, start=Start(just_charged=True)).standard_uncertainty == 0.02


def test_a_layered_oxide_is_full_within_50_mv_a_cell():
    assert start_of(13 * 4.15).shape == "shortfall"
    assert span(start_of(13 * 4.14)) == (0.0, 1.0)


@pytest.mark.parametrize(
    ("sheet", "full"),
    [
        ({}, False),
        ({"ending": Ending(reason="home")}, False),
        ({"ending": Ending(reason="cutoff")}, True),
        ({"ending": Ending(reason="protect")}, True),
        ({"protocol": Protocol(end_rule="cutoff"), "ending": Ending(reason="home")}, True),
        ({"protocol": Protocol(end_rule="route_end"), "ending": Ending(reason="cutoff")}, False),
    ],
    ids=["nothing", "home", "cut-off", "protection", "rules", "a trip that ran dry"],
)
def test_not_said_is_full_only_where_the_rules_ask_for_it(sheet, full):
    found = start_of(**sheet)
    if full:
        assert found.source == "assumed full"
    else:
        assert span(found) == (0.2, 1.0)


def test_a_start_that_is_taken_for_full_is_asked_about_and_an_unknown_one_named():
    def codes(reason):
        rows = (
            Entry(time_s=0.0, kind="start", trip_m=0.0),
            Entry(time_s=3600.0, kind="end", trip_m=20_000.0, voltage_rest_v=44.0),
        )
        result = analyse(range_test(*rows, ending=Ending(reason=reason)))
        return {notice.code for notice in result.warnings}

    assert "assumed_full" in codes("cutoff")
    assert "start_unsaid" in codes("home")
    assert "assumed_full" not in codes("home")


@pytest.mark.parametrize(("chemistry", "series", "taught"), [("nmc", 13, True), ("lfp", 16, False)])
def test_a_gauge_of_iron_phosphate_has_no_bend_that_rides_teach(chemistry, series, taught):
    """Three rides taught one in PyBaMM's Prada 2013, and the next was told half as far again as it went."""
    rows = (
        Entry(time_s=0.0, kind="start", trip_m=0.0, gauge=100.0),
        Entry(time_s=1800.0, kind="end", trip_m=9000.0, gauge=70.0),
    )
    pack = PackSpec(chemistry=chemistry, series=series, rated_ah=14.0)
    priors = Priors().also(gauge_bend=Learned(value=0.5, standard_uncertainty=0.05))
    inputs = find(range_test(*rows, pack=pack), priors, draws=20).remaining.model.inputs
    bend = next(item for item in inputs if item.name == "gauge_bend")
    assert (bend.value == 0.5) is taught
