"""Write the open-circuit curves in src/limpet/pack/data from PyBaMM's published parameter sets.

Run with the test requirements installed:  .venv/bin/python tools/make_ocv_curves.py

For each set: the stoichiometries at the set's own voltage limits come from PyBaMM's electrode
balance; between them the cell's open-circuit voltage is U_p(y) − U_n(x), tabulated on a grid of
state of charge z that is finest where the curve bends. The share of energy ε(z) is not stored: it
is the integral of the curve and the core computes it.
"""

from __future__ import annotations

import os
from pathlib import Path

os.environ["PYBAMM_DISABLE_TELEMETRY"] = "true"

import numpy as np
import pybamm

DATA = Path(__file__).resolve().parent.parent / "src" / "limpet" / "pack" / "data"

#: file → (PyBaMM's name of the set, what it is, where it was published)
SETS = {
    "nmc811_chen2020": (
        "Chen2020",
        "NMC811 with silicon-graphite, LG M50 21700",
        "C.-H. Chen, F. Brosa Planella, K. O'Regan, D. Gastol, W. D. Widanage and E. Kendrick, "
        "J. Electrochem. Soc. 167 (2020) 080534, doi:10.1149/1945-7111/ab9050",
    ),
    "nmc532_mohtat2020": (
        "Mohtat2020",
        "NMC532 with graphite, pouch cell",
        "P. Mohtat, S. Lee, V. Sulzer, J. B. Siegel and A. G. Stefanopoulou, "
        "J. Electrochem. Soc. 167 (2020) 110561, doi:10.1149/1945-7111/aba5d1",
    ),
    "nca_kim2011": (
        "NCA_Kim2011",
        "NCA with graphite",
        "G.-H. Kim, K. Smith, K.-J. Lee, S. Santhanagopalan and A. Pesaran, "
        "J. Electrochem. Soc. 158 (2011) A955-A969, doi:10.1149/1.3597614",
    ),
    "nmc811_oregan2022": (
        "ORegan2022",
        "NMC811 with silicon-graphite, LG M50 21700, another sample and fit",
        "K. O'Regan, F. Brosa Planella, W. D. Widanage and E. Kendrick, "
        "Electrochim. Acta 425 (2022) 140700, doi:10.1016/j.electacta.2022.140700",
    ),
    "lfp_prada2013": (
        "Prada2013",
        "LFP with graphite, A123 26650",
        "E. Prada, D. Di Domenico, Y. Creff, J. Bernard, V. Sauvant-Moynot and F. Huet, "
        "J. Electrochem. Soc. 160 (2013) A616-A628, doi:10.1149/2.053304jes",
    ),
}


def grid() -> np.ndarray:
    """State of charge from 0 to 1, finer near both ends, where the curve is steep."""
    ends = np.concatenate([np.linspace(0, 0.05, 26), np.linspace(0.95, 1, 26)])
    return np.unique(np.round(np.concatenate([ends, np.linspace(0, 1, 151)]), 6))


def curve(name: str, z: np.ndarray) -> tuple[np.ndarray, float]:
    """Open-circuit voltage [V] over z and the temperature it is taken at [K]."""
    values = pybamm.ParameterValues(name)
    x0, x100, y100, y0 = pybamm.lithium_ion.get_min_max_stoichiometries(values)
    param = pybamm.LithiumIonParameters()
    temp_k = values["Reference temperature [K]"]
    x = x0 + z * (x100 - x0)
    y = y0 + z * (y100 - y0)
    open_circuit = param.p.prim.U(pybamm.Vector(y), temp_k) - param.n.prim.U(
        pybamm.Vector(x), temp_k
    )
    return values.evaluate(open_circuit).flatten(), float(temp_k)


def main() -> None:
    DATA.mkdir(parents=True, exist_ok=True)
    z = grid()
    for stem, (name, cell, source) in SETS.items():
        voltage, temp_k = curve(name, z)
        lines = [
            f"# cell: {cell}",
            f"# source: {source}",
            f"# by: tools/make_ocv_curves.py, PyBaMM {pybamm.__version__}, set {name}, "
            f"{temp_k - 273.15:.0f} degC",
            "state_of_charge,ocv_v",
            *(f"{share:g},{volts:.5f}" for share, volts in zip(z, voltage, strict=True)),
        ]
        (DATA / f"ocv_{stem}.csv").write_text("\n".join(lines) + "\n", encoding="utf-8")
        print(
            f"{stem}: {voltage[0]:.3f} to {voltage[-1]:.3f} V, mean {np.trapezoid(voltage, z):.3f}"
        )


if __name__ == "__main__":
    main()
