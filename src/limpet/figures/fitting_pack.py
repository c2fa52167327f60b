"""Which other pack would explain readings that cannot all be true of the one on the sheet."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from limpet.figures.findings import Findings, find
from limpet.notices import Notice
from limpet.pack import FACTS, Chemistry, PackSpec
from limpet.uncertain.posterior import Posterior

#: Draws of a trial: they are where its search begins too.
TRIAL_DRAWS = 60
#: Σr² + Σs² by which another pack must fit better: e⁶ times as likely [-] (assumption).
LEAST_GAIN = 12.0
#: Of those that fit nearly as well, by Σr² + Σs² [-], so many are named.
AS_GOOD, MOST_NAMED = 4.0, 2
#: Cells more or fewer than the sheet says that are tried.
APART = (1, -1, 2, -2)
#: What is sold under the other's name, or mistaken for it.
_OTHERS: dict[Chemistry, tuple[Chemistry, ...]] = {
    "nmc": ("lfp",), "nca": ("lfp",), "lmo": ("lfp",), "lfp": ("nmc",),
}  # fmt: skip
_WORDS = {"nmc": "NMC", "lfp": "LFP"}


def fitting_pack(found: Findings) -> Notice | None:
    """The likeliest pack that is nearly the sheet's and with which the readings agree; None where none does.

    Parameters
    ----------
    found : of readings that miss each other by more than nineteen of twenty rides show

    Notes
    -----
    A sheet of another pack is the commonest contradiction: cells miscounted by one or two, iron phosphate
    for a layered oxide, amp-hours of another label. Each is tried; it explains the readings when nothing
    is contradicted any more, and they are missed by much less.
    """
    test = found.evidence.test
    most = _cost(found.remaining.posterior) - LEAST_GAIN
    fitting: list[tuple[float, str]] = []
    for words, pack in _nearly(test.sheet.pack):
        other = replace(test, sheet=replace(test.sheet, pack=pack))
        tried = find(other, found.priors, draws=TRIAL_DRAWS)
        if tried.remaining.posterior.birge > 1:
            continue
        cost = _cost(tried.remaining.posterior)
        if "amp-hours" in words:
            capacity = float(tried.remaining.value("rated_ah")[0])
            words = f"about {capacity:.0f} amp-hours"
        if cost < most:
            fitting.append((cost, words))
    if not fitting:
        return None
    fitting.sort()
    near = [words for cost, words in fitting if cost < fitting[0][0] + AS_GOOD][:MOST_NAMED]
    return Notice("other_pack_fits", what=" or ".join(near))


def _cost(posterior: Posterior) -> float:
    """Σr² + Σs² at the mode [-]."""
    mode = posterior.scores[:, 0]
    return float(posterior.residual @ posterior.residual + mode @ mode)


def _nearly(pack: PackSpec) -> Iterator[tuple[str, PackSpec]]:
    """Packs that somebody may have meant, each with what sets it apart."""
    for more in APART:
        series = pack.series + more
        if series >= 1:
            yield f"{series} cells in series", _with_cells(pack, series, pack.chemistry)
    for chemistry in _OTHERS.get(pack.chemistry, ()):
        volts = pack.series * FACTS[pack.chemistry].label_v
        series = max(round(volts / FACTS[chemistry].label_v), 1)
        for near in (series, series - 1, series + 1):
            yield f"{near} cells of {_WORDS[chemistry]}", _with_cells(pack, near, chemistry)
    if "rated_ah" not in pack.taken:
        taken = (*pack.taken, "rated_ah")
        yield "other amp-hours", replace(pack, rated_wh=None, taken=taken)


def _with_cells(pack: PackSpec, series: int, chemistry: Chemistry) -> PackSpec:
    """The pack with other cells: full as such cells are, cut off where the sheet says."""
    return replace(pack, series=series, chemistry=chemistry, full_v=None, rated_wh=None)
