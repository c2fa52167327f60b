"""Notices are data: a closed list, and one function that words them for who reads."""

from __future__ import annotations

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from limpet.notices import CODES, Notice, sentence
from limpet.readers import METRIC, ReaderUnits, shown

IMPERIAL = ReaderUnits(distance="mi", mass="lb", temperature="°F", pressure="psi")
#: What only a reader of kilometres and Celsius should meet.
METRIC_WORDS = re.compile(r"\b(km|km/h|Wh/km|m|kg)\b|°C")


def some(code: str) -> dict[str, float | str]:
    """Values for a notice: words where its name has no unit."""
    words = {"chemistry", "vehicle", "side", "used", "other", "reading", "assumed", "limit", "source",
             "file", "names", "how", "text", "pack"}  # fmt: skip
    return {name: "words" if name in words else 3.25 for name in CODES[code].values}


@pytest.mark.parametrize("code", sorted(CODES))
def test_every_notice_has_a_sentence_in_every_readers_units(code):
    notice = Notice(code, **some(code))
    for units in (METRIC, IMPERIAL):
        text = notice.said(units)
        assert text
        assert "{" not in text
        assert not text.endswith(" ")
    if code != "distance_too_far":
        assert METRIC_WORDS.search(notice.said(IMPERIAL)) is None, notice.said(IMPERIAL)
    assert notice.severity in ("danger", "caution", "advice", "note")


def test_a_notice_holds_what_its_sentence_holds_and_nothing_else():
    with pytest.raises(ValueError, match="no notice is called"):
        Notice("no_such_thing")
    with pytest.raises(ValueError, match="pack_hot holds"):
        Notice("pack_hot", pack_c=61.0)
    with pytest.raises(ValueError, match="given"):
        Notice("no_distance", more=1)
    assert len({Notice("no_distance"), Notice("no_distance"), Notice("no_range")}) == 2


@pytest.mark.parametrize(
    ("kind", "value", "metric", "imperial"),
    [
        # International mile, pound and foot: exact (NIST SP 811, B.8).
        ("distance", 16_093.44, "16.1 km", "10.0 mi"),
        ("distance", 250_000.0, "250 km", "155 mi"),
        ("length", 30.48, "30 m", "100 ft"),
        ("speed", 8.9408, "32 km/h", "20 mph"),
        ("consumption", 10.0, "10.0 Wh/km", "16.1 Wh/mi"),
        ("temperature", 60.0, "60 °C", "140 °F"),
        ("temperature", -0.2, "0 °C", "32 °F"),
        ("temperature", -10.0, "−10 °C", "14 °F"),
        ("mass", 80.0, "80 kg", "176 lb"),
    ],
)
def test_quantities_in_words(kind, value, metric, imperial):
    assert shown(kind, value, METRIC) == metric
    assert shown(kind, value, IMPERIAL) == imperial


def test_counts_read_as_people_write_them():
    one = Notice("duplicate_rows", file="samples.csv", count=1)
    many = Notice("duplicate_rows", file="samples.csv", count=1200)
    assert one.message == "samples.csv: 1 exact duplicate row left out."
    assert many.message == "samples.csv: 1,200 exact duplicate rows left out."
    once = Notice("counter_reset", reading="trip meter", resets=1)
    assert once.message.startswith("Trip meter ran backwards once.")
    late = Notice("rest_below_load", time_s=5400.0, rest_v=48.0, load_v=50.5)
    assert late.message.startswith("At 90 min the resting 48 V is below the 50.5 V under load.")


def test_a_chemistry_is_called_by_its_name():
    said = [
        Notice("no_energy_no_curve", chemistry=code).message.partition("curve for ")[2]
        for code in ("nmc", "lead_acid_agm", "gold")
    ]
    assert [text.partition(". ")[0] for text in said] == ["NMC", "lead-acid (AGM)", "gold"]


def test_a_question_about_consumption_is_in_the_readers_units():
    found = Notice(
        "implausible_consumption", vehicle="bicycle", wh_per_km=5.0, low_wh_per_km=9.32,
        high_wh_per_km=21.75,
    )  # fmt: skip
    assert found.said(METRIC).startswith(
        "5.0 Wh/km is far from the 9.3 to 21.8 that a bicycle uses."
    )
    assert found.said(IMPERIAL).startswith("8.0 Wh/mi is far from the 15.0 to 35.0 that a bicycle")


def test_what_was_kept_is_read_by_any_version():
    kept = Notice("limp_distance", limp_m=300.0).to_json()
    assert Notice.from_json(kept) == Notice("limp_distance", limp_m=300.0)
    assert Notice.from_json(kept).said(IMPERIAL).startswith("You rode 984 ft after the end")
    # 0.2 kept words alone; a later version may know another list.
    old = {"code": "limp_distance", "message": "300 m were ridden after the end."}
    assert Notice.from_json(old).said(IMPERIAL) == old["message"]
    later = {"code": "of_1.0", "severity": "note", "message": "As said then.", "values": {"a": 1}}
    assert Notice.from_json(later).message == "As said then."


@given(
    st.recursive(
        st.none() | st.booleans() | st.floats() | st.text(),
        lambda inner: st.lists(inner) | st.dictionaries(st.text(), inner),
    )
)
def test_whatever_stands_in_a_row_is_a_notice(kept):
    assert isinstance(Notice.from_json(kept).message, str)
    if isinstance(kept, dict):
        assert isinstance(Notice.from_json({"code": "pack_hot", "values": kept}).message, str)


def test_a_share_that_is_little_is_not_nought():
    def low(value):
        return Notice("compare_less_kept", which="A", share=0.1, low=value, high=0.2).message

    assert "(0.4% to" in low(0.004)
    assert "(0% to" in low(0.0)
    assert "(0% to" in low(0.0001)
    assert "(2% to" in low(0.02)


def test_what_fills_a_gap_and_who_is_who_are_codes_with_words():
    gap = {"gap_s": 300.0, "time_s": 600.0, "filled_wh": 12.0}
    said = [
        Notice("sample_gap", source=source, **gap).message.partition("filled in from ")[2]
        for source in ("energy_counter", "charge_counter", "distance", "mean_power")
    ]
    assert said == [
        "the meter’s own watt-hours.",
        "the meter’s own amp-hours.",
        "the distance and the miles around it.",
        "the mean power around it.",
    ]
    # As a version before this one kept it.
    kept = Notice("sample_gap", source="the mean power around it", **gap)
    assert kept.message.endswith("from the mean power around it.")
    share = {"share": 0.1, "low": 0.05, "high": 0.2}
    assert Notice("compare_less_range", which="side:second", **share).message.startswith(
        "The second"
    )
    assert Notice("compare_less_range", which="Tern", **share).message.startswith("Tern")
    found = Notice("compare_found", which="side:first", share=0.1).message
    assert "conditions the first had" in found


def test_a_sentence_without_its_values_is_no_sentence():
    with pytest.raises(KeyError, match="pack_hot lacks"):
        sentence("pack_hot", {"pack_c": 61.0}, METRIC)
    with pytest.raises(KeyError):
        sentence("no_such_thing", {}, METRIC)


def test_how_much_a_notice_matters_is_by_its_room():
    matters = {
        "pack_hot": "danger", "hangs_on_question": "caution", "no_distance": "advice",
        "reserve_assumed": "note", "verdict_plan": "note", "again_steady": "note",
    }  # fmt: skip
    assert {code: CODES[code].severity for code in matters} == matters
