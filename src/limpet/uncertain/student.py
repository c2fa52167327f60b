"""Student's t, for intervals from a few values."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray


def student_quantile(probability: float, freedom: float) -> float:
    """The quantile of Student's t distribution.

    Parameters
    ----------
    probability : p, 0 to 1 [-]
    freedom : degrees of freedom, above 0 [-]

    Returns
    -------
    t with P(T <= t) = p, scalar

    Notes
    -----
    SciPy's `special.stdtrit`, which `stats.t.ppf` itself calls; loaded when it is asked for, since
    most questions need no t and the package takes a fifth of a second.
    """
    from scipy.special import stdtrit

    return float(stdtrit(freedom, probability))


def student_of(score: NDArray[np.float64], freedom: float) -> NDArray[np.float64]:
    """Standard normal numbers as those of Student's t that stand at the same quantiles.

    Parameters
    ----------
    score : shape (J,)
    freedom : degrees of freedom, above 0 [-]

    Returns
    -------
    shape (J,)
    """
    from scipy.special import ndtr, stdtrit

    return np.asarray(stdtrit(freedom, ndtr(score)))
