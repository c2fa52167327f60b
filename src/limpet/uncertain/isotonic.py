"""The rising sequence nearest to some values."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

FloatArray = NDArray[np.float64]


def isotonic(values: FloatArray, weight: FloatArray) -> FloatArray:
    """The rising sequence nearest to values by weighted least squares (pool adjacent violators).

    Parameters
    ----------
    values, weight : shape (n,)

    References
    ----------
    R. E. Barlow et al., Statistical Inference under Order Restrictions (1972); from memory. A test
    holds it against SciPy's `optimize.isotonic_regression`.
    """
    blocks: list[tuple[float, float, int]] = []
    for value, mass in zip(values.tolist(), weight.tolist(), strict=True):
        mean, total, count = value, mass, 1
        while blocks and blocks[-1][0] >= mean:
            before, mass_before, number = blocks.pop()
            mean = (before * mass_before + mean * total) / (mass_before + total)
            total, count = total + mass_before, count + number
        blocks.append((mean, total, count))
    return np.repeat([mean for mean, _, _ in blocks], [count for _, _, count in blocks])
