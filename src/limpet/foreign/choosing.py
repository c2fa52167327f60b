"""Which of several columns of one quantity is taken."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace
from typing import Final

import numpy as np

from limpet.foreign.candidate import Candidate, FloatArray
from limpet.foreign.quantities import CELL
from limpet.notices import Notice

_OWN: Final = re.compile(r"batt|pack|akku|bms|accu|total|gesamt|bateria|batteri|sum\b|bus|input|trip|wheel|used|consumed|discharged|verbrauch|entladen", re.I)  # fmt: skip
_SECOND: Final = re.compile(r"gps|odo|total km|kilometerstand|shunt|raw|filtered|2\b", re.I)


def chosen_of(candidates: Sequence[Candidate], unsure: list[Notice]) -> list[Candidate]:
    """One column for each quantity (and each pack or cell), the plainest and most lively."""
    places: dict[tuple[str, int | None, int | None], list[Candidate]] = {}
    for item in candidates:
        places.setdefault((item.quantity, item.meaning.pack, item.meaning.cell), []).append(item)
    chosen = []
    for rivals in places.values():
        if len(rivals) == 1:
            chosen.append(rivals[0])
            continue
        ranked = sorted(rivals, key=_rank, reverse=True)
        best, second = ranked[:2]
        if _rank(best) - _rank(second) < 0.04 and not _alike(best.values, second.values):
            best.sure = min(best.sure, 0.6)
            unsure.append(Notice("look_two", name=best.source, other=second.source))
        best.why.append(Notice("look_of_several", count=len(rivals)))
        chosen.append(best)
    return _packs_or_whole(chosen)


def _rank(item: Candidate) -> float:
    known = item.values[~np.isnan(item.values)]
    lively = 0.0 if len(known) == 0 or np.ptp(known) == 0 else 0.3
    own = 0.1 if _OWN.search(item.source) else 0.0
    second = 0.15 if _SECOND.search(item.source) else 0.0
    filled = 0.1 * len(known) / max(len(item.values), 1)
    return item.meaning.plain + lively + own - second + filled


def _alike(one: FloatArray, other: FloatArray) -> bool:
    both = ~(np.isnan(one) | np.isnan(other))
    if both.sum() < 2:
        return False
    size = float(np.max(np.abs(one[both]))) or 1.0
    return float(np.mean(np.abs(one[both] - other[both]))) < 0.02 * size


def _packs_or_whole(chosen: list[Candidate]) -> list[Candidate]:
    """Columns of single packs are left where one of the whole says the same; a lone pack is the whole."""
    of_whole = {item.quantity for item in chosen if item.meaning.pack is None}
    packs: dict[str, set[int]] = {}
    for item in chosen:
        if item.meaning.pack is not None:
            packs.setdefault(item.quantity, set()).add(item.meaning.pack)
    kept = []
    for item in chosen:
        if item.meaning.pack is not None:
            if item.quantity in of_whole and item.quantity != CELL:
                continue
            if len(packs[item.quantity]) == 1:
                item.meaning = replace(item.meaning, pack=None)
        kept.append(item)
    return kept
