"""What may be typed, property by property, through the API's own types."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from ninja import Schema
from pydantic import ValidationError

from server.typed import typed


class Form(Schema):
    mass_kg: typed("mass", gt=0, le=400) = None
    trip_m: typed("distance", ge=0) = None


@given(st.floats(0.001, 400, exclude_min=True))
@settings(max_examples=50)
def test_a_number_and_its_text_are_the_same(value):
    assert Form(mass_kg=f"{value!r} kg").mass_kg == pytest.approx(value)
    assert Form(mass_kg=value).mass_kg == value


@pytest.mark.parametrize("nothing", [None, "", "   "])
def test_nothing_typed_is_not_known(nothing):
    assert Form(mass_kg=nothing).mass_kg is None


@pytest.mark.parametrize(
    "refused", ["0 kg", "900 lb", "-3", float("inf"), float("nan"), "1e999 kg", [], True is None]
)
def test_what_is_out_of_bounds_or_no_number_is_refused(refused):
    with pytest.raises(ValidationError):
        Form(mass_kg=refused if refused is not False else object())


def test_bounds_are_in_the_cores_unit():
    assert Form(mass_kg="881 lb").mass_kg < 400
    assert Form(trip_m="0 mi").trip_m == 0.0


def test_the_schema_says_what_may_be_typed():
    described = Form.model_json_schema()["properties"]["mass_kg"]
    assert {part["type"] for part in described["anyOf"]} == {"number", "string", "null"}
    assert "80 kg or 176 lb" in described["description"]
