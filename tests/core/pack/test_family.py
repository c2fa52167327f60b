"""A chemistry's family of curves: it holds its sets, and its tables are integrals and slopes of volts."""

import numpy as np
import pytest
from scipy.integrate import simpson

from limpet.pack import curve_family
from limpet.pack.family import BOTTOM_TOP_V, SETS
from limpet.pack.sets import read_set


def curves(chemistry="nmc", seed=1, count=200):
    family = curve_family(chemistry)
    modes = np.random.default_rng(seed).standard_normal((family.modes, count))
    return family, family.drawn(modes)


@pytest.mark.parametrize("stem", SETS["nmc"])
def test_every_set_is_a_member_of_its_family(stem):
    # The score of a set along each mode is within what a standard normal number is.
    family = curve_family("nmc")
    z, volts = read_set(stem)
    bottom, top = np.interp(BOTTOM_TOP_V["nmc"], volts, z)
    inside = np.linspace(0.01, 0.99, 99)
    mine = np.interp(bottom + inside * (top - bottom), z, volts)
    grid = np.stack(
        [
            family.drawn(np.eye(family.modes)[:, [k]]).voltage(inside[:, None])[:, 0]
            for k in range(family.modes)
        ]
    )
    mean = family.drawn(np.zeros((family.modes, 1))).voltage(inside[:, None])[:, 0]
    scores, _left, *_ = np.linalg.lstsq((grid - mean).T, mine - mean, rcond=None)
    assert abs(scores).max() < 2.0
    fit = mean + (grid - mean).T @ scores
    assert fit == pytest.approx(mine, abs=0.004)


def test_energy_is_the_integral_of_volts():
    _, drawn = curves(count=1)
    z = np.array([[0.05], [0.4], [0.9]])
    expected = [
        simpson(drawn.voltage(np.linspace(0, at, 4001)[:, None])[:, 0], x=np.linspace(0, at, 4001))
        for at in z[:, 0]
    ]
    assert drawn.energy(z)[:, 0] == pytest.approx(expected, abs=2e-4)


@pytest.mark.parametrize("chemistry", ["nmc", "lfp", "lead_acid_agm", "lmo", None])
def test_what_a_cell_shows_is_read_backwards(chemistry):
    _, drawn = curves(chemistry)
    z = np.linspace(0.15, 0.9, 200)
    volts = drawn.voltage(z[None])[0]
    back = drawn.charge_at_voltage(volts)
    # On a plateau a place is as good as its volts.
    assert drawn.voltage(back[None])[0] == pytest.approx(volts, abs=0.015)
    stored = drawn.energy(z[None])
    assert drawn.charge_at_energy(stored)[0] == pytest.approx(z, abs=1e-5)


def test_under_load_the_same_volts_mean_more_charge():
    _, drawn = curves()
    cell = np.full(200, 3.5)
    rest, pulling = drawn.charge_at_voltage(cell), drawn.charge_at_voltage(cell, sag_v=0.1)
    assert (pulling > rest).all()
    weak = drawn.charge_at_voltage(np.full(200, 3.2), sag_v=0.1, more_v=0.2, more_z=0.08)
    assert (weak > drawn.charge_at_voltage(np.full(200, 3.2), sag_v=0.1)).all()


def test_slopes_are_those_of_the_volts():
    _, drawn = curves(count=1)
    z = np.array([[0.3], [0.6]])
    by_hand = (drawn.voltage(z + 0.02) - drawn.voltage(z - 0.02)) / 0.04
    assert drawn.slope(z) == pytest.approx(by_hand, rel=1e-3)


def test_a_set_can_be_left_out():
    whole, less = curve_family("nmc"), curve_family("nmc", without="nmc811_chen2020")
    assert less.modes == whole.modes - 1
    assert curve_family("lfp", without="lfp_prada2013").modes == curve_family("lfp").modes


def test_an_unknown_chemistry_is_taken_for_a_layered_oxide():
    assert curve_family(None).mean_v == curve_family("nmc").mean_v
