"""`analyse(test) -> Result`: the one function behind the page, the API and the command line."""

from __future__ import annotations

from limpet.assumptions import Assumptions
from limpet.evidence.model import RangeTest
from limpet.figures.figures import figures_of
from limpet.figures.findings import find
from limpet.pack import CurveFamily
from limpet.state.calibrated import calibrated
from limpet.state.priors import NOTHING, Priors
from limpet.tell.messages import messages_of
from limpet.tell.result import Result
from limpet.tell.verdict import verdict_of
from limpet.tell.workings import workings_of


def analyse(
    test: RangeTest,
    priors: Priors = NOTHING,
    assumptions: Assumptions | None = None,
    *,
    family: CurveFamily | None = None,
) -> Result:
    """Energy, distance, consumption and range of one test, each with its uncertainty.

    Parameters
    ----------
    test : as recorded; poor evidence is not an error
    priors : what earlier tests taught (`limpet.history.learn`); each is named among the inputs
    assumptions : what is taken where nobody says; None takes what is assumed around the call
    family : curves to draw the cells' from; the chemistry's own when None

    Returns
    -------
    Result; what the evidence cannot give is None, with a warning that says what to record next
    time. The formulas and their sources stand in docs/method.md.
    """
    if assumptions is not None:
        with assumptions.hold():
            return analyse(test, priors, family=family)
    found = find(calibrated(test, priors), priors, family=family)
    figures = figures_of(found)
    return Result.of(
        figures,
        verdict=verdict_of(found.evidence.test, figures),
        workings=workings_of(found, figures),
        warnings=messages_of(found, figures),
    )
