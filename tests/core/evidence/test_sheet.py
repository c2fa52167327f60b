"""The list of what a sheet holds: whole, and out and in again without loss."""

from dataclasses import fields, is_dataclass
from typing import Any, get_args, get_origin, get_type_hints

import pytest
from hypothesis import given
from hypothesis import strategies as st

from limpet.evidence.model import TestSheet
from limpet.evidence.sheet import SHEET_PARTS, choices_of, item_at, values_of, with_values
from limpet.files.sheet import document_of, sheet_adapter
from limpet.pack.spec import PackSpec
from limpet.words import CHOICES

SHEET: dict[str, Any] = {
    "title": "Quay loop",
    "purpose": "claim",
    "tags": ["winter"],
    "vehicle": {"kind": "kick_scooter", "mass_kg": 22.0, "step_down": [{"below_v": 33.0, "max_speed_mps": 4.0}]},
    "pack": {"rated_ah": 10.4, "nominal_v": 36.0},
    "conditions": {"temp_start_c": 4.0, "surface": "gravel"},
    "instruments": {"lap": {"length_m": 1720.0}, "gauge": {"kind": "bars", "steps": 5}},
    "start": {"full": True},
}  # fmt: skip


def leaves(kind: type, path: tuple[str, ...] = ()) -> list[tuple[str, ...]]:
    """The paths of all that a dataclass of the sheet holds; rows and lists are leaves."""
    found = []
    hints = get_type_hints(kind)
    for item in fields(kind):
        hint = hints[item.name]
        parts = () if get_origin(hint) is tuple else (hint, *get_args(hint))
        inner = [part for part in parts if is_dataclass(part)]
        here = (*path, item.name)
        found += leaves(inner[0], here) if inner and isinstance(inner[0], type) else [here]
    return found


def test_every_leaf_of_the_sheet_is_in_the_list_once():
    # What a form never asks: the version of the format, what was guessed of a pack, where a file's streams lie.
    wanted = set(leaves(TestSheet)) - {
        ("bundle",),
        ("pack", "taken"),
        ("instruments", "streams"),
    }
    named = [item.path for part in SHEET_PARTS.values() for item in part.items]
    assert set(named) == wanted
    assert len(named) == len(set(named))


def test_names_are_unique_in_their_part_and_choices_are_those_of_the_model():
    for part in SHEET_PARTS.values():
        names = [item.name for item in part.items]
        assert len(names) == len(set(names)), part.name
    adapter = sheet_adapter()
    for part in SHEET_PARTS.values():
        for item in part.items:
            # Each has its words in a form, and none more.
            assert set(choices_of(item)) == set(CHOICES.get(item.choices, ()))
            for choice in choices_of(item):
                document = with_values(SHEET, part, {item.name: choice})
                adapter.validate_python(document)


@pytest.mark.parametrize("name", sorted(SHEET_PARTS))
def test_a_part_that_is_put_back_as_it_was_changes_nothing(name: str):
    document = document_of(sheet_adapter().validate_python(SHEET))
    part = SHEET_PARTS[name]
    again = with_values(document, part, values_of(document, part))
    assert document_of(sheet_adapter().validate_python(again)) == document


def test_a_part_is_set_and_emptied_and_the_rest_stays():
    part = SHEET_PARTS["conditions"]
    found = with_values(SHEET, part, {"temp_start_c": -3.0, "surface": None})
    assert found["conditions"] == {"temp_start_c": -3.0}
    assert found["instruments"] == SHEET["instruments"]
    assert SHEET["conditions"] == {"temp_start_c": 4.0, "surface": "gravel"}
    emptied = with_values(found, part, {"temp_start_c": None})
    assert "conditions" not in emptied


def test_what_was_taken_of_a_pack_is_not_shown_and_is_taken_anew():
    document = document_of(sheet_adapter().validate_python(SHEET))
    part = SHEET_PARTS["pack"]
    assert values_of(document, part)["series"] is None
    changed = with_values(document, part, {"nominal_v": 52.0})
    pack: PackSpec = sheet_adapter().validate_python(changed).pack
    assert pack.series == 14
    assert "series" in pack.taken


def test_a_fault_finds_its_field():
    found = item_at(("instruments", "gauge", "steps"))
    assert found is not None
    assert (found[0].name, found[1].name) == ("gauge", "gauge_steps")
    assert item_at(("nothing", "such")) is None


@given(st.dictionaries(st.sampled_from(sorted(SHEET_PARTS)), st.none(), max_size=4))
def test_emptying_parts_leaves_a_sheet_that_reads(emptied: dict[str, None]):
    document = SHEET
    for name in emptied:
        part = SHEET_PARTS[name]
        nothing = {item.name: None for item in part.items if not item.needed}
        document = with_values(document, part, nothing)
    sheet = sheet_adapter().validate_python(document)
    assert sheet.title == "Quay loop"
    assert sheet.vehicle.kind == "kick_scooter"
