"""`learn(tests) -> Priors`: what a vehicle's and a pack's earlier tests teach the next."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from functools import partial
from math import hypot

import numpy as np

from limpet.assumptions import (
    GAUGE_BEND,
    LABEL,
    RETAINED,
    RUN_TO_RUN,
    InstrumentName,
    like_days_std,
)
from limpet.carry.road import OTHER_WAY
from limpet.evidence.model import RangeTest
from limpet.history.alike import carried
from limpet.history.facts import (
    Facts,
    Spread,
    facts_of,
    instrument_names,
    pack_key,
    pack_key_of,
)
from limpet.history.gauge import pooled_gauge
from limpet.history.pool import pooled
from limpet.history.road_fit import road_of
from limpet.read.accuracy import accuracy
from limpet.road import VehicleKind
from limpet.state.priors import NOTHING, Learned, LearnedCurve, Priors, Rides
from limpet.state.uncertain_inputs import CAME_OF_SHOWN, GAUGE_BOTTOM
from limpet.tell import Result, analyse
from limpet.trip import RoadFit, Trip
from limpet.uncertain.scatter import Scatter
from limpet.units import METRES_PER_KM

#: So many tests teach at most, the latest: a pack of long ago is another pack.
MOST_TESTS = 200
#: A number is learned from a test that narrowed it to this share of what is assumed at the most [-].
NARROWED = 0.7
#: A gauge's map differs from ride to ride by this, and a pack's capacity from day to day [-]; a wheel by
#: its pressure and load; the consumption of like rides on the whole (assumption).
BEND_FLOOR, BOTTOM_FLOOR = 0.09, 0.04
#: What a display promises differs from ride to ride by this, relative (assumption).
SHOWN_FLOOR = 0.12
#: A charger's share moves with how warm it is and how deep it charges, from time to time by this, relative (assumption).
CHARGER_FLOOR = 0.01
CAPACITY_FLOOR, RESISTANCE_FLOOR, WHEEL_FLOOR, RIDES_FLOOR = (
    0.015,
    0.10,
    0.01,
    0.04,
)
#: A gauge that goes by volts reads otherwise in the cold: u of its map for each degree between two rides
#: [1/°C] (assumption).
GAUGE_PER_C = 0.01
#: A curve is learned from one of so many rides, the latest; its numbers move by this from ride to ride (assumption).
MOST_CURVES, CURVE_FLOOR = 20, 0.25
#: A test tells its consumption when it is known this well, relative.
TELLS = 0.25
#: Runs that what is assumed of the spread from run to run counts for (assumption).
ASSUMED_RUNS = 4
#: Rides at so much another average speed are not alike [-].
ALIKE = 0.25


def learn(tests: Sequence[RangeTest], of: RangeTest, *, road: bool = False) -> Priors:
    """What earlier tests teach about the vehicle and the pack of a test.

    Parameters
    ----------
    tests : of any vehicles and packs; those of another name teach nothing
    of : the test that is to be analysed; it does not teach itself
    road : whether to fit the vehicle's road load too: a trip asks for it, a result does not
    """
    vehicle, pack = of.sheet.vehicle.name, pack_key(of)
    mine = _analysed([test for test in tests if test is not of], vehicle, pack)
    here = facts_of(of, analyse(of)) if mine else None
    found = NOTHING if here is None else learn_for(of, here, [facts_of(*pair) for pair in mine])
    return replace(found, road=_road(of.sheet.vehicle.kind, vehicle, mine)) if road else found


def learn_trip(tests: Sequence[RangeTest], trip: Trip) -> Priors:
    """What tests teach about the vehicle and the pack of a trip, whose names are theirs.

    Parameters
    ----------
    tests : of any kit; those with the trip's vehicle or pack are used
    trip : whose vehicle and pack are named
    """
    vehicle = trip.vehicle.name
    pack = None if not trip.pack.name else pack_key_of(trip.pack.label)
    mine = _analysed(tests, vehicle, pack)
    speed = trip.speed.target_mps or trip.speed.average_mps
    found = learn_from([facts_of(*pair) for pair in mine], vehicle, pack, speed_mps=speed)
    return replace(found, road=_road(trip.vehicle.kind, vehicle, mine))


def learn_for(of: RangeTest, here: Facts, facts: Sequence[Facts]) -> Priors:
    """What kept facts teach about a test, its instruments among it.

    Parameters
    ----------
    here : what the test alone came to, with its vehicle and pack called as in the facts
    facts : of earlier tests, oldest first

    Notes
    -----
    A consumption is carried to how this one was ridden (`carried`), and less sure by `OTHER_WAY` where this
    one's hills are not known; a gauge that was learned in other weather by `GAUGE_PER_C` for each degree between.
    """
    vehicle = of.sheet.vehicle
    brought = [
        replace(
            item,
            wh_per_km=carried(item, here, vehicle.kind, vehicle.mass_kg),
            inputs=_in_this_weather(item, here),
        )
        for item in facts
    ]
    found = learn_from(
        brought, here.vehicle, here.pack, instruments=_unlearned(of), names=instrument_names(of)
    )
    usual = found.learned.get("consumption_wh_per_m")
    if usual is None or here.climb_m_per_km is not None:
        return found
    # However many rides of other days there are: they know nothing of this way's hills.
    wider = hypot(usual.standard_uncertainty, OTHER_WAY * usual.value)
    return found.also(consumption_wh_per_m=replace(usual, standard_uncertainty=wider))


def learn_under_way(
    of: RangeTest,
    facts: Sequence[Facts],
    vehicle: str | None,
    pack: str | None,
    *,
    speed_mps: float | None = None,
) -> Priors:
    """What kept facts teach about a ride under way: as a trip's, and its instruments among it.

    Parameters
    ----------
    of : the ride's start, whose day weighs what is older less
    facts : of earlier tests
    vehicle, pack : their keys; None teaches nothing
    speed_mps : of the ride; None for any
    """
    return learn_from(
        facts, vehicle, pack, speed_mps=speed_mps,
        instruments=_unlearned(of), names=instrument_names(of),
    )  # fmt: skip


def _unlearned(of: RangeTest) -> dict[InstrumentName, float]:
    """u of the instruments that can be learned, as they are without [-]."""
    scaled: tuple[InstrumentName, ...] = ("trip", "odometer", "wall")
    return {name: accuracy(of, name).relative_std for name in scaled}


def _in_this_weather(item: Facts, here: Facts) -> dict[str, Spread]:
    """A test's inputs, its gauge as unsure as another temperature makes it."""
    if item.temp_c is None or here.temp_c is None:
        return item.inputs
    colder = GAUGE_PER_C * abs(item.temp_c - here.temp_c)
    return {
        name: (value, hypot(std, colder)) if name == "gauge_bend" else (value, std)
        for name, (value, std) in item.inputs.items()
    }


