"""Published open-circuit voltage sets, as they are kept in `pack/data`."""

from __future__ import annotations

from functools import lru_cache
from importlib import resources

import numpy as np
from numpy.typing import NDArray

FloatArray = NDArray[np.float64]


@lru_cache(maxsize=16)
def read_set(stem: str) -> tuple[FloatArray, FloatArray]:
    """State of charge [-] and settled volts [V] of a published set.

    References
    ----------
    The papers that the first lines of pack/data/ocv_*.csv name (`tools/make_ocv_curves.py`).
    """
    file = resources.files("limpet.pack") / "data" / f"ocv_{stem}.csv"
    lines = file.read_text(encoding="utf-8").splitlines()
    rows = [line.split(",") for line in lines if line[:1].isdigit()]
    table = np.array(rows, dtype=np.float64)
    return table[:, 0], table[:, 1]
