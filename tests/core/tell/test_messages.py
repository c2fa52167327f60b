"""What a result says of what it took: only what it took, and only where it was used."""

from dataclasses import replace

import pytest

from limpet.evidence.model import Conditions, Entry
from limpet.tell import analyse
from tests.strategies import range_test


def told(*entries):
    return {notice.code for notice in analyse(range_test(*entries)).warnings}


START = Entry(time_s=0, kind="start", trip_m=0.0, charge_ah=0.0, voltage_rest_v=54.4)


def end(**values):
    return Entry(time_s=3600, kind="end", trip_m=20_000.0, **values)


def test_a_reserve_that_was_assumed_is_told_only_where_it_was_used():
    bare = Entry(time_s=0, kind="start", trip_m=0.0)
    assert "reserve_assumed" not in told(bare, end())
    assert "reserve_assumed" in told(bare, end(voltage_rest_v=47.0))


def test_energy_of_the_label_is_told_only_where_no_meter_ran():
    assert "energy_from_label" in told(START, end(voltage_rest_v=47.0))
    assert "energy_from_label" not in told(START, end(voltage_rest_v=47.0, charge_ah=9.0))


@pytest.mark.parametrize(("temp_c", "colder"), [(22.0, False), (2.0, True)])
def test_what_the_cold_took_of_the_pack_is_told_of_a_cold_day(temp_c, colder):
    air = Conditions(temp_start_c=temp_c, temp_end_c=temp_c)
    test = range_test(
        START, end(voltage_rest_v=46.0, charge_ah=11.0), purpose="temperature", conditions=air
    )
    codes = {notice.code for notice in analyse(test).verdict}
    assert "verdict_temperature" in codes
    assert ("verdict_temperature_pack" in codes) is colder


def test_what_was_said_when_a_file_was_read_is_not_said_twice():
    test = range_test(Entry(time_s=0, kind="start", trip_m=0.0), end(voltage_rest_v=47.0))
    (assumed,) = [notice for notice in analyse(test).warnings if notice.code == "start_unsaid"]
    again = analyse(replace(test, notices=(assumed,))).warnings
    assert again.count(assumed) == 1
