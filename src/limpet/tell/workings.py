"""Each figure's formula with this test's numbers: what was put in, and where it is from."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final, Literal

from limpet.figures.figures import Figures
from limpet.figures.findings import Findings
from limpet.formulas import FORMULAS
from limpet.quantity import Quantity
from limpet.read.line import Estimate
from limpet.read.stated import packs_together
from limpet.words import METHODS

Figure = Literal[
    "energy", "distance", "wh_per_km", "energy_used_fraction", "range_to_cutoff", "range_to_reserve",
    "plan_on", "usable_energy_wh", "capacity_ah", "retained_fraction", "resistance_ohm",
    "regeneration", "claim",
]  # fmt: skip

#: Which formula a method of energy or distance is.
_METHOD_FORMULAS: Final = {
    "sampled": "sampled",
    "energy_counter": "energy_counter",
    "charge_counter": "charge_counter",
    "laps": "laps",
    "gps": "track",
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Number:
    """What a letter of a formula stands for here, in the core's unit, and where it is from."""

    symbol: str
    value: float
    standard_uncertainty: float | None
    source: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Working:
    """A figure's formula by its name in `limpet.formulas`, and the numbers in it, the figure's first."""

    figure: Figure
    formula: str
    numbers: tuple[Number, ...]


def workings_of(found: Findings, figures: Figures) -> tuple[Working, ...]:
    """The workings of every figure that there is."""
    makers = (_energy, _distance, _per_km, _share, _range, _reserve, _plan, _usable, _capacity,
              _retained, _resistance, _regeneration, _claim)  # fmt: skip
    made = (make(found, figures) for make in makers)
    return tuple(working for working in made if working is not None)


def _of(symbol: str, quantity: Quantity, source: str) -> Number:
    return Number(
        symbol=symbol,
        value=quantity.value,
        standard_uncertainty=quantity.standard_uncertainty,
        source=source,
    )


def _plain(symbol: str, value: float, source: str) -> Number:
    return Number(symbol=symbol, value=value, standard_uncertainty=None, source=source)


def _working(figure: Figure, formula: str, *numbers: Number) -> Working:
    known = {symbol.name for symbol in FORMULAS[formula].symbols}
    strange = {number.symbol for number in numbers} - known
    if strange:
        raise ValueError(f"{formula} has no {sorted(strange)}")
    return Working(figure=figure, formula=formula, numbers=numbers)


def _named(used: Estimate | None) -> str:
    return METHODS[used.method][1] if used is not None else "the line of energy left"


def _energy(found: Findings, figures: Figures) -> Working | None:
    energy, used = figures.energy, figures.energy_estimate
    if energy is None:
        return None
    method = used.method if used is not None else None
    logged, charge = found.evidence.metered.logged, figures.charge
    first = _of("E", energy, _named(used))
    if method == "sampled" and logged is not None:
        return _working(
            "energy",
            "sampled",
            first,
            _plain("Ed", logged.drawn_wh, "the samples"),
            _plain("Er", logged.returned_wh, "the samples"),
        )
    if method == "charge_counter" and charge is not None and charge.value > 0:
        return _working(
            "energy",
            "charge_counter",
            first,
            _of("Q", charge, "the meter’s amp-hours"),
            _plain("V", energy.value / charge.value, "the entries' volts, by charge"),
        )
    if method == "energy_counter":
        return _working("energy", "energy_counter", first)
    share, usable = figures.energy_used_fraction, figures.pack.usable_energy_wh
    if share is None or usable is None:
        return None
    return _working(
        "energy",
        "from_share",
        first,
        _of("f", share, "the readings of the pack"),
        _of("Eu", usable, "the label, as the readings leave it"),
    )


def _distance(found: Findings, figures: Figures) -> Working | None:
    distance, used = figures.distance, figures.distance_estimate
    if distance is None or used is None:
        return None
    first = _of("D", distance, _named(used))
    instruments = found.evidence.test.sheet.instruments
    lap = instruments.lap if instruments is not None else None
    lap_m = lap.length_m if lap is not None else None
    if used.method == "laps" and lap_m and distance.value:
        return _working(
            "distance",
            "laps",
            first,
            _plain("n", distance.value / lap_m, "the entries"),
            _plain("L", lap_m, "the sheet"),
        )
    formula = _METHOD_FORMULAS.get(used.method, "difference")
    return _working("distance", "difference" if formula == "laps" else formula, first)


def _per_km(found: Findings, figures: Figures) -> Working | None:
    if figures.consumption is None or figures.energy is None or figures.distance is None:
        return None
    return _working(
        "wh_per_km",
        "consumption",
        _of("c", figures.consumption.wh_per_km, "by the draws"),
        _of("E", figures.energy, _named(figures.energy_estimate)),
        _of("D", figures.distance, _named(figures.distance_estimate)),
    )


