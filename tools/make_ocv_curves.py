"""Write the open-circuit curves in src/limpet/pack/data from PyBaMM's published parameter sets.

Run with the test requirements installed:  .venv/bin/python tools/make_ocv_curves.py

For each set: the stoichiometries at the set's own voltage limits come from PyBaMM's electrode
balance; between them the cell's open-circuit voltage is U_p(y) − U_n(x), tabulated on a grid of
state of charge z that is finest where the curve bends. The share of energy ε(z) is not stored: it
is the integral of the curve and the core computes it.

Two more are made here of published formulas. Spinel (LMO): Doyle's positive electrode, from memory, over
the graphite of a set above, between 3.0 and 4.2 V. Lead-acid: Bode's electrode potentials over the
molality of the acid, as PyBaMM has them, its concentration falling in a straight line with the charge
between the resting volts that the trade calls full and empty.
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


def spinel_v(y: np.ndarray) -> np.ndarray:
    """Open-circuit potential of Li_yMn2O4 against lithium [V]: Doyle's fit (from memory)."""
    return (
        4.19829
        + 0.0565661 * np.tanh(-14.5546 * y + 8.60942)
        - 0.0275479 * ((0.998432 - y) ** -0.492465 - 1.90111)
        - 0.157123 * np.exp(-0.04738 * y**8)
        + 0.810239 * np.exp(-40 * (y - 0.133875))
    )


def spinel_curve(z: np.ndarray) -> np.ndarray:
    """An LMO cell over graphite, full at 4.2 and empty at 3.0 V, shape of z."""
    values = pybamm.ParameterValues("Mohtat2020")
    x0, x100, _, _ = pybamm.lithium_ion.get_min_max_stoichiometries(values)
    param, temp_k = pybamm.LithiumIonParameters(), values["Reference temperature [K]"]

    def graphite_v(x: np.ndarray) -> np.ndarray:
        return values.evaluate(param.n.prim.U(pybamm.Vector(x), temp_k)).flatten()

    places = np.linspace(0.15, 0.997, 4000)

    def at(cell_v: float, x: float) -> float:
        volts = spinel_v(places) - graphite_v(np.array([x]))
        return float(np.interp(-cell_v, -volts, places))

    y100, y0 = at(4.2, x100), at(3.0, x0)
    return spinel_v(y0 + z * (y100 - y0)) - graphite_v(x0 + z * (x100 - x0))


def lead_curve(full_v: float, empty_v: float, z: np.ndarray) -> np.ndarray:
    """A lead-acid cell between two resting volts, shape of z."""
    values, param = pybamm.ParameterValues("Sulzer2019"), pybamm.LeadAcidParameters()
    temp_k = values["Reference temperature [K]"]
    acid = np.linspace(300.0, 7500.0, 2000)
    vector = pybamm.Vector(acid)
    volts = values.evaluate(param.p.prim.U(vector, temp_k) - param.n.prim.U(vector, temp_k))
    empty, full = np.interp([empty_v, full_v], volts.flatten(), acid)
    return np.interp(empty + z * (full - empty), acid, volts.flatten())


DOYLE = (
    "M. Doyle, J. Newman, A. S. Gozdz, C. N. Schmutz and J.-M. Tarascon, J. Electrochem. Soc. 143 (1996) "
    "1890-1903, doi:10.1149/1.1836921 (from memory); graphite of P. Mohtat et al. (2020)"
)
BODE = (
    "H. Bode, Lead-Acid Batteries, Wiley (1977), as in V. Sulzer, S. J. Chapman, C. P. Please, D. A. Howey "
    "and C. W. Monroe, J. Electrochem. Soc. 166 (2019) A2363-A2371, doi:10.1149/2.0301910jes; resting volts "
    "full and empty: common practice, no source"
)


def main() -> None:
    DATA.mkdir(parents=True, exist_ok=True)
    z = grid()
    made = {}
    for stem, (name, cell, source) in SETS.items():
        voltage, temp_k = curve(name, z)
        made[stem] = (cell, source, f"set {name}, {temp_k - 273.15:.0f} degC", voltage)
    made["lmo_doyle1996"] = ("LMO with graphite", DOYLE, "set Mohtat2020", spinel_curve(z))
    for name, full_v in (("agm", 2.14), ("flooded", 2.12)):
        made[f"lead_{name}_bode1977"] = (
            f"lead-acid, {name}", BODE, "set Sulzer2019, 25 degC", lead_curve(full_v, 1.93, z)
        )  # fmt: skip
    for stem, (cell, source, by, voltage) in made.items():
        lines = [
            f"# cell: {cell}",
            f"# source: {source}",
            f"# by: tools/make_ocv_curves.py, PyBaMM {pybamm.__version__}, {by}",
            "state_of_charge,ocv_v",
            *(f"{share:g},{volts:.5f}" for share, volts in zip(z, voltage, strict=True)),
        ]
        (DATA / f"ocv_{stem}.csv").write_text("\n".join(lines) + "\n", encoding="utf-8")
        print(
            f"{stem}: {voltage[0]:.3f} to {voltage[-1]:.3f} V, mean {np.trapezoid(voltage, z):.3f}"
        )


if __name__ == "__main__":
    main()
