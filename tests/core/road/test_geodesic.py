"""Track lengths against GeographicLib."""

import numpy as np
import pytest
from geographiclib.geodesic import Geodesic

from limpet.road import step_lengths_m


def test_steps_are_geographiclibs():
    # geographiclib 2.1, Geodesic.WGS84.Inverse: Karney (2013), good to 15 nm.
    rng = np.random.default_rng(7)
    latitude = np.concatenate([rng.uniform(-80, 80, 40), [0.0, 0.0, 47.5, 47.5001]])
    longitude = np.concatenate([rng.uniform(-180, 180, 40), [179.9, -179.9, -24.5, -24.5]])
    expected = [
        Geodesic.WGS84.Inverse(latitude[k], longitude[k], latitude[k + 1], longitude[k + 1])["s12"]
        for k in range(len(latitude) - 1)
    ]
    assert step_lengths_m(latitude, longitude) == pytest.approx(expected, abs=1e-6)


def test_a_single_fix_has_no_length():
    assert len(step_lengths_m(np.array([47.5]), np.array([-24.5]))) == 0