def _analysed(
    tests: Sequence[RangeTest], vehicle: str | None, pack: str | None
) -> list[tuple[RangeTest, Result]]:
    """The latest tests of a vehicle or a pack, with what they came to."""
    mine = [
        test
        for test in tests
        if (vehicle and test.sheet.vehicle.name == vehicle) or (pack and pack_key(test) == pack)
    ]
    return [(test, analyse(test)) for test in mine[-MOST_TESTS:]]


def _road(
    kind: VehicleKind, vehicle: str | None, mine: list[tuple[RangeTest, Result]]
) -> RoadFit | None:
    """The road load that a vehicle's logged rides tell."""
    rode = [pair for pair in reversed(mine) if vehicle and pair[0].sheet.vehicle.name == vehicle]
    if not rode:
        return None
    known = [(test, partial(_known, result)) for test, result in rode]
    fit = road_of(kind, known, logged_only=True).found
    return None if fit is None else fit.fit


def _known(result: Result) -> Result:
    return result


def learn_from(
    facts: Sequence[Facts],
    vehicle: str | None,
    pack: str | None,
    *,
    speed_mps: float | None = None,
    instruments: dict[InstrumentName, float] | None = None,
    names: dict[str, str | None] | None = None,
) -> Priors:
    """The same from what was kept of tests.

    Parameters
    ----------
    vehicle, pack : whose (`pack_key`); None is nobody's
    speed_mps : rides at about this average speed are preferred, where there are any
    instruments : u of instruments without learning, relative; one that tests cannot better is left
    names : of those instruments; the same name is the same instrument, and none is that of the vehicle

    Returns
    -------
    Priors; empty where no test's own evidence carries a number

    Notes
    -----
    What a test found is weighted by 1/u²; the spread between tests counts where it is larger than their
    u (Birge ratio).
    """
    rode = [item for item in facts if vehicle and item.vehicle == vehicle][-MOST_TESTS:]
    gave = [item for item in facts if pack and item.pack == pack][-MOST_TESTS:]
    capacity = [item for item in gave if item.capacity]
    found = {
        "gauge_bend": _over(rode, _input("gauge_bend", GAUGE_BEND.std), BEND_FLOOR),
        "gauge_bottom": _over(rode, _input("gauge_bottom", GAUGE_BOTTOM[1]), BOTTOM_FLOOR),
        "came_of_shown": _over(rode, _promised, SHOWN_FLOOR, relative=True),
        "capacity_factor": _over(
            capacity, _input("capacity_factor", hypot(LABEL.std, RETAINED.std)), CAPACITY_FLOOR
        ),
        "resistance_ohm": _over(
            gave, lambda item: item.resistance_ohm, RESISTANCE_FLOOR, relative=True
        ),
    }
    for name, without in (instruments or {}).items():
        if name == "wall":
            scale = _over(gave, partial(_charger, names=names or {}), CHARGER_FLOOR, relative=True)
        else:
            scale = _over(rode, partial(_factor, name=name, names=names or {}), WHEEL_FLOOR)
        if scale is not None and scale.standard_uncertainty / scale.value < NARROWED * without:
            found[name] = scale
    alike = _alike(rode, speed_mps)
    rides = _rides(alike)
    if rides is not None:
        found["consumption_wh_per_m"] = Learned(
            value=rides.wh_per_km.value / METRES_PER_KM,
            standard_uncertainty=hypot(
                rides.wh_per_km.standard_uncertainty, _spread(alike).value * rides.wh_per_km.value
            )
            / METRES_PER_KM,
            tests=rides.wh_per_km.tests,
        )
        found["run_to_run"] = (
            _spread(alike, like_days_std()) if len(rides.wh_per_km.tests) > 1 else None
        )
    return Priors(
        learned={name: item for name, item in found.items() if item is not None},
        rides=rides,
        gauge=pooled_gauge(rode),
        curve=_curve(gave),
    )


