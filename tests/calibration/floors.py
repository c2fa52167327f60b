"""How near the core's half-widths come to what the information allows: an ideal Bayesian with the same inputs.

The floor is that of emcee's walkers on the same model (`independent`), ride for ride; beside it a search for a
better minimum than the core's from random starts, by SciPy's least squares.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from statistics import median
from typing import Final

import numpy as np
from scipy.optimize import least_squares

from limpet.figures.findings import Findings, find
from limpet.pack import curve_family
from limpet.state.remaining import SEED
from limpet.uncertain.posterior import infer
from tests.calibration.cells import FOREIGN, cell_rides
from tests.calibration.independent import Beside, beside
from tests.calibration.riders import KINDS, LEARNED, Kind, Told, told

#: Kinds that are asked without what earlier rides taught.
ASKED: Final[tuple[Kind, ...]] = tuple(kind for kind in KINDS if kind != LEARNED)
#: Random places that a search sets out from, and Σr² + Σs² by which a minimum is another one.
STARTS, BETTER_BY = 4, 2.0
#: Draws of the core's own search, as in its trials of other packs.
SEARCHED = 60


def asked_rides(kind: Kind, chemistry: str, most: int, seed: int = 5) -> Iterator[Told]:
    """So many rides of a chemistry that have such evidence, each by one rider."""
    given = 0
    for rider in range(most):
        for number, ride in enumerate(cell_rides()):
            if ride.chemistry != chemistry or ride.parameters in FOREIGN:
                continue
            item = told(ride, kind, np.random.default_rng([seed, number, rider, KINDS.index(kind)]))
            if item is None:
                continue
            yield item
            given += 1
            if given >= most:
                return


def better_minimum(found: Findings, starts: int = STARTS, seed: int = 1) -> float:
    """Σr² + Σs² of the core's mode less that of the best of some searches from random places [-]."""
    model = found.remaining.model
    # Anew: of the draws that are told, those of a meter's gains are as it states them.
    mode = infer(model.look, len(model.inputs), SEARCHED, SEED).scores[:, 0]

    def missed(at: np.ndarray) -> np.ndarray:
        return np.concatenate([model.look(at[:, None]).residual[:, 0], at])

    ours = float((missed(mode) ** 2).sum())
    rng = np.random.default_rng(seed)
    found_at = [
        least_squares(missed, rng.standard_normal(len(mode)), max_nfev=30) for _ in range(starts)
    ]
    return ours - min(2 * float(one.cost) for one in found_at)


def floors(rides: int, steps: int = 1500, kinds: tuple[Kind, ...] = ASKED) -> Iterator[str]:
    """The table as lines, one for each kind and chemistry as it is done."""
    yield (
        f"{'evidence':<28}{'cells':<6}{'n':>4}{'floor ±':>9}{'here ±':>8}{'ratio':>7}{'medians apart':>15}"
        f"{'contradicted':>14}{'better minima':>15}"
    )
    for kind in kinds:
        for chemistry in ("nmc", "nca", "lfp"):
            seen: dict[str, list[float]] = defaultdict(list)
            contradicted = better = 0
            for item in asked_rides(kind, chemistry, rides):
                found = find(item.test, family=curve_family(item.test.sheet.pack.chemistry))
                if found.remaining.posterior.birge > 1:
                    # Where readings miss each other the core is wider than its inputs on purpose.
                    contradicted += 1
                    continue
                better += better_minimum(found, starts=2) > BETTER_BY
                answer: Beside = beside(item.test, steps=steps)
                seen["floor"].append(answer.sampled_half_m / answer.sampled_m)
                seen["here"].append(answer.core_half_m / answer.core_m)
                seen["ratio"].append(answer.wider)
                seen["apart"].append(answer.apart)
            if not seen["ratio"]:
                continue
            yield (
                f"{kind:<28}{chemistry:<6}{len(seen['ratio']):>4}{100 * median(seen['floor']):>8.1f}%"
                f"{100 * median(seen['here']):>7.1f}%{median(seen['ratio']):>7.2f}{median(seen['apart']):>13.2f} u"
                f"{contradicted:>14}{better:>15}"
            )
