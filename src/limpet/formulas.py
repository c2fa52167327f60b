r"""The formulas as used: how they are typeset, what their letters mean, where they are from.

One table for the page's Method, for the numbers put into them (`limpet.tell.workings`) and for
docs/method.md. In `latex` a letter that stands for a number is written `<name>`.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Final, Literal

from limpet.units import Kind

Group = Literal[
    "Energy", "Distance", "Consumption and range", "Pack", "Road", "Forecast", "Uncertainty"
]

_TOKEN: Final = re.compile(r"<([a-zA-Z0-9_]+)>")
HANDBOOK: Final = "assumption of the handbook"


@dataclass(frozen=True, slots=True, kw_only=True)
class Symbol:
    """A letter: how it is typeset, what it is; its kind where a number of it has a unit."""

    name: str
    latex: str
    words: str
    kind: Kind | None = None
    #: A share that is read in percent.
    percent: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Formula:
    """A formula, its letters in the order in which they stand, and its source."""

    name: str
    group: Group
    title: str
    latex: str
    symbols: tuple[Symbol, ...]
    source: str
    about: str = ""

    @property
    def typeset(self) -> str:
        """With its letters."""
        letters = {symbol.name: symbol.latex for symbol in self.symbols}
        return _TOKEN.sub(lambda found: letters[found[1]], self.latex)

    @property
    def tokens(self) -> frozenset[str]:
        """The names that stand in it."""
        return frozenset(_TOKEN.findall(self.latex))


def _s(
    name: str, words: str, kind: Kind | None = None, latex: str = "", *, percent: bool = False
) -> Symbol:
    return Symbol(name=name, latex=latex or name, words=words, kind=kind, percent=percent)


_E: Final = _s("E", "energy used", "energy")
_D: Final = _s("D", "distance ridden", "distance")
_f: Final = _s("f", "share of the usable energy that was used", percent=True)
_R: Final = _s("R", "range to cut-off", "distance")
_r: Final = _s("r", "share kept back", percent=True)
_Q: Final = _s("Q", "charge drawn", "charge")
_U: Final = _s("U", "open-circuit voltage", "voltage")
_v: Final = _s("v", "speed", "speed")
_m: Final = _s("m", "mass of all that moves", "mass")

_ALL: Final[tuple[Formula, ...]] = (
    Formula(
        name="sampled", group="Energy", title="Volts times amps, sampled",
        latex=r"<E> = \int V I\,\mathrm{d}t = <Ed> - <Er>",
        symbols=(_E, _s("Ed", "drawn from the pack", "energy", r"E_\mathrm{drawn}"),
                 _s("Er", "returned to it", "energy", r"E_\mathrm{returned}")),
        source="trapezoid rule on uneven samples",
        about="Discharge is positive. A gap is filled from the meter’s own counters, else from distance and "
        "the consumption around it, and told.",
    ),
    Formula(
        name="energy_counter", group="Energy", title="The meter’s watt-hours",
        latex=r"<E> = E_\mathrm{end} - E_\mathrm{start}",
        symbols=(_E,), source="the meter’s own integral",
    ),
    Formula(
        name="charge_counter", group="Energy", title="Amp-hours times volts",
        latex=r"<E> = \int V\,\mathrm{d}Q = <Q>\,<V>",
        symbols=(_E, _Q, _s("V", "mean voltage while pulling, by charge", "voltage", r"\bar V")),
        source="definition of the mean by charge",
    ),
    Formula(
        name="from_share", group="Energy", title="Energy without a meter",
        latex=r"<E> = <f>\,<Eu>",
        symbols=(_E, _f, _s("Eu", "usable energy, from the label and the pack’s age", "energy",
                            r"E_\mathrm{usable}")),
        source="the line of energy left; the label gives its scale",
        about="Good for ranges; not for comparing consumptions, because nobody knows the label’s age.",
    ),
    Formula(
        name="rest_voltage", group="Energy", title="Resting volts through the curve",
        latex=r"<E> = Q\,S\,\bigl(W(<z1>) - W(<z2>)\bigr)(1-\lambda),\quad W(z)=\int_0^z U\,\mathrm{d}z",
        symbols=(_E, _s("z1", "charge left before", None, "z_1"), _s("z2", "charge left after", None, "z_2")),
        source="open-circuit curves of published cells: Chen 2020, Mohtat 2020, Kim 2011, O’Regan 2022, Prada 2013",
    ),
    Formula(
        name="difference", group="Distance", title="An instrument’s difference",
        latex=r"<D> = x_\mathrm{end} - x_\mathrm{start}",
        symbols=(_D,), source="definition; a count that falls was reset and is counted on",
    ),
    Formula(
        name="laps", group="Distance", title="Laps times length",
        latex=r"<D> = <n>\,<L>",
        symbols=(_D, _s("n", "laps, the last in part"), _s("L", "length of one lap", "distance")),
        source="definition",
    ),
    Formula(
        name="track", group="Distance", title="A track",
        latex=r"<D> = \sum_k d(\varphi_k,\lambda_k;\varphi_{k+1},\lambda_{k+1})",
        symbols=(_D,),
        source="geodesics on the WGS 84 ellipsoid: Karney, J. Geod. 87 (2013) 43–55",
    ),
    Formula(
        name="consumption", group="Consumption and range", title="Consumption",
        latex=r"<c> = \frac{<E>}{<D>}",
        symbols=(_s("c", "consumption", "consumption"), _E, _D),
        source="definition; 1 mi = 1609.344 m exactly",
    ),
    Formula(
        name="share", group="Consumption and range", title="Share of the pack that was used",
        latex=r"<f> = <s> - <l>",
        symbols=(_f, _s("s", "energy left at the start, of full to cut-off", percent=True),
                 _s("l", "energy left at the end", percent=True, latex=r"\ell")),
        source="every reading of the pack’s state, each in its own unit, drawn together",
    ),
    Formula(
        name="range", group="Consumption and range", title="Range to cut-off",
        latex=r"<R> = \frac{<D>}{<f>}",
        symbols=(_R, _D, _f),
        source="proportion; brought to the level first, and what lies ahead scatters 15%/√km (assumption)",
    ),
    Formula(
        name="range_measured", group="Consumption and range", title="Range that was ridden",
        latex=r"<R> = <D>",
        symbols=(_R, _D), source="from full to its end nothing is extrapolated",
    ),
    Formula(
        name="reserve", group="Consumption and range", title="Range to the reserve",
        latex=r"<Rr> = (1 - <r>)\,<R>",
        symbols=(_s("Rr", "range to the reserve", "distance", "R_r"), _r, _R), source="definition",
    ),
    Formula(
        name="plan_on", group="Consumption and range", title="Plan on",
        latex=r"<P> = q_{5\,\%}\!\left[(1-<r>)\,<R>\,e^{\sqrt2\,<sigma>\,z}\,(1-<w>)\,k_{<low>\ldots <high>}\right],\quad z\sim N(0,1)",
        symbols=(_s("P", "what the next such ride goes, 19 times in 20", "distance"), _r, _R,
                 _s("sigma", "spread from run to run on days alike", percent=True, latex=r"\sigma"),
                 _s("w", "what the pack may lose while the promise is for", percent=True),
                 _s("low", "the coldest air that it is for", "temperature", r"T_1"),
                 _s("high", "the warmest", "temperature", r"T_2")),
        source="prediction bound of one more run (NIST e-Handbook, prediction intervals); the spread of a "
        "single run and the wear are assumptions",
        about="An interval of a measurement is no promise: the next ride differs from this one as two runs do, "
        "in other weather (k: what the cold takes and how dense the air is, evenly over the weather that "
        "the promise is for) and with an older pack.",
    ),
    Formula(
        name="claim", group="Consumption and range", title="Against the maker’s figure",
        latex=r"<x> = \frac{<R>}{<K>} - 1",
        symbols=(_s("x", "more than claimed", percent=True), _R,
                 _s("K", "distance claimed", "distance", r"D_\mathrm{claimed}")),
        source="range as claimed: each draw by the road model's ratio; held from 95% of them on, missed to 5%",
    ),
    Formula(
        name="climb", group="Consumption and range", title="Height",
        latex=r"\Delta E = \frac{<m>\,g\,<h>}{\eta},\quad \eta = 0.80",
        symbols=(_m, _s("h", "height between start and end", "length", r"\Delta h")),
        source="mechanics; g = 9.80665 m/s² (CGPM 1901); η is an assumption",
    ),
    Formula(
        name="usable", group="Pack", title="Usable energy",
        latex=r"<Eu> = \frac{<E>}{<f>}",
        symbols=(_s("Eu", "usable energy, full to cut-off, as ridden", "energy", r"E_\mathrm{usable}"), _E, _f),
        source="proportion",
    ),
    Formula(
        name="capacity", group="Pack", title="Capacity",
        latex=r"<C> = \frac{<Q>}{<dz>}",
        symbols=(_s("C", "charge from full to cut-off, as ridden", "charge"), _Q,
                 _s("dz", "share of that charge that was used", percent=True, latex=r"\Delta z")),
        source="proportion; only where charge was counted",
    ),
    Formula(
        name="retained", group="Pack", title="Retained fraction",
        latex=r"<g> = \frac{<C>}{<Cr>}",
        symbols=(_s("g", "of the label, as ridden", percent=True, latex=r"\gamma"),
                 _s("C", "capacity as ridden", "charge"),
                 _s("Cr", "rated charge", "charge", r"C_\mathrm{rated}")),
        source="proportion",
    ),
    Formula(
        name="resistance", group="Pack", title="Resistance",
        latex=r"<Ri> = -\frac{\Delta V}{\Delta I} = \frac{V_\mathrm{rest} - V_\mathrm{pulling}}{I}",
        symbols=(_s("Ri", "resistance of the pack", "resistance", "R"),),
        source="Ohm; the weighted median over steps that were held, or over entries",
    ),
    Formula(
        name="regeneration", group="Pack", title="Regeneration",
        latex=r"<x> = \frac{<Er>}{<Ed>}",
        symbols=(_s("x", "share of what was drawn", percent=True),
                 _s("Er", "returned", "energy", r"E_\mathrm{returned}"),
                 _s("Ed", "drawn", "energy", r"E_\mathrm{drawn}")),
        source="definition",
    ),
    Formula(
        name="current", group="Pack", title="Current for a power",
        latex=r"I = \frac{<U> - \sqrt{<U>^2 - 4 R P}}{2R}",
        symbols=(_U,), source="Kirchhoff; above U²/4R the pack cannot give it",
        about="U = 50 V, R = 0.12 Ω, P = 900 W: 18.853 A.",
    ),
    Formula(
        name="peukert", group="Pack", title="Lead-acid at another rate",
        latex=r"Q = C\left(\frac{C}{I\,H}\right)^{k-1},\quad k = 1.15 \pm 0.05,\ H = 20\,\mathrm h",
        symbols=(), source="Peukert 1897; k is an assumption",
    ),
    Formula(
        name="road_load", group="Road", title="Power at the wheel",
        latex=r"P = \left[C_{rr} <m> g\cos\theta + <m> g\sin\theta + \tfrac12\rho\,C_dA\,(<v>+w)\,|<v>+w| + "
        r"1.03\,<m> a\right]<v>",
        symbols=(_m, _v), source="mechanics; 3% for what turns is an assumption",
        about="Force goes with speed squared, power with its cube, energy a mile with its square.",
    ),
    Formula(
        name="pack_power", group="Road", title="Power at the pack",
        latex=r"P_\mathrm{pack} = \begin{cases} P/\eta + P_\mathrm{aux} & P \ge 0 \\ "
        r"\eta_\mathrm{regen} P + P_\mathrm{aux} & P < 0 \end{cases}",
        symbols=(), source="definition of the efficiencies",
    ),
    Formula(
        name="air_density", group="Road", title="Density of moist air",
        latex=r"\rho = \frac{p M_a}{Z R T}\left[1 - x_v\left(1 - \frac{M_v}{M_a}\right)\right]",
        symbols=(), source="CIPM-2007: Picard et al., Metrologia 45 (2008) 149–155",
        about="15 °C, dry, 101,325 Pa: 1.2255 kg/m³.",
    ),
    Formula(
        name="arrives", group="Forecast", title="Chance of arriving",
        latex=r"p = \frac{1}{J}\sum_{j=1}^{J} \bigl[\varepsilon_j(\text{end}) \ge r\bigr]",
        symbols=(), source="Monte Carlo, JCGM 101:2008; J = 1,000 draws of all uncertain inputs",
        about="Draws that all arrive show that the chance is high, not that it is 100%.",
    ),
    Formula(
        name="turn_point", group="Forecast", title="Turn point",
        latex=r"x_t = \max\{x : P(\text{home from } x) \ge p\}",
        symbols=(), source="definition; p is 95% unless set",
    ),
    Formula(
        name="u_rectangular", group="Uncertainty", title="A maker’s ± x %",
        latex=r"u = \frac{a}{\sqrt3}",
        symbols=(), source="JCGM 100:2008 (GUM), 4.3.7",
    ),
    Formula(
        name="budget", group="Uncertainty", title="An input’s share",
        latex=r"u_c^2(y) = \sum_i \left(\frac{\partial y}{\partial x_i}\right)^2 u^2(x_i)",
        symbols=(), source="JCGM 100:2008 (GUM), 5.1.2; over draws: what the variance falls by when the input is known",
    ),
    Formula(
        name="e_n", group="Uncertainty", title="Whether two methods agree",
        latex=r"E_n = \frac{|x_1 - x_2|}{\sqrt{U_1^2 + U_2^2}} \le 1,\quad U = 2u",
        symbols=(), source="ISO 13528:2022",
    ),
    Formula(
        name="birge", group="Uncertainty", title="When readings scatter more than they may",
        latex=r"B = \sqrt{\chi^2 / n}",
        symbols=(), source="Birge, Phys. Rev. 40 (1932) 207",
    ),
    Formula(
        name="interval", group="Uncertainty", title="95% interval",
        latex=r"[\,q_{2.5\,\%},\ q_{97.5\,\%}\,]",
        symbols=(), source="JCGM 101:2008, 7.7",
    ),
)  # fmt: skip

FORMULAS: Final[dict[str, Formula]] = {formula.name: formula for formula in _ALL}
