"""A bound that most of all runs that follow stay above, from a few of them."""

from __future__ import annotations

from math import sqrt


def tolerance_factor(runs: int, freedom: float, share: float, certainty: float) -> float:
    """How many standard deviations under the mean a share of all runs stays above, as sure as is asked.

    Parameters
    ----------
    runs : n, which the mean is of
    freedom : degrees of freedom of the standard deviation
    share : of all runs that are to come [-]
    certainty : the chance that the bound is one [-]

    Returns
    -------
    The quantile of the non-central t with δ = z_share·√n, over √n (NIST/SEMATECH e-Handbook 7.2.6.3)
    """
    # Loaded when it is asked for: most questions need none (see `student_quantile`).
    from scipy.special import nctdtrit, ndtri

    delta = float(ndtri(share)) * sqrt(runs)
    return float(nctdtrit(freedom, delta, certainty)) / sqrt(runs)
