"""How large a pack a trip needs: cells in series and parallel, and whether they can bear it."""

from __future__ import annotations

from dataclasses import asdict, dataclass, replace
from math import ceil
from typing import Annotated, Any

from pydantic import Field

from limpet.assumptions import RETIRED_AT, worn_resistance
from limpet.bounds import (
    CELL_CHARGE,
    CELL_CURRENT,
    CELL_MASS,
    CELL_RESISTANCE,
    CELL_VOLTAGE,
)
from limpet.errors import OutOfRangeError
from limpet.files.jsonfile import Path
from limpet.notices import Notice
from limpet.outlook.answer import Forecast
from limpet.outlook.forecast import forecast
from limpet.pack import FACTS, Chemistry, capacity_factor, ocv_curve
from limpet.road import Route
from limpet.trip import Known, Trip

#: Share of its capacity at which a pack is retired, when the trip does not say (handbook
#: Cells, wiring and case over cells alone [-] (assumption).
PACK_OVER_CELLS = 1.35
#: More parallel groups than this is no light vehicle's pack.
MOST_PARALLEL = 200
#: Draws of a trial forecast.
TRIAL_DRAWS = 400
#: A sag beyond this share of the resting voltage cuts most drives off early [-] (assumption).
DEEP_SAG = 0.12


@dataclass(frozen=True, slots=True, kw_only=True)
class Cell:
    """One cell, as its data sheet has it."""

    capacity_ah: Annotated[float, CELL_CHARGE.field()]
    nominal_v: Annotated[float, CELL_VOLTAGE.field()]
    max_current_a: Annotated[float, CELL_CURRENT.field()]
    resistance_ohm: Annotated[float, CELL_RESISTANCE.field()]
    mass_kg: Annotated[float, CELL_MASS.field()]
    chemistry: Chemistry
    parallel: Annotated[int, Field(ge=1, le=MOST_PARALLEL)] | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class PackSize:
    """A pack for a trip. `notice` says in one sentence why it fits or not."""

    series: int
    parallel: int
    rated_wh: float
    mass_kg: float
    needed_wh: float
    peak_cell_current_a: float
    continuous_cell_current_a: float
    sag_fraction: float
    fits: bool
    notice: Notice
    arrives_probability: float
    arrives_with_one_more: float | None
    range_gain_with_one_more_m: float | None
    retained_fraction: float

    def to_json(self) -> dict[str, Any]:
        """The object of trip.md; the last fields go beyond it."""
        return {**asdict(self), "notice": self.notice.to_json(), "reason": self.notice.message}


def cell_faults(cell: Cell) -> list[tuple[Path, str]]:
    """What no single field of a cell can show."""
    facts = FACTS[cell.chemistry]
    found: list[tuple[Path, str]] = []
    if not facts.floor_v <= cell.nominal_v <= facts.highest_v:
        found.append(
            (
                ("nominal_v",),
                f"is {cell.nominal_v:g} V, which a cell of {cell.chemistry} cannot have "
                f"({facts.floor_v:g} to {facts.highest_v:g} V); check the volts and the chemistry",
            )
        )
    if cell.resistance_ohm * cell.max_current_a > 0.5 * cell.nominal_v:
        found.append(
            (
                ("resistance_ohm",),
                f"is {cell.resistance_ohm:g} Ω: at {cell.max_current_a:g} A it would take half the "
                "voltage; milliohms for ohms?",
            )
        )
    return found


def size_pack(trip: Trip, route: Route, cell: Cell) -> PackSize:
    """The smallest pack of a cell that makes a trip, on its coldest day, at the end of its life.

    Parameters
    ----------
    trip : the trip, its reserve and its probability; `conditions.temp_c` is the coldest day,
        `pack.retained_fraction` what is left when the pack is retired (0.8 when null),
        `pack.series` its voltage. A lap without a number of laps counts once.
    cell : `parallel` fixes the number of groups; None looks for it

    Raises
    ------
    OutOfRangeError
        When no pack up to 200 parallel groups makes the trip.

    Notes
    -----
    Each candidate is tried with the same `forecast` that the screens show. The mass of the pack
    that the trip names, from the same cells, is exchanged for the candidate's.
    """
    trip = replace(trip, draws=min(trip.draws, TRIAL_DRAWS))
    if trip.route.loop is not None and trip.route.laps is None:
        trip = replace(trip, route=replace(trip.route, laps=1))
    if trip.pack.retained_fraction is None:
        retired = Known(
            value=RETIRED_AT.value, standard_uncertainty=0.02, source="end of life, assumed"
        )
        trip = replace(trip, pack=replace(trip.pack, retained_fraction=retired))
    series = _series(trip, cell)
    if cell.parallel is not None:
        return _judged(trip, route, cell, series, cell.parallel)
    found = _smallest(trip, route, cell, series)
    if found is None:
        raise OutOfRangeError(
            f"size: no pack of up to {MOST_PARALLEL} groups of these {cell.capacity_ah:g} Ah cells "
            "makes this trip; "
            "shorten it, slow down, or charge on the way"
        )
    return _judged(trip, route, cell, series, found)


def _series(trip: Trip, cell: Cell) -> int:
    """Cells in series for the voltage that the trip's pack has."""
    volts = trip.pack.series * FACTS[trip.pack.chemistry].nominal_v
    return max(round(volts / cell.nominal_v), 1)


