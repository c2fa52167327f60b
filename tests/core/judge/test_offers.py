"""Which tests can tell what one wants to know."""

from __future__ import annotations

import pytest

from limpet.judge import compare
from limpet.judge.offers import APART, MOST_OFFERS, MOST_TESTS, _stepped, offers
from limpet.readers import METRIC, ReaderUnits
from tests.core.judge.kit import seen


def test_vehicles_are_offered_with_all_their_runs_and_what_the_comparison_then_shows():
    tests = [seen("a"), seen("b", vehicle="Ruff"), seen("c"), seen("d", vehicle="Ruff")]
    (offer,) = offers(tests, "vehicle")
    assert {offer.first_mark, offer.second_mark} == {"Plover", "Ruff"}
    assert {offer.first, offer.second} == {("a", "c"), ("b", "d")}
    sides = {"Plover": tests[::2], "Ruff": tests[1::2]}
    answer = compare(sides[offer.first_mark], sides[offer.second_mark], "vehicle")
    assert offer.smallest_seen == pytest.approx(answer.smallest_seen)


def test_packs_are_held_against_each_other_on_one_vehicle_only():
    tests = [
        seen("a", pack="1", pack_name="Eider-1"),
        seen("b", pack="2", pack_name="Eider-2"),
        seen("c", pack="3", pack_name="Eider-3", vehicle="Ruff"),
    ]
    (offer,) = offers(tests, "pack")
    assert {offer.first_mark, offer.second_mark} == {"Eider-1", "Eider-2"}


def test_the_surer_pair_comes_first():
    tests = [
        seen("a", relative=0.01), seen("b", relative=0.01, vehicle="Ruff"),
        seen("c", relative=0.2, vehicle="Dotterel"),
    ]  # fmt: skip
    found = offers(tests, "vehicle")
    assert [offer.smallest_seen for offer in found] == sorted(
        offer.smallest_seen for offer in found
    )
    assert {found[0].first_mark, found[0].second_mark} == {"Plover", "Ruff"}


def test_about_as_much_wind_is_one_wind():
    tests = [seen("a", wind_mps=2.0), seen("b", wind_mps=2.1), seen("c", wind_mps=9.0)]
    (offer,) = offers(tests, "wind")
    assert {offer.first, offer.second} == {("a", "b"), ("c",)}


def test_pedalled_rides_and_what_nobody_noted_are_not_offered():
    assert offers([seen("a"), seen("b", vehicle="Ruff", assisted=True)], "vehicle") == ()
    assert offers([seen("a", tyre_kpa=None), seen("b", tyre_kpa=300.0)], "tyres") == ()
    assert offers([seen("a"), seen("b")], "repeat") == ()


def test_hundreds_of_tests_have_their_bounds():
    many = [seen(f"t{k}", vehicle=f"v{k % 20}") for k in range(MOST_TESTS + 100)]
    found = offers(many, "vehicle")
    assert len(found) == MOST_OFFERS
    kept = {test.key for test in many[-MOST_TESTS:]}
    assert all(set(offer.first) | set(offer.second) <= kept for offer in found)


def test_rides_with_and_without_legs_are_offered_where_that_is_asked():
    (offer,) = offers([seen("a"), seen("b", assisted=True), seen("c")], "pedalling")
    assert {offer.first_mark, offer.second_mark} == {"throttle only", "with legs"}
    assert {*offer.first, *offer.second} == {"a", "b", "c"}


def test_a_side_is_called_by_about_how_much_in_the_readers_units():
    tests = [seen("a", wind_mps=2.0), seen("b", wind_mps=2.1), seen("c", wind_mps=9.0)]
    (offer,) = offers(tests, "wind")
    assert offer.kind == "speed"
    miles = ReaderUnits(distance="mi", mass="lb", temperature="°F", pressure="psi")
    assert offer.named(METRIC) == ("about 7 km/h", "about 31 km/h")
    assert offer.named(miles) == ("about 4 mph", "about 19 mph")
    (named,) = offers([seen("a"), seen("b", vehicle="Ruff")], "vehicle")
    assert set(named.named(miles)) == {"Plover", "Ruff"}


@pytest.mark.parametrize(
    ("value", "least"), [(0.0, 8.0), (2.0, 2.0), (9.0, 2.0), (300.0, 30.0), (-12.0, 8.0)]
)
def test_steps_are_as_wide_as_the_least_or_as_a_share(value, least):
    width = max(least, APART * abs(value))
    middle = _stepped(value, least)
    assert abs(middle - value) <= 0.75 * width
    assert _stepped(middle, least) == pytest.approx(middle)
    assert _stepped(middle + 0.3 * width, least) == pytest.approx(middle)
    assert _stepped(middle + 1.2 * width, least) != pytest.approx(middle)
