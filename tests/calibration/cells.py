"""Rides that a porous-electrode model rode, as packs of any size: the truth."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from limpet.pack import Chemistry

FloatArray = NDArray[np.float64]
#: A cell that gave less than this of its nominal charge was asked for more power than it has.
LEAST_OF_NOMINAL = 0.6
FILE = Path(__file__).parent / "cell_rides.npz"
#: Rides in steep hills on vehicles that give back six tenths of what braking and descents have.
STEEP_FILE = Path(__file__).parent / "steep_rides.npz"
#: Cells of another family (cobalt oxide, nickel-cobalt oxide) that a rider might still call NMC.
FOREIGN = ("Ai2020", "Ecker2015")
CHEMISTRY: dict[str, Chemistry] = {"NCA_Kim2011": "nca", "Prada2013": "lfp"}


@dataclass(frozen=True, slots=True, kw_only=True)
class CellRide:
    """One cell from full to where its drive stopped, then at rest, every five seconds, shape (n,).

    `needs_ah` of such cells (their number in series times the amp-hours) bear its power, and `mass_kg`
    moves; `fresh` is what the cell gives at most in any of its rides, per nominal amp-hour [1].
    Volts of the cell; current, charge and energy per nominal amp-hour [1/h], [1], [V]; the way.
    """

    parameters: str
    chemistry: Chemistry
    temp_c: float
    cut_v: float
    full_v: float
    end_s: float
    fresh: float
    needs_ah: float
    mass_kg: float
    time_s: FloatArray
    volts: FloatArray
    amps: FloatArray
    charge: FloatArray
    energy: FloatArray
    metres: FloatArray
    altitude: FloatArray
    speed: FloatArray

    def pauses(self, least_s: float = 30.0) -> list[tuple[int, int]]:
        """First and last row of each time that it stood for so long or longer, while riding."""
        standing = (self.speed < 0.1) & (self.time_s < self.end_s - 60)
        edges = np.diff(np.concatenate([[0], standing.astype(int), [0]]))
        begins, ends = np.flatnonzero(edges == 1), np.flatnonzero(edges == -1) - 1
        long = self.time_s[ends] - self.time_s[begins] >= least_s
        return [(int(a), int(b)) for a, b in zip(begins[long], ends[long], strict=True) if a > 20]


@lru_cache(maxsize=1)
def cell_rides() -> tuple[CellRide, ...]:
    """All that are kept."""
    return _read(FILE)


@lru_cache(maxsize=1)
def steep_rides() -> tuple[CellRide, ...]:
    """Those in steep hills."""
    return _read(STEEP_FILE)


@lru_cache(maxsize=1)
def _fresh() -> dict[str, float]:
    """The most that each cell gives in any ride of either file, per nominal amp-hour."""
    found: dict[str, float] = {}
    for file in (FILE, STEEP_FILE):
        kept = np.load(file, allow_pickle=False)
        for key in (key for key in kept.files if key.endswith(":charge")):
            cell = key.split(":")[0]
            found[cell] = max(found.get(cell, 0.0), float(kept[key][-1]))
    return found


def _read(file: Path) -> tuple[CellRide, ...]:
    kept = np.load(file, allow_pickle=False)
    names = sorted({key.rsplit(":", 1)[0] for key in kept.files})
    fresh = _fresh()
    found = []
    for name in names:
        temp_c, _, _, cut, full, end_s, _ = kept[f"{name}:about"].tolist()
        nominal = float(kept[f"{name}:charge"][-1])
        if nominal < LEAST_OF_NOMINAL:
            continue
        column = {
            key: kept[f"{name}:{key}"].astype(np.float64)
            for key in ("volts", "amps", "charge", "energy", "metres", "altitude", "speed")
        }
        parameters = name.split(":")[0]
        found.append(
            CellRide(
                parameters=parameters,
                chemistry=CHEMISTRY.get(parameters, "nmc"),
                temp_c=temp_c,
                cut_v=cut,
                full_v=full,
                end_s=end_s,
                fresh=fresh[parameters],
                needs_ah=float(kept[f"{name}:needs"][0]),
                mass_kg=float(kept[f"{name}:needs"][1]),
                time_s=5.0 * np.arange(len(column["volts"])),
                volts=column["volts"] / 1e4,
                amps=column["amps"] / 1e4,
                charge=column["charge"],
                energy=column["energy"],
                metres=column["metres"],
                altitude=column["altitude"],
                speed=column["speed"],
            )
        )
    return tuple(found)
