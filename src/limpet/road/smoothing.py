"""A Gaussian drawn over a row of numbers."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

FloatArray = NDArray[np.float64]

#: The kernel ends at so many standard deviations, where it is below 1e-3 of its middle.
TRUNCATED_AT = 4.0


def gaussian_smoothed(values: FloatArray, sigma: float) -> FloatArray:
    """Values weighted with their neighbours by a Gaussian; the ends go on as they are.

    Parameters
    ----------
    values : x at even spacing, shape (n,), n >= 1
    sigma : σ of the kernel, in steps of the row, above 0

    Returns
    -------
    x smoothed, shape (n,)

    Notes
    -----
    The same numbers as SciPy's `ndimage.gaussian_filter1d` with mode "nearest" (a test holds them
    together); written out because importing that package takes longer than most analyses.
    """
    radius = int(TRUNCATED_AT * sigma + 0.5)
    if radius == 0:
        return values.astype(np.float64, copy=True)
    steps = np.arange(-radius, radius + 1)
    kernel = np.exp(-0.5 * (steps / sigma) ** 2)
    kernel /= kernel.sum()
    return np.convolve(np.pad(values, radius, mode="edge"), kernel, mode="valid")
