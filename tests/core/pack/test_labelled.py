"""A pack by its label alone, or not at all."""

from __future__ import annotations

import json

import pytest

from limpet.evidence.model import Entry
from limpet.files import bundle_files
from limpet.files.sheet import read_sheet
from limpet.pack.labelled import as_given, is_full_voltage, with_what_is_taken
from limpet.tell import analyse
from tests.strategies import range_test


def sheet_of(pack):
    document = {"bundle": 1, "title": "x", "vehicle": {"kind": "bicycle"}, "pack": pack}
    if pack == "absent":
        del document["pack"]
    return read_sheet(json.dumps(document).encode())[0]


# Common practice, no source: riders say 36 V for ten cells in series of a layered oxide, 48 V for
# thirteen, 52 V for fourteen, 60 V for sixteen; 48 V of LFP is fifteen, 51.2 V sixteen; 12 V of lead six.
@pytest.mark.parametrize(
    ("pack", "series"),
    [
        ({"nominal_v": 36, "rated_ah": 10}, 10),
        ({"nominal_v": 48, "rated_ah": 10}, 13),
        ({"nominal_v": 52, "rated_ah": 24}, 14),
        ({"nominal_v": 60, "rated_ah": 20}, 16),
        ({"full_v": 58.8}, 14),
        ({"chemistry": "lfp", "nominal_v": 51.2}, 16),
        ({"chemistry": "lead_acid_agm", "nominal_v": 36}, 18),
    ],
)
def test_cells_in_series_come_from_the_volts(pack, series):
    assert sheet_of(pack).pack.series == series


def test_amp_hours_come_from_watt_hours_and_what_was_taken_is_named():
    pack = sheet_of({"nominal_v": 52, "rated_wh": 1248}).pack
    assert pack.rated_ah == pytest.approx(24.0)
    assert set(pack.taken) == {"chemistry", "series", "rated_ah"}
    assert pack.knows_energy


@pytest.mark.parametrize("pack", ["absent", None, {}])
def test_a_pack_of_which_nothing_is_said_is_taken_and_says_so(pack):
    found = sheet_of(pack).pack
    assert set(found.taken) == {"chemistry", "series", "rated_ah"}
    assert not found.knows_energy


def test_what_was_taken_is_not_written_into_a_file():
    given = {"nominal_v": 52.0, "rated_ah": 24.0}
    assert as_given(with_what_is_taken(given)) == given
    test = range_test(Entry(time_s=0, kind="start"), pack=sheet_of(given).pack)
    written = json.loads(bundle_files(test)["test.json"])
    assert written["pack"] == given
    assert sheet_of(written["pack"]).pack == test.sheet.pack


def test_what_is_stored_filled_in_stays_as_it_is():
    stored = with_what_is_taken({"nominal_v": 52.0, "rated_ah": 24.0})
    assert with_what_is_taken({**stored, "taken": list(stored["taken"])}) == stored


def volts(pack):
    return range_test(
        Entry(time_s=0, kind="start", trip_m=0.0, voltage_rest_v=58.6),
        Entry(time_s=3000, kind="end", trip_m=12_000.0),
        Entry(time_s=3700, kind="settle", voltage_rest_v=52.4),
        pack=sheet_of(pack).pack,
    )


def test_range_is_told_without_a_label_and_energy_is_not():
    known, unknown = (
        analyse(volts(p)) for p in ({"nominal_v": 52, "rated_ah": 24}, {"nominal_v": 52})
    )
    assert known.energy is not None
    assert unknown.energy is None
    assert unknown.consumption is None
    assert unknown.pack.usable_energy_wh is None
    # Volts are of cells, whatever the pack holds.
    assert unknown.range_to_cutoff.value == pytest.approx(known.range_to_cutoff.value, rel=0.1)
    assert {"pack_taken", "pack_unlabelled"} <= {notice.code for notice in unknown.warnings}
    assert all(method.method not in ("rated", "rest_voltage") for method in unknown.energy_methods)


def test_a_meter_tells_energy_of_a_pack_without_a_label():
    test = range_test(
        Entry(time_s=0, kind="start", trip_m=0.0, voltage_rest_v=58.6, energy_wh=0.0),
        Entry(time_s=3000, kind="end", trip_m=12_000.0, energy_wh=180.0),
        pack=sheet_of({"nominal_v": 52}).pack,
    )
    result = analyse(test)
    assert result.energy.value == pytest.approx(180.0)
    assert result.pack.retained_fraction is None


def test_volts_of_a_full_pack_on_a_label_are_told_from_nominal_ones_by_layered_oxides_alone():
    """84 V is twenty cells of 4.2 V and no whole number of 3.6 V ones; 50.4 V is both (the trade's labels)."""
    assert is_full_voltage(84.0, "nmc")
    assert is_full_voltage(67.2, "nca")
    assert not is_full_voltage(50.4, "nmc")
    assert not is_full_voltage(72.0, "nmc")
    assert not is_full_voltage(84.0, "lfp")
    assert not is_full_voltage(84.0, "gold")
    assert with_what_is_taken({"chemistry": "nmc", "nominal_v": 84.0})["series"] == 20
    assert with_what_is_taken({"chemistry": "lfp", "nominal_v": 48.0})["series"] == 15
