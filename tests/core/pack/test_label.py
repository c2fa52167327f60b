import pytest

from limpet.pack import PackSpec, capacity_factor, full_energy_wh, voltage_limits
from tests.strategies import PACK


def test_rated_energy_is_the_labels_or_charge_times_the_mean_voltage():
    assert full_energy_wh(PackSpec(chemistry="nmc", series=13, rated_ah=14, rated_wh=650)) == 650
    # Mean voltage of the NMC family's curve, 3.717 V (PyBaMM sets), × 13 × 14 Ah.
    assert full_energy_wh(PACK) == pytest.approx(13 * 14 * 3.717, rel=1e-3)
    # Bode's curve between 1.93 and 2.14 V has a mean of 2.037 V.
    lead = PackSpec(chemistry="lead_acid_agm", series=6, rated_ah=12)
    assert full_energy_wh(lead) == pytest.approx(6 * 12 * 2.037, rel=2e-3)


def test_an_unknown_cutoff_is_the_chemistrys_floor_and_says_so():
    # Handbook section 8: LFP 2.5 V (common practice, no source).
    limits = voltage_limits(PackSpec(chemistry="lfp", series=16, rated_ah=20))
    assert limits == (pytest.approx(16 * 3.6), 16 * 2.5, True)
    assert voltage_limits(PACK) == (54.6, 39.0, False)


@pytest.mark.parametrize(
    ("chemistry", "temp_c", "factor"),
    # Handbook section 5, from memory of makers' data; between points, the straight line.
    [("nmc", 25, 1.0), ("nmc", 0, 0.9), ("nca", -10, 0.8), ("lfp", 5, 0.895), ("lfp", 40, 1.0)],
)
def test_cold_takes_capacity(chemistry, temp_c, factor):
    assert capacity_factor(chemistry, temp_c) == pytest.approx(factor)