def _share(found: Findings, figures: Figures) -> Working | None:
    share, started = figures.energy_used_fraction, figures.started_fraction
    if share is None or started is None:
        return None
    return _working(
        "energy_used_fraction",
        "share",
        _of("f", share, "by the draws"),
        _of("s", started, "the readings at the start"),
        _plain("l", started.value - share.value, "the readings of the pack, by the draws"),
    )


def _range(found: Findings, figures: Figures) -> Working | None:
    reach, distance, share = (
        figures.range_to_cutoff, figures.distance, figures.energy_used_fraction
    )  # fmt: skip
    if reach is None or distance is None or share is None:
        return None
    first = _of("R", reach, "by the draws")
    ridden = _of("D", distance, _named(figures.distance_estimate))
    if figures.range_measured and reach.value == distance.value:
        return _working("range_to_cutoff", "range_measured", first, ridden)
    return _working(
        "range_to_cutoff", "range", first, ridden, _of("f", share, "the readings of the pack")
    )


def _reserve(found: Findings, figures: Figures) -> Working | None:
    if figures.range_to_cutoff is None:
        return None
    return _working(
        "range_to_reserve",
        "reserve",
        _of("Rr", figures.range_to_cutoff.scaled(1 - figures.reserve, "m"), "by the draws"),
        _reserved(figures),
        _of("R", figures.range_to_cutoff, "by the draws"),
    )


def _reserved(figures: Figures) -> Number:
    return _plain("r", figures.reserve, "assumed" if figures.reserve_assumed else "the sheet")


def _plan(found: Findings, figures: Figures) -> Working | None:
    plan, reach = figures.plan_on, figures.range_to_cutoff
    if plan is None or reach is None:
        return None
    learned = plan.runs > 1
    air = "assumed" if plan.temp_assumed else "the sheet"
    told = found.evidence.test.sheet.pack.equivalent_full_cycles is not None
    return _working(
        "plan_on",
        "plan_on",
        _plain("P", plan.distance_m, "by the draws"),
        _reserved(figures),
        _of("R", reach, "by the draws"),
        _plain("sigma", plan.run_to_run, "earlier runs" if learned else "assumed"),
        _plain("w", plan.wear, "assumed, by its cycles" if told else "assumed"),
        _plain("low", (plan.temp_c or 0.0) - plan.within_c, air),
        _plain("high", (plan.temp_c or 0.0) + plan.within_c, air),
    )


def _usable(found: Findings, figures: Figures) -> Working | None:
    usable, share = figures.pack.usable_energy_wh, figures.energy_used_fraction
    if usable is None or figures.energy is None or share is None:
        return None
    return _working(
        "usable_energy_wh",
        "usable",
        _of("Eu", usable, "by the draws"),
        _of("E", figures.energy, _named(figures.energy_estimate)),
        _of("f", share, "the readings of the pack"),
    )


def _capacity(found: Findings, figures: Figures) -> Working | None:
    capacity, charge = figures.pack.capacity_ah, figures.charge
    if capacity is None or charge is None:
        return None
    counted = charge.scaled(1 / packs_together(found.evidence.test), "Ah")
    return _working(
        "capacity_ah",
        "capacity",
        _of("C", capacity, "by the draws"),
        _of("Q", counted, "the meter’s amp-hours"),
        _plain("dz", counted.value / capacity.value, "the readings of the pack, by the draws"),
    )


def _retained(found: Findings, figures: Figures) -> Working | None:
    pack = figures.pack
    if pack.retained_fraction is None or pack.capacity_ah is None:
        return None
    return _working(
        "retained_fraction",
        "retained",
        _of("g", pack.retained_fraction, "by the draws"),
        _of("C", pack.capacity_ah, "this ride"),
        _plain("Cr", found.evidence.test.sheet.pack.rated_ah, "the label"),
    )


def _resistance(found: Findings, figures: Figures) -> Working | None:
    ohm = figures.pack.resistance_ohm
    if ohm is None:
        return None
    return _working("resistance_ohm", "resistance", _of("Ri", ohm, "the steps of this ride"))


def _regeneration(found: Findings, figures: Figures) -> Working | None:
    logged = found.evidence.metered.logged
    if logged is None or not logged.drawn_wh:
        return None
    return _working(
        "regeneration",
        "regeneration",
        _plain("x", logged.returned_wh / logged.drawn_wh, "the samples"),
        _plain("Er", logged.returned_wh, "the samples"),
        _plain("Ed", logged.drawn_wh, "the samples"),
    )


def _claim(found: Findings, figures: Figures) -> Working | None:
    claim = figures.claim
    reach = None if claim is None else claim.as_claimed_m
    if claim is None or reach is None:
        return None
    return _working(
        "claim",
        "claim",
        _plain("x", reach.value / claim.claimed_m - 1, "by the draws"),
        _of("R", reach, "by the draws"),
        _plain("K", claim.claimed_m, "the sheet"),
    )
