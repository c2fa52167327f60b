"""The verdict: the answer to each question first, a span where the band is wider than its figure; and the
workings, whose numbers must come to the figure that they are shown for."""

from dataclasses import replace
from math import exp, sqrt

import pytest

from demo.skerrow import all_tests, ridden
from limpet.assumptions import RUN_TO_RUN, as_assumed, assumed_otherwise, assumptions
from limpet.evidence.model import Conditions, RangeTest
from limpet.figures.budget import ADVICE
from limpet.formulas import FORMULAS
from limpet.notices import CODES, Notice
from limpet.quantity import Quantity
from limpet.readers import METRIC, ReaderUnits
from limpet.tell import Result, analyse
from limpet.tell.verdict import is_span
from limpet.tell.workings import Working

MILES = ReaderUnits(distance="mi")


def asked(test: RangeTest, purpose: str | None, **parts) -> Result:
    return analyse(replace(test, sheet=replace(test.sheet, purpose=purpose, **parts)))


def said(result: Result, units: ReaderUnits = MILES) -> str:
    return " ".join(notice.said(units) for notice in result.verdict)


def codes(result: Result) -> list[str]:
    return [notice.code for notice in result.verdict]


@pytest.mark.parametrize(
    ("purpose", "first"),
    [
        (None, "verdict_used"),
        ("everyday", "verdict_used"),
        ("floor", "verdict_floor_measured"),
        ("claim", "verdict_claim_unsaid"),
        ("ageing", "verdict_ageing"),
        ("temperature", "verdict_temperature"),
        ("compare", "verdict_used"),
        ("economy", "verdict_economy"),
        ("commute", "verdict_commute"),
    ],
)
def test_each_question_has_its_answer_first(purpose, first):
    result = asked(ridden("turnstone-quay-cutoff"), purpose)
    assert codes(result)[0] == first
    assert len(codes(result)) == len(set(codes(result)))
    # The promise is in every one of them, once.
    plan = result.plan_on.distance_m / 1609.344
    assert said(result).count(f"{plan:.1f}") == 1


def test_the_floor_is_the_promise_and_not_the_range():
    result = asked(ridden("turnstone-quay-cutoff"), "floor")
    plan, reach = result.plan_on.distance_m, result.range_to_cutoff.value
    assert f"Count on at least *{plan / 1609.344:.1f} miles*" in said(result)
    assert f"To its end the pack took Ines {reach / 1609.344:.1f}." in said(result)
    assert f"*{plan / 1000:.1f} kilometres*" in said(result, METRIC)


def test_volts_that_cannot_tell_say_so_in_the_sentence():
    result = analyse(ridden("dunlin-quay-volts"))
    assert is_span(result.range_to_cutoff)
    assert codes(result)[:2] == ["verdict_range_span", "take_log_charge"]
    assert "plan on" not in said(result)
    low, high = (result.range_to_cutoff.low, result.range_to_cutoff.high)
    assert f"{low / 1609.344:.1f} and {high / 1609.344:.1f}" in said(result)


def test_a_band_wider_than_its_figure_is_a_span():
    assert not is_span(Quantity(value=10, unit="m", standard_uncertainty=2, low=5.1, high=15))
    assert is_span(Quantity(value=10, unit="m", standard_uncertainty=4, low=4, high=15))


def test_a_claim_is_judged_in_the_sentence():
    result = analyse(ridden("whimbrel-lighthouse-cutoff"))
    assert result.claim.verdict == "held"
    more = result.claim.as_claimed_m.value / result.claim.claimed_m - 1
    assert f"{100 * more:.0f}% more, adjusted to its speed." in said(result)
    other = analyse(ridden("turnstone-claim"))
    code = {"held": "held", "missed": "missed", "cannot_tell": "open"}[other.claim.verdict]
    assert codes(other)[0] == f"verdict_claim_{code}"


def test_without_a_temperature_the_season_is_asked_for():
    test = ridden("whimbrel-frost")
    result = asked(test, "temperature", conditions=Conditions(surface="gravel"))
    assert codes(result)[0] == "verdict_temperature_unsaid"


def test_a_test_of_nothing_says_what_is_missing():
    test = ridden("dunlin-quay-volts")
    result = analyse(replace(test, entries=test.entries[:1], samples=None))
    assert codes(result) == ["verdict_use_unknown", "verdict_range_unknown"]


