"""Each figure's formula with this test's numbers: what was put in, and where it is from."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final, Literal

from limpet.assumptions import RUN_TO_RUN
from limpet.formulas import FORMULAS
from limpet.quantity import Quantity
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


@dataclass(frozen=True, slots=True, kw_only=True)
class Given:
    """What the workings are made of; None is "not known"."""

    energy: Quantity | None
    energy_method: str | None
    drawn_wh: float | None
    returned_wh: float | None
    charge: Quantity | None
    distance: Quantity | None
    distance_method: str | None
    laps: float | None
    lap_length_m: float | None
    wh_per_km: Quantity | None
    share: Quantity | None
    started: Quantity | None
    range_m: Quantity | None
    measured: bool
    reserve: float
    reserve_assumed: bool
    plan_on_m: float | None
    run_to_run: float | None
    usable_wh: Quantity | None
    capacity_ah: Quantity | None
    packs: int
    capacity_25_ah: Quantity | None
    rated_ah: float
    retained: Quantity | None
    resistance_ohm: Quantity | None
    claimed_m: float | None


def workings_of(given: Given) -> tuple[Working, ...]:
    """The workings of every figure that there is."""
    makers = (_energy, _distance, _per_km, _share, _range, _reserve, _plan, _usable, _capacity,
              _retained, _resistance, _regeneration, _claim)  # fmt: skip
    return tuple(found for make in makers if (found := make(given)) is not None)


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


def _named(method: str | None) -> str:
    return METHODS[method][1] if method in METHODS else "the line of energy left"


def _energy(given: Given) -> Working | None:
    energy, method = given.energy, given.energy_method
    if energy is None:
        return None
    found = _of("E", energy, _named(method))
    if method == "sampled" and given.drawn_wh is not None and given.returned_wh is not None:
        return _working(
            "energy",
            "sampled",
            found,
            _plain("Ed", given.drawn_wh, "the samples"),
            _plain("Er", given.returned_wh, "the samples"),
        )
    if method == "charge_counter" and given.charge is not None and given.charge.value > 0:
        volts = energy.value / given.charge.value
        return _working(
            "energy",
            "charge_counter",
            found,
            _of("Q", given.charge, "the meter's amp-hours"),
            _plain("V", volts, "the entries' volts, by charge"),
        )
    if method == "energy_counter":
        return _working("energy", "energy_counter", found)
    if given.share is None or given.usable_wh is None:
        return None
    return _working(
        "energy",
        "from_share",
        found,
        _of("f", given.share, "the readings of the pack"),
        _of("Eu", given.usable_wh, "the label, as the readings leave it"),
    )


def _distance(given: Given) -> Working | None:
    distance, method = given.distance, given.distance_method
    if distance is None:
        return None
    found = _of("D", distance, _named(method))
    if method == "laps" and given.laps and given.lap_length_m:
        return _working(
            "distance",
            "laps",
            found,
            _plain("n", given.laps, "the entries"),
            _plain("L", given.lap_length_m, "the sheet"),
        )
    formula = _METHOD_FORMULAS.get(method or "", "difference")
    return _working("distance", "difference" if formula == "laps" else formula, found)


def _per_km(given: Given) -> Working | None:
    if given.wh_per_km is None or given.energy is None or given.distance is None:
        return None
    return _working(
        "wh_per_km",
        "consumption",
        _of("c", given.wh_per_km, "by the draws"),
        _of("E", given.energy, _named(given.energy_method)),
        _of("D", given.distance, _named(given.distance_method)),
    )


def _share(given: Given) -> Working | None:
    if given.share is None or given.started is None:
        return None
    left = given.started.value - given.share.value
    return _working(
        "energy_used_fraction",
        "share",
        _of("f", given.share, "by the draws"),
        _of("s", given.started, "the readings at the start"),
        _plain("l", left, "the readings of the pack, by the draws"),
    )


def _range(given: Given) -> Working | None:
    if given.range_m is None or given.distance is None or given.share is None:
        return None
    found = _of("R", given.range_m, "by the draws")
    ridden = _of("D", given.distance, _named(given.distance_method))
    if given.measured and given.range_m.value == given.distance.value:
        return _working("range_to_cutoff", "range_measured", found, ridden)
    return _working(
        "range_to_cutoff", "range", found, ridden, _of("f", given.share, "the readings of the pack")
    )


def _reserve(given: Given) -> Working | None:
    if given.range_m is None:
        return None
    kept = "assumed" if given.reserve_assumed else "the sheet"
    return _working(
        "range_to_reserve",
        "reserve",
        _of("Rr", given.range_m.scaled(1 - given.reserve, "m"), "by the draws"),
        _plain("r", given.reserve, kept),
        _of("R", given.range_m, "by the draws"),
    )


def _plan(given: Given) -> Working | None:
    if given.plan_on_m is None or given.range_m is None:
        return None
    learned = given.run_to_run is not None
    return _working(
        "plan_on",
        "plan_on",
        _plain("P", given.plan_on_m, "by the draws"),
        _plain("r", given.reserve, "assumed" if given.reserve_assumed else "the sheet"),
        _of("R", given.range_m, "by the draws"),
        _plain(
            "sigma",
            given.run_to_run if given.run_to_run is not None else RUN_TO_RUN.std,
            "earlier runs" if learned else "assumed",
        ),
    )


def _usable(given: Given) -> Working | None:
    if given.usable_wh is None or given.energy is None or given.share is None:
        return None
    return _working(
        "usable_energy_wh",
        "usable",
        _of("Eu", given.usable_wh, "by the draws"),
        _of("E", given.energy, _named(given.energy_method)),
        _of("f", given.share, "the readings of the pack"),
    )


def _capacity(given: Given) -> Working | None:
    if given.capacity_ah is None or given.charge is None:
        return None
    counted = given.charge.scaled(1 / given.packs, "Ah")
    return _working(
        "capacity_ah",
        "capacity",
        _of("C", given.capacity_ah, "by the draws"),
        _of("Q", counted, "the meter's amp-hours"),
        _plain("dz", counted.value / given.capacity_ah.value, "the readings of the pack, by the draws"),
    )  # fmt: skip


def _retained(given: Given) -> Working | None:
    if given.retained is None or given.capacity_ah is None or given.capacity_25_ah is None:
        return None
    return _working(
        "retained_fraction",
        "retained",
        _of("g", given.retained, "by the draws"),
        _of("C", given.capacity_ah, "this ride"),
        _plain("k", given.capacity_ah.value / given.capacity_25_ah.value, "the noted temperature"),
        _plain("Cr", given.rated_ah, "the label"),
    )


def _resistance(given: Given) -> Working | None:
    if given.resistance_ohm is None:
        return None
    return _working(
        "resistance_ohm", "resistance", _of("Ri", given.resistance_ohm, "the steps of this ride")
    )


def _regeneration(given: Given) -> Working | None:
    if not given.drawn_wh or given.returned_wh is None:
        return None
    return _working(
        "regeneration",
        "regeneration",
        _plain("x", given.returned_wh / given.drawn_wh, "the samples"),
        _plain("Er", given.returned_wh, "the samples"),
        _plain("Ed", given.drawn_wh, "the samples"),
    )


def _claim(given: Given) -> Working | None:
    if given.claimed_m is None or given.range_m is None:
        return None
    return _working(
        "claim",
        "claim",
        _plain("x", given.range_m.value / given.claimed_m - 1, "by the draws"),
        _of("R", given.range_m, "by the draws"),
        _plain("K", given.claimed_m, "the sheet"),
    )