def _curve(gave: list[Facts]) -> LearnedCurve | None:
    """The pack's own curve by the ride that saw most of it; None where none did.

    Notes
    -----
    One ride and not the mean of several: they were read by one voltmeter, whose error would be taken for
    known the better the more there are. A cell's curve moves with warmth and age by `CURVE_FLOOR`.
    """
    told = [(item, item.curve) for item in gave[-MOST_CURVES:] if item.curve is not None]
    if not told:
        return None
    item, best = min(told, key=lambda pair: float(np.linalg.slogdet(pair[1].covariance)[1]))
    covariance = np.array(best.covariance) + CURVE_FLOOR**2 * np.eye(len(best.mean))
    return LearnedCurve(
        chemistry=item.chemistry,
        mean=best.mean,
        covariance=tuple(tuple(float(value) for value in row) for row in covariance),
        test=item.title,
    )


def _promised(item: Facts) -> Spread | None:
    """What came over what its display promised, by a test that knows it better than nobody."""
    found = item.came_of_shown
    return found if found is not None and found[1] <= NARROWED * CAME_OF_SHOWN[1] else None


def _charger(item: Facts, names: dict[str, str | None]) -> Spread | None:
    """The charger's share by a test whose charge the same meter saw."""
    return item.charger if item.names.get("wall") == names.get("wall") else None


