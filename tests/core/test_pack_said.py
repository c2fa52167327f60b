"""A pack in a rider's own words. Worked by hand; what such texts mean is common practice, no source."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from limpet.pack.label import full_energy_wh
from limpet.pack.said import LONGEST_SAID, understood


@pytest.mark.parametrize(
    ("text", "values"),
    [
        ("52 V 24 Ah", {"nominal_v": 52.0, "rated_ah": 24.0}),
        ("2.7 kWh", {"rated_wh": 2700.0}),
        ("10s3p of 3.0 Ah cells", {"series": 10, "parallel": 3, "rated_ah": 9.0}),
        ("10S3P 3000mAh cells", {"series": 10, "parallel": 3, "rated_ah": 9.0}),
        ("13s4p 14 Ah", {"series": 13, "parallel": 4, "rated_ah": 14.0}),
        ("13s 4p, 3,5 Ah", {"series": 13, "parallel": 4, "rated_ah": 14.0}),
        ("36V 10.4Ah 374Wh", {"nominal_v": 36.0, "rated_ah": 10.4, "rated_wh": 374.0}),
        ("48 V 12 Ah LiFePO4", {"nominal_v": 48.0, "rated_ah": 12.0, "chemistry": "lfp"}),
        ("72 V lead acid 20Ah", {"nominal_v": 72.0, "rated_ah": 20.0, "chemistry": "lead_acid_flooded"}),
        ("not known", {}),
        ("", {}),
        # What no pack has is not understood, not kept.
        ("52000 V 24 Ah", {"rated_ah": 24.0}),
    ],
)  # fmt: skip
def test_what_riders_say(text: str, values: dict[str, object]):
    assert understood(text).values == values


def test_what_was_not_said_is_taken_and_named():
    spec = understood("52 V 24 Ah").spec
    assert (spec.series, spec.chemistry, spec.taken) == (14, "nmc", ("chemistry", "series"))
    assert full_energy_wh(spec) == pytest.approx(24 * 52, rel=0.03)
    assert set(understood("").spec.taken) == {"chemistry", "series", "rated_ah"}
    by_energy = understood("2.7 kWh").spec
    assert full_energy_wh(by_energy) == 2700


def test_words_that_mean_nothing_are_named():
    assert understood("52 V 24 Ah from the shed").left == ("from", "shed")


@given(st.text(max_size=LONGEST_SAID * 2))
def test_no_text_breaks_it(text: str):
    said = understood(text)
    assert said.spec.series >= 1
