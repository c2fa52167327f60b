"""What may be typed, property by property, through the API's own types."""

from typing import Annotated

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from ninja import Schema
from pydantic import Field, ValidationError

from limpet.bounds import Span
from limpet.fields import FormField
from limpet.units import LONGEST_TYPED
from server.wire.typed import Held, Line, Lines, Typed


def field(kind, low, high):
    return FormField(name="x", label="X", span=Span(kind=kind, low=low, high=high))


MASS = field("mass", 0.1, 400)


class Form(Schema):
    mass_kg: Annotated[float | None, Typed(MASS)] = None
    trip_m: Annotated[float | None, Typed(field("distance", 0, 1e7))] = None


class Needed(Schema):
    mass_kg: Annotated[float, Typed(MASS)]
    share: Annotated[float, Held(field("share", 0, 1))] = 0.5
    name: Annotated[Line, Field(min_length=1, max_length=10)] = "a"
    note: Annotated[Lines, Field(max_length=20)] = ""


@given(st.floats(0.1, 400))
@settings(max_examples=50)
def test_a_number_and_its_text_are_the_same(value):
    assert Form(mass_kg=f"{value:.12f} kg").mass_kg == pytest.approx(value)
    assert Form(mass_kg=value).mass_kg == value
    assert Needed(mass_kg=value).mass_kg == value


@pytest.mark.parametrize("nothing", [None, "", "   "])
def test_nothing_typed_is_not_known_where_that_may_be(nothing):
    assert Form(mass_kg=nothing).mass_kg is None
    with pytest.raises(ValidationError, match="is needed; write it like 80 kg"):
        Needed(mass_kg=nothing)


REFUSED = ["0 kg", "900 lb", "-3", "44 V", "heavy", float("inf"), float("nan"), "1e999 kg", [], True, "9" * 100]  # fmt: skip


@pytest.mark.parametrize("refused", REFUSED)
@pytest.mark.parametrize("form", [Form, Needed])
def test_what_is_out_of_bounds_or_no_number_is_refused(form, refused):
    with pytest.raises(ValidationError):
        form(mass_kg=refused)


def test_bounds_are_in_the_cores_unit_and_hold_their_edges():
    assert Form(mass_kg="881 lb").mass_kg < 400
    assert Form(trip_m="0 mi").trip_m == 0.0
    assert Needed(mass_kg=400).mass_kg == 400
    with pytest.raises(ValidationError):
        Needed(mass_kg=400.001)
    with pytest.raises(ValidationError):
        Needed(mass_kg=1, share=1.01)


def test_the_schema_says_what_may_be_typed():
    described = Form.model_json_schema()["properties"]["mass_kg"]
    assert {part["type"] for part in described["anyOf"]} == {"number", "string", "null"}
    assert "80 kg or 176 lb" in described["description"]
    needed = Needed.model_json_schema()["properties"]["mass_kg"]
    assert [part["type"] for part in needed["anyOf"]] == ["number", "string"]
    assert needed["anyOf"][1]["maxLength"] == LONGEST_TYPED


@pytest.mark.parametrize("text", ["a\x00b", "a\x07", "\ud800", "x" * 11])
def test_words_hold_no_control_characters_and_have_a_length(text):
    with pytest.raises(ValidationError):
        Needed(mass_kg=1, name=text)


def test_a_note_may_have_lines_and_a_name_not():
    assert Needed(mass_kg=1, note="one\ntwo").note == "one\ntwo"
    with pytest.raises(ValidationError, match="control character 0xa"):
        Needed(mass_kg=1, name="one\ntwo")
