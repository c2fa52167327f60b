"""The one list of readings: what reads it agrees with it."""

from __future__ import annotations

from dataclasses import fields

import pytest

from limpet.evidence.columns import ENTRY_COLUMNS, ENTRY_LABELS, label_of
from limpet.evidence.model import Entry
from limpet.fields import FORMS, FormField, bounds_in
from limpet.readers import METRIC, ReaderUnits, in_unit, reader_table, shown_in
from limpet.units import CORE_UNITS, factor_and_zero

IMPERIAL = ReaderUnits(distance="mi", mass="lb", temperature="°F", pressure="psi")
FIELDS = [field for form in FORMS.values() for field in form.values()]


def test_an_entry_holds_what_the_list_says():
    assert {item.name for item in fields(Entry)} - {"extra"} == set(ENTRY_COLUMNS)


def test_every_number_of_an_entry_has_a_name_for_riders():
    wordless = {name for name, item in ENTRY_COLUMNS.items() if not item.is_text} - set(
        ENTRY_LABELS
    )
    # Read from files and kept; forms ask for them when there is something to say about them.
    unasked = {"pack", "speedometer_mps", "wind_mps", "wind_from_deg", "charged_wh", "charged_s"}
    assert wordless == {"time_s"} | unasked
    assert label_of("trip_m") == "trip meter"
    assert label_of("altitude_m") == "altitude_m"


@pytest.mark.parametrize("field", FIELDS, ids=lambda field: field.name)
def test_every_field_says_its_bounds_in_every_readers_unit(field: FormField):
    assert field.label
    for units in (METRIC, IMPERIAL):
        text = bounds_in(field, units)
        assert " to " in text
        assert "e+" not in text
        if field.shown == "unit":
            assert text.endswith(field.unit or shown_in(field.span.kind, units)[0])
    if field.unit:
        factor_and_zero(field.unit, field.span.kind)
    if field.example is not None:
        assert field.span.holds(field.example)


def test_bounds_are_said_as_riders_write_them():
    by_name = {form: FORMS[form] for form in FORMS}
    assert bounds_in(by_name["vehicle"]["mass_kg"], METRIC) == "1 to 2,000 kg"
    assert bounds_in(by_name["vehicle"]["mass_kg"], IMPERIAL) == "2.205 to 4,409 lb"
    assert bounds_in(by_name["leg"]["length_m"], IMPERIAL) == "above 0 to 1,243 mi"
    assert bounds_in(by_name["trip"]["temp_c"], IMPERIAL) == "-40 to 122 °F"
    assert bounds_in(by_name["pack"]["resistance_ohm"], METRIC) == "0.1 to 20,000 mΩ"
    assert bounds_in(by_name["trip"]["reserve"], METRIC) == "0 to 99%"
    assert bounds_in(by_name["trip"]["wind_from_deg"], METRIC) == "0 to 360"


def test_the_table_of_units_goes_both_ways():
    for kind, line in reader_table().items():
        assert kind in CORE_UNITS
        for way in line["units"].values():
            there = in_unit(kind, 12.5, way["unit"])
            assert there * way["factor"] + way["zero"] == pytest.approx(12.5)
