"""A ride that one meter counts in amp-hours and another in watt-hours took the same of its pack."""

from __future__ import annotations

import pytest

from limpet.evidence.model import Entry
from limpet.pack import curve_family
from limpet.read.evidence import read_test
from limpet.state.priors import NOTHING
from limpet.state.remaining import remaining_energy
from limpet.state.uncertain_inputs import metres_of_height
from limpet.tell import analyse
from tests.strategies import accuracies, range_test

METERS = accuracies(charge=0.5, energy=0.5, voltage=0.2, trip=1.0)


def counted(name: str, per_ah: float, charged_wh: float):
    """Six and a half amp-hours over 25 km, charged once on the way or not."""
    rows = [
        Entry(time_s=0, kind="start", trip_m=0.0, voltage_rest_v=54.4, **{name: 0.0}),
        Entry(time_s=3000, kind="checkpoint", trip_m=15_000.0, **{name: 4 * per_ah}),
    ]
    if charged_wh:
        charged = {"what": "charged", "charged_wh": charged_wh, name: 4 * per_ah}
        rows.append(Entry(time_s=9000, kind="event", trip_m=15_000.0, **charged))
    rows.append(Entry(time_s=12_000, kind="end", trip_m=25_000.0, **{name: 6.5 * per_ah}))
    return analyse(range_test(*rows, instruments=METERS))


@pytest.mark.parametrize("charged_wh", [0.0, 150.0])
def test_amp_hours_and_the_watt_hours_that_they_are_tell_the_same(charged_wh):
    by_charge = counted("charge_ah", 1.0, charged_wh)
    volts = by_charge.energy.value / 6.5
    # What was charged on the way was taken too, at the volts of such cells.
    assert volts == pytest.approx(counted("charge_ah", 1.0, 0.0).energy.value / 6.5, rel=0.03)
    by_energy = counted("energy_wh", volts, charged_wh)
    assert by_energy.energy.value == pytest.approx(by_charge.energy.value, rel=1e-3)
    used = by_charge.energy_used_fraction.value
    # What a pack loses by its resistance is in neither: 1 − lost is divided out, not multiplied in.
    assert by_energy.energy_used_fraction.value == pytest.approx(used, rel=0.01)
    assert by_energy.range_to_cutoff.value == pytest.approx(
        by_charge.range_to_cutoff.value, rel=0.01
    )


def test_a_height_that_nobody_noted_is_so_much_of_level_road():
    """By hand: 38 kg and the load that is assumed, 15 to 35 Wh/mi for a bicycle."""
    test = range_test()
    mass_kg = 38.0 + 78.0 + 5.0
    per_m = (15 * 35) ** 0.5 / 1609.344
    wh_per_m = mass_kg * 9.80665 / 0.80 / 3600
    found = metres_of_height(test)
    assert found * per_m / wh_per_m == pytest.approx(15.0, rel=1e-6)


def test_what_a_display_promises_is_worth_less_each_the_more_often_it_is_read():
    def std_of(times: int) -> float:
        rows = [Entry(time_s=0, kind="start", trip_m=0.0)]
        rows += [
            Entry(
                time_s=600.0 * (k + 1),
                kind="checkpoint",
                trip_m=1500.0 * (k + 1),
                shown_range_m=30_000.0 - 1500 * k,
            )
            for k in range(times)
        ]
        evidence = read_test(range_test(*rows), mean_v=3.7, under_way=True)
        family = curve_family("nmc")
        model = remaining_energy(evidence, [], family=family, priors=NOTHING, under_way=True).model
        return float(model.ride.shown.std[0])

    assert std_of(8) == pytest.approx(2 * std_of(2))
