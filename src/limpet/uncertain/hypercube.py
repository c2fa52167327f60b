"""Points that fill a space evenly: few draws, and the whole of every distribution."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

FloatArray = NDArray[np.float64]


def latin_hypercube(inputs: int, count: int, rng: np.random.Generator) -> FloatArray:
    """Points of the unit cube with one in every row and column of each pair of inputs.

    Parameters
    ----------
    inputs : columns
    count : points
    rng : the only source of chance

    Returns
    -------
    shape (count, inputs), within 0 to 1

    Notes
    -----
    The same points as SciPy's `stats.qmc.LatinHypercube` from the same generator (a test holds
    them together); importing that package takes longer than the forecast.
    """
    # A generator of its own, as there: what is drawn afterwards does not depend on this.
    own = rng.spawn(1)[0]
    within = own.uniform(size=(count, inputs))
    places = np.tile(np.arange(1, count + 1), (inputs, 1))
    for row in places:
        own.shuffle(row)
    return np.asarray((places.T - within) / count)
