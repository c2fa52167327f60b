"""What headings mean, units as loggers spell them, a pack in a rider's words."""

import numpy as np
import pytest

from limpet.errors import UnitError
from limpet.foreign.checks import counted, mean_over, middle_of, product_ratio, running, slope_of
from limpet.foreign.kinds import told
from limpet.foreign.pack_words import pack_in_words
from limpet.foreign.quantities import meaning_of
from limpet.foreign.text import as_utf8
from limpet.foreign.units import unit_in, unit_of


@pytest.mark.parametrize(
    ("heading", "quantity", "unit"),
    [
        ("Battery voltage [V]", "voltage_v", "V"),
        ("battCurrent_A", "current_a", "A"),
        ("Akkustrom (A)", "current_a", "A"),
        ("Trip A", "distance_m", ""),
        ("km/h", "speed_mps", "km/h"),
        ("Wh/km", None, "Wh/km"),
        ("Motor current (A)", None, "A"),
        ("Max. speed (km/h)", None, "km/h"),
        ("Lowest cell (V)", "cell_min_v", "V"),
        ("Controller temp", "controller_temp_c", ""),
        ("Temp C", "battery_temp_c", "C"),
        ("Remaining Ah", "charge_left_ah", "Ah"),
        ("Charge (%)", "gauge", "%"),
        ("Charge (Ah)", "charge_ah", "Ah"),
        ("Höhe (m)", "altitude_m", "m"),
        ("heart rate", None, ""),
        ("voltage_v", "voltage_v", "V"),
    ],
)
def test_a_heading_means_what_its_words_and_its_unit_say(heading, quantity, unit):
    found = meaning_of(heading)
    assert (found.quantity, found.unit) == (quantity, unit)


def test_cells_and_packs_are_counted():
    assert (meaning_of("Cell 07 (V)").cell, meaning_of("c12").cell) == (7, 12)
    assert (meaning_of("Battery 2 voltage (V)").pack, meaning_of("Pack 1 current (A)").pack) == (
        2,
        1,
    )


def test_units_of_headings():
    assert unit_in("Speed, km/h") == ("km/h", "Speed")
    assert unit_in("Voltage in V") == ("V", "Voltage")
    assert unit_of("°C", "temperature") == ("temperature", "°c")
    assert unit_of("C", "temperature") == ("temperature", "c")
    assert unit_of("parsec") is None


@pytest.mark.parametrize(
    ("words", "pack"),
    [
        ("13s 14Ah NMC", {"series": 13, "rated_ah": 14.0, "chemistry": "nmc"}),
        ("13s4p 14 Ah", {"series": 13, "parallel": 4, "rated_ah": 14.0}),
        ("48V 10,4Ah", {"nominal_v": 48.0, "rated_ah": 10.4}),
        ("LiFePO4 16s 1.2kWh", {"chemistry": "lfp", "series": 16, "rated_wh": 1200.0}),
    ],
)
def test_a_pack_in_a_riders_words(words, pack):
    assert pack_in_words(words) == pack


@pytest.mark.parametrize("words", ["", "13q", "big", "x" * 200])
def test_words_that_are_no_pack_are_refused(words):
    with pytest.raises(UnitError):
        pack_in_words(words)


def test_columns_held_against_one_another():
    time = np.arange(0, 3600.0)
    amps = 4 + np.sin(time / 40)
    volts = 54 - time / 1000
    summed = running(time, amps) / 3600
    # 4 A for an hour; the sine's hour is near nought (closed form: (1 - cos 90)·40/3600).
    assert summed[-1] == pytest.approx(4 + 40 * (1 - np.cos(3599 / 40)) / 3600, abs=2e-3)
    assert slope_of(1000 * summed, summed)[0] == pytest.approx(1000)
    assert product_ratio(volts * amps / 1000, volts, amps) == pytest.approx((1e-3, 1.0))
    assert product_ratio(np.cos(time) * 100, volts, amps)[1] < 0.5
    assert counted(np.array([0.0, 1, 2, 3, 0, 1, 2]))[-1] == pytest.approx(5)
    assert np.isnan(middle_of(np.full(3, np.nan)))
    assert mean_over([np.array([1.0, np.nan]), np.array([3.0, np.nan])])[0] == 2


@pytest.mark.parametrize(
    "encoding", ["utf-8", "utf-8-sig", "utf-16", "utf-16-le", "utf-16-be", "cp1252"]
)
def test_text_of_every_encoding_is_read(encoding):
    text = "Höhe (m);Größe\n1;2\n" * 50
    assert as_utf8(text.encode(encoding))[0].decode() == text


def test_a_file_is_told_by_what_it_holds_and_not_by_its_name():
    assert told("ride.csv", b"<?xml version='1.0'?><gpx><trk/></gpx>").form == "gpx"
    assert told("ride.gpx", b"a,b\n1,2\n3,4\n").what == "table"
    assert told("x.bin", b"\xff\xd8\xff\xe0").what == "picture"
    assert told("x", b'{"type": "FeatureCollection", "features": []}').form == "geojson"
