"""The examples of the GUM and of its supplement 1, by the core's inputs, draws and quantities.

Sources: JCGM 100:2008, annexes H.1 and H.3; JCGM 101:2008, 9.2 (values from memory).
"""

from __future__ import annotations

from math import sqrt

import numpy as np
import pytest

from limpet.quantity import Quantity
from limpet.uncertain.hypercube import latin_hypercube
from limpet.uncertain.input import Input
from limpet.uncertain.normal import normal_quantile
from limpet.uncertain.posterior import Observation, infer

DRAWS = 40_000


def drawn(*inputs, seed=1):
    """Each input's draws, shape (n, J)."""
    cube = latin_hypercube(len(inputs), DRAWS, np.random.default_rng(seed))
    scores = normal_quantile(cube)
    return np.stack([item.drawn(scores[:, k]) for k, item in enumerate(inputs)])


def of(value, std, shape="normal"):
    return Input(name="x", value=value, standard_uncertainty=std, source="GUM", shape=shape)


@pytest.mark.parametrize(
    ("inputs", "std", "half"),
    [
        # JCGM 101, 9.2.2: four standard normal inputs, added.
        ([of(0, 1)] * 4, 2.0, 3.92),
        # 9.2.3: four rectangular ones of the same u: the law of propagation would say 3.92.
        ([of(0, 1, "rectangular")] * 4, 2.0, 3.88),
        # 9.2.4: one of them ten times as wide rules; the law of propagation would say 19.9.
        ([*[of(0, 1, "rectangular")] * 3, of(0, 10, "rectangular")], 10.1, 17.0),
    ],
)
def test_additive_models_of_supplement_1(inputs, std, half):
    total = Quantity.from_draws(drawn(*inputs).sum(axis=0), "1", 0.0)
    assert total.standard_uncertainty == pytest.approx(std, rel=0.01)
    assert total.high == pytest.approx(half, rel=0.015)
    assert total.low == pytest.approx(-half, rel=0.015)


def test_the_end_gauge_of_h_1():
    # l = l_s + d − l_s·(δα·θ + α_s·δθ), lengths in nm. First order gives 32 nm, with the terms of second order
    # (H.1.7) 34 nm, which is what draws must find.
    standard, difference, temp, expansion, d_expansion, d_temp = drawn(
        of(50_000_623, 25),
        of(215, 9.7),
        of(-0.1, 0.41),
        of(11.5e-6, 1e-6 * 2 / sqrt(3), "rectangular"),
        of(0.0, 0.58e-6, "rectangular"),
        of(0.0, 0.029, "rectangular"),
    )
    length = standard + difference - standard * (d_expansion * temp + expansion * d_temp)
    found = Quantity.from_draws(length, "nm", 50_000_838.0)
    assert float(np.median(length)) == pytest.approx(50_000_838, abs=1)
    assert found.standard_uncertainty == pytest.approx(34, abs=1)


def test_the_calibration_line_of_h_3():
    # A thermometer's corrections at eleven temperatures: intercept −0.1712 ±0.0029 °C at 20 °C, slope
    # 0.00218 ±0.00067, correlation −0.930, s = 0.0035 °C; the correction at 30 °C −0.1494 ±0.0041.
    at = np.array(
        [21.521, 22.012, 22.512, 23.003, 23.507, 23.999, 24.513, 25.002, 25.503, 26.010, 26.511]
    )
    read = np.array(
        [-0.171, -0.169, -0.166, -0.159, -0.164, -0.165, -0.156, -0.157, -0.159, -0.161, -0.160]
    )
    s, wide = 0.0035, np.array([0.2, 0.05])

    def look(scores):
        line = scores[0] * wide[0] + scores[1] * wide[1] * (at[:, None] - 20)
        residual = (line - read[:, None]) / s
        nothing = np.zeros_like(residual)
        return Observation(residual=residual, place=nothing, slope=nothing)

    found = infer(look, 2, 4000, 2)
    intercept, slope = found.scores * wide[:, None]
    assert intercept[0] == pytest.approx(-0.1712, abs=2e-4)
    assert slope[0] == pytest.approx(0.00218, abs=5e-5)
    assert intercept.std() == pytest.approx(0.0029, rel=0.05)
    assert slope.std() == pytest.approx(0.00067, rel=0.05)
    assert np.corrcoef(intercept, slope)[0, 1] == pytest.approx(-0.930, abs=0.01)
    at_30 = intercept + 10 * slope
    assert at_30[0] == pytest.approx(-0.1494, abs=2e-4)
    assert at_30.std() == pytest.approx(0.0041, rel=0.06)