def _factor(item: Facts, name: str, names: dict[str, str | None]) -> Spread | None:
    """An instrument's factor by a test that was ridden with the same one."""
    return item.factors.get(name) if item.names.get(name) == names.get(name) else None


def _input(name: str, assumed: float) -> Callable[[Facts], Spread | None]:
    """An input of a test that narrowed it."""

    def told(item: Facts) -> Spread | None:
        found = item.inputs.get(name)
        return found if found is not None and found[1] <= NARROWED * assumed else None

    return told


def _alike(rode: list[Facts], speed_mps: float | None) -> list[Facts]:
    """Rides on throttle alone whose consumption is known, those at about a speed where there are some."""
    told = [
        item
        for item in rode
        if item.wh_per_km is not None
        and not item.assisted
        and item.wh_per_km[1] <= TELLS * item.wh_per_km[0]
    ]
    if speed_mps is None:
        return told
    near = [
        item
        for item in told
        if item.speed_mps is not None and abs(item.speed_mps / speed_mps - 1) <= ALIKE
    ]
    return near or told


def _rides(alike: list[Facts]) -> Rides | None:
    """Their consumption, and where on the whole it was found."""
    told = _over(alike, lambda item: item.wh_per_km, RIDES_FLOOR, relative=True)
    if told is None:
        return None

    def mean(name: str) -> float | None:
        pairs = [
            (getattr(item, name), 1 / (item.wh_per_km[1] / item.wh_per_km[0]) ** 2)
            for item in alike
            if getattr(item, name) is not None and item.wh_per_km is not None
        ]
        if not pairs:
            return None
        return float(np.average([value for value, _ in pairs], weights=[w for _, w in pairs]))

    surfaces = {item.surface for item in alike}
    return Rides(
        wh_per_km=told,
        speed_mps=mean("speed_mps"),
        load_kg=mean("load_kg"),
        temp_c=mean("temp_c"),
        climb_m_per_km=mean("climb_m_per_km"),
        surface=surfaces.pop() if len(surfaces) == 1 else None,
    )


def _spread(alike: list[Facts], assumed: float | None = None) -> Learned:
    """How far one run differs from the next, relative: what is assumed, moved by what metered runs show.

    Parameters
    ----------
    assumed : before any run shows it; that of any days when None

    Notes
    -----
    A scaled inverse χ² with `ASSUMED_RUNS` degrees of freedom for what is assumed; each run's own u is
    taken off its square.
    """
    runs = [
        item
        for item in alike
        if item.metered and item.wh_per_km is not None and item.wh_per_km[0] > 0
    ]
    usual = RUN_TO_RUN.std if assumed is None else assumed
    spread = Scatter(variance=usual**2, freedom=ASSUMED_RUNS)
    titles = tuple(item.title for item in runs)
    if len(runs) >= 2:
        logs = np.log([item.wh_per_km[0] for item in runs if item.wh_per_km is not None])
        own = np.mean(
            [(i.wh_per_km[1] / i.wh_per_km[0]) ** 2 for i in runs if i.wh_per_km is not None]
        )
        squares = float(((logs - logs.mean()) ** 2).sum())
        spread = spread.moved_by(squares, float(own), len(runs) - 1)
    return Learned(value=spread.std, standard_uncertainty=0.0, tests=titles)


def _over(
    facts: list[Facts],
    told: Callable[[Facts], Spread | None],
    floor: float,
    *,
    relative: bool = False,
) -> Learned | None:
    """A number over the tests that tell it; None of none."""
    pairs = [(found, item.title) for item in facts if (found := told(item)) is not None]
    return pooled(pairs, floor, relative=relative)
