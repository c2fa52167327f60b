"""Student's t, for intervals from a few values."""

from __future__ import annotations


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