def _candidate(trip: Trip, cell: Cell, series: int, parallel: int) -> Trip:
    """The trip with a pack of these cells in place of its own."""
    own = trip.pack
    cutoff = None
    if own.cutoff_v is not None:
        # The drive's limit belongs to the vehicle, unless other cells could not bear it.
        floor = FACTS[cell.chemistry].floor_v * series
        cutoff = max(own.cutoff_v, floor) if series == own.series else None
    pack = replace(
        own,
        chemistry=cell.chemistry,
        series=series,
        parallel=parallel,
        rated_ah=cell.capacity_ah * parallel,
        rated_wh=cell.capacity_ah * parallel * series * cell.nominal_v,
        full_v=None,
        cutoff_v=cutoff,
        resistance_ohm=Known(
            value=cell.resistance_ohm * series / parallel * _worn(trip),
            standard_uncertainty=0.2 * cell.resistance_ohm * series / parallel,
            source="cell",
        ),
    )
    vehicle = trip.vehicle
    if vehicle.mass_kg is not None:
        before = _mass_kg(cell, own.series * max(round(own.rated_ah / cell.capacity_ah), 1))
        change = _mass_kg(cell, series * parallel) - before
        mass = replace(vehicle.mass_kg, value=max(vehicle.mass_kg.value + change, 1.0))
        vehicle = replace(vehicle, mass_kg=mass)
    return replace(trip, pack=pack, vehicle=vehicle)


def _worn(trip: Trip) -> float:
    """Resistance of a worn pack over a fresh one's, as the forecast takes it [-]."""
    retained = trip.pack.retained_fraction
    return 1.0 if retained is None else worn_resistance(retained.value)


def _mass_kg(cell: Cell, count: int) -> float:
    return cell.mass_kg * count * PACK_OVER_CELLS


def _trial(trip: Trip, route: Route, cell: Cell, series: int, parallel: int) -> Forecast:
    return forecast(_candidate(trip, cell, series, parallel), route, swings=False)


def _good(trip: Trip, cell: Cell, parallel: int, answer: Forecast) -> bool:
    return (
        answer.route.arrives_probability >= trip.probability
        and answer.peak.current_a / parallel <= cell.max_current_a
    )


def _smallest(trip: Trip, route: Route, cell: Cell, series: int) -> int | None:
    """The least number of groups that does it, by doubling and halving."""
    low, high = 0, 1
    while high <= MOST_PARALLEL:
        if _good(trip, cell, high, _trial(trip, route, cell, series, high)):
            break
        low, high = high, 2 * high
    else:
        high = MOST_PARALLEL
        if not _good(trip, cell, high, _trial(trip, route, cell, series, high)):
            return None
    while high - low > 1:
        middle = (low + high) // 2
        if _good(trip, cell, middle, _trial(trip, route, cell, series, middle)):
            high = middle
        else:
            low = middle
    return high


def _judged(trip: Trip, route: Route, cell: Cell, series: int, parallel: int) -> PackSize:
    answer = _trial(trip, route, cell, series, parallel)
    more = _trial(trip, route, cell, series, parallel + 1)
    peak = answer.peak.current_a / parallel
    power = answer.route.energy.value * 3600 / max(answer.route.duration_s.value, 1.0)
    mid_v = ocv_curve(cell.chemistry).mean_v * series
    sag = answer.peak.current_a * cell.resistance_ohm * _worn(trip) * series / parallel / mid_v
    temp = trip.conditions.temp_c
    cold = capacity_factor(cell.chemistry, 15.0 if temp is None else temp.value)
    left = _left(trip)
    usable_share = answer.usable_wh / max(
        cell.capacity_ah * parallel * series * cell.nominal_v * cold * left, 1e-9
    )
    needed = answer.route.energy.high / (1 - trip.reserve) / (cold * left) / usable_share
    fits = _good(trip, cell, parallel, answer)
    return PackSize(
        series=series,
        parallel=parallel,
        rated_wh=cell.capacity_ah * parallel * series * cell.nominal_v,
        mass_kg=_mass_kg(cell, series * parallel),
        needed_wh=needed,
        peak_cell_current_a=peak,
        continuous_cell_current_a=power / mid_v / parallel,
        sag_fraction=sag,
        fits=fits,
        notice=_told(trip, cell, series, parallel, answer, peak, sag, needed),
        arrives_probability=answer.route.arrives_probability,
        arrives_with_one_more=more.route.arrives_probability,
        range_gain_with_one_more_m=more.range_to_reserve.value - answer.range_to_reserve.value,
        retained_fraction=left,
    )


def _told(
    trip: Trip,
    cell: Cell,
    series: int,
    parallel: int,
    answer: Forecast,
    peak: float,
    sag: float,
    needed: float,
) -> Notice:
    name = f"{series}S {parallel}P"
    chance = 100 * answer.route.arrives_probability
    if peak > cell.max_current_a:
        return Notice(
            "size_refused",
            pack=name,
            peak_a=peak,
            rated_a=cell.max_current_a,
            least=ceil(answer.peak.current_a / cell.max_current_a),
        )
    if answer.route.arrives_probability < trip.probability:
        return Notice("size_too_small", pack=name, chance_pct=chance, needed_wh=needed)
    fits: dict[str, float | str] = {
        "pack": name,
        "chance_pct": chance,
        "reserve": trip.reserve,
        "left": _left(trip),
    }
    if sag > DEEP_SAG:
        return Notice("size_fits_but_sags", sag=sag, **fits)
    return Notice("size_fits", **fits)


def _left(trip: Trip) -> float:
    retained = trip.pack.retained_fraction
    return RETIRED_AT.value if retained is None else retained.value
