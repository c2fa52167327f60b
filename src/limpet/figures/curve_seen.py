"""What a ride saw of its pack's own curve, for the pack's next rides."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from limpet.figures.findings import Findings
from limpet.pack.family import PUBLISHED
from limpet.read.line import METERED

#: A curve is seen by a ride that took this share of the pack at least, and left what tells it from others this much
#: narrower, as a share of what it was, the mean over the numbers [-] (assumptions).
LEAST_USED, NARROWED = 0.5, 0.9


@dataclass(frozen=True, slots=True, kw_only=True)
class CurveSeen:
    """Mean (m,) and covariance (m, m) of the numbers that tell this pack's curve from others of its family."""

    mean: tuple[float, ...]
    covariance: tuple[tuple[float, ...], ...]


def curve_seen(found: Findings, used: str | None, share: float | None) -> CurveSeen | None:
    """What a metered ride left of its pack's curve; None of one that tells none, or that was told it.

    Parameters
    ----------
    found : of one pack's ride whose readings do not contradict each other
    used : the method that tells its energy
    share : of the pack that it took [-]
    """
    model = found.remaining.model
    family = model.family
    if family.source != PUBLISHED or found.contradiction is not None:
        return None
    if used not in METERED or share is None or share < LEAST_USED or len(model.ride.ended) > 1:
        return None
    first = model.rows["curve_1"]
    scores = found.remaining.posterior.scores[first : first + family.modes]
    covariance = np.atleast_2d(np.cov(scores))
    if float(np.sqrt(np.diag(covariance)).mean()) > NARROWED:
        return None
    return CurveSeen(
        mean=tuple(float(value) for value in scores.mean(axis=1)),
        covariance=tuple(tuple(float(value) for value in row) for row in covariance),
    )