def test_every_advice_has_its_short_form():
    assert {f"take_{code}" for code in ADVICE.values()} <= set(CODES)


def evaluated(working: Working) -> float | None:
    """The figure's value from the other numbers, by hand; None where the formula has no numbers in it."""
    n = {number.symbol: number.value for number in working.numbers}
    by_hand = {
        "sampled": lambda: n["Ed"] - n["Er"],
        "charge_counter": lambda: n["Q"] * n["V"],
        "from_share": lambda: n["f"] * n["Eu"],
        "laps": lambda: n["n"] * n["L"],
        "consumption": lambda: n["E"] / (n["D"] / 1000),
        "share": lambda: n["s"] - n["l"],
        "range": lambda: n["D"] / n["f"],
        "range_measured": lambda: n["D"],
        "reserve": lambda: (1 - n["r"]) * n["R"],
        # Without the range's own uncertainty, which the draws also hold.
        "plan_on": lambda: (
            (1 - n["r"]) * (1 - n["w"]) * n["R"] * exp(-1.645 * sqrt(2) * n["sigma"])
        ),
        "usable": lambda: n["E"] / n["f"],
        "capacity": lambda: n["Q"] / n["dz"],
        "retained": lambda: n["C"] / n["Cr"],
        "regeneration": lambda: n["Er"] / n["Ed"],
        "claim": lambda: n["R"] / n["K"] - 1,
    }
    return by_hand[working.formula]() if working.formula in by_hand else None


@pytest.mark.parametrize("slug", sorted(all_tests()))
def test_the_numbers_in_a_formula_come_to_its_figure(slug):
    result = analyse(ridden(slug))
    figures = {working.figure for working in result.workings}
    assert {"distance", "energy", "wh_per_km", "range_to_cutoff", "plan_on"} <= figures
    for working in result.workings:
        formula = FORMULAS[working.formula]
        assert formula.tokens == {symbol.name for symbol in formula.symbols}
        found = evaluated(working)
        if found is None:
            continue
        first = working.numbers[0]
        # Medians of draws do not multiply exactly; a wide figure may be off by part of its own u.
        slack = 0.6 * (first.standard_uncertainty or 0.0)
        if working.figure == "plan_on":
            slack = 2 * result.range_to_cutoff.standard_uncertainty
        assert found == pytest.approx(first.value, rel=0.02, abs=slack), working


def test_every_letter_of_every_formula_is_explained_and_typeset():
    for formula in FORMULAS.values():
        assert formula.tokens == {symbol.name for symbol in formula.symbols}, formula.name
        assert "<" not in formula.typeset.replace("P < 0", "")
        assert formula.source


def test_what_is_assumed_otherwise_is_used_and_said():
    test = ridden("dunlin-quay-volts")
    test = replace(test, sheet=replace(test.sheet, protocol=None))
    usual = analyse(test)
    with as_assumed(lambda: {"reserve": (0.4, 0.0)}):
        assert [item.name for item in assumed_otherwise()] == ["reserve"]
        own = analyse(test)
    assert (usual.reserve, own.reserve) == (0.2, 0.4)
    assert "own_assumptions" in [notice.code for notice in own.warnings]
    assert "own_assumptions" not in [notice.code for notice in usual.warnings]
    assert assumed_otherwise() == ()


def test_a_wider_spread_from_run_to_run_promises_less():
    test = ridden("turnstone-quay-cutoff")
    usual = analyse(test).plan_on.distance_m
    with as_assumed(lambda: {"run_to_run": (1.0, 0.16)}):
        assert analyse(test).plan_on.distance_m < 0.9 * usual
    assert RUN_TO_RUN.std == 0.08


def test_no_assumption_takes_what_it_cannot_be():
    for item in assumptions():
        assert item.faults_of(item.default, item.default_std) == {}, item.name
        assert "std" in item.faults_of(item.default, -1.0)
        low, high = item.span
        assert "value" in item.faults_of(high + 1 + abs(high), item.default_std)
        assert low <= item.default <= high
        assert item.label[0].isupper()


def test_a_notice_of_the_verdict_survives_being_kept():
    for notice in analyse(ridden("turnstone-quay-cutoff")).verdict:
        assert Notice.from_json(notice.to_json()) == notice
