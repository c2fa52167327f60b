"""Bounds for what comes next, from a few runs: of the next one, and of most of all that follow."""

from __future__ import annotations

from math import sqrt

from limpet.uncertain.student import student_quantile


def prediction_factor(runs: int, freedom: float, probability: float) -> float:
    """How many standard deviations under the mean the next run stays above with a probability.

    Parameters
    ----------
    runs : n, which the mean is of
    freedom : degrees of freedom of the standard deviation
    probability : of one side [-]

    Returns
    -------
    t_{p,ν}·√(1 + 1/n) (handbook section 12)
    """
    return student_quantile(probability, freedom) * sqrt(1 + 1 / runs)


def tolerance_factor(runs: int, freedom: float, share: float, certainty: float) -> float:
    """How many standard deviations under the mean a share of all runs stays above, as sure as is asked.

    Parameters
    ----------
    runs, freedom : as above
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
