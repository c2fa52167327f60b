"""A test's evidence, what it leaves of every uncertain input, and its figures in draws."""

from __future__ import annotations

from dataclasses import dataclass

from limpet.evidence.model import RangeTest
from limpet.figures.drawn import DrawnFigures, began_full, drawn_figures, more_inputs
from limpet.notices import Notice
from limpet.pack import CurveFamily, curve_family
from limpet.read.evidence import Evidence, read_test
from limpet.state.contradiction import contradiction
from limpet.state.priors import NOTHING, Priors
from limpet.state.remaining import DRAWS, Remaining, remaining_energy


@dataclass(frozen=True, slots=True, kw_only=True)
class Findings:
    """What every question about a test is asked of.

    `remaining` and `drawn` are columns over the same draws; `priors` what earlier tests taught;
    `contradiction` says that the readings cannot all be true: then nothing that hangs on the pack's state
    is told. What was ridden from full to the end was ridden, whatever label and volts say: that stays.
    """

    evidence: Evidence
    priors: Priors
    remaining: Remaining
    drawn: DrawnFigures
    contradiction: Notice | None

    @property
    def tells_share(self) -> bool:
        """Whether anything tells the share of the pack that was used, and nothing that it cannot be so."""
        against = self.contradiction is not None and not self.from_full_to_end
        return self.evidence.tells_share and not against

    @property
    def from_full_to_end(self) -> bool:
        """Whether nothing is extrapolated: what was ridden is the best value there is."""
        return self.drawn.measured and began_full(self.remaining)


def find(
    test: RangeTest,
    priors: Priors = NOTHING,
    *,
    family: CurveFamily | None = None,
    draws: int = DRAWS,
    under_way: bool = False,
    cruise_w: float | None = None,
) -> Findings:
    """Read a test, draw every error of it once, and let its readings sort the draws out.

    Parameters
    ----------
    test : its instruments corrected by what earlier tests taught (`calibrated`)
    priors, family : as `analyse` has them
    draws : how many beside the best value
    under_way : the ride goes on: what nobody said of its start is not taken for granted
    cruise_w : what it would be ridden with [W], where nothing was ridden yet

    Returns
    -------
    Findings
    """
    chemistry = test.sheet.pack.chemistry
    family = family or curve_family(chemistry)
    if priors.curve is not None:
        family = priors.curve.of(family, chemistry)
    evidence = read_test(test, mean_v=family.mean_v, under_way=under_way)
    remaining = remaining_energy(
        evidence,
        more_inputs(evidence),
        family=family,
        priors=priors,
        draws=draws,
        under_way=under_way,
        cruise_w=cruise_w,
    )
    against = contradiction(remaining, evidence.readings)
    return Findings(
        evidence=evidence,
        priors=priors,
        remaining=remaining,
        drawn=drawn_figures(evidence, remaining, contradicted=against is not None),
        contradiction=against,
    )
