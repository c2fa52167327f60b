"""What to plan on: the distance that the next such ride keeps with a stated chance, for such weather and for a while."""

from __future__ import annotations

from dataclasses import dataclass
from math import floor, sqrt
from typing import Final

import numpy as np
from numpy.typing import NDArray

from limpet.assumptions import AIR_TEMP_C, like_days_std
from limpet.figures.findings import Findings
from limpet.notices.remarks import remark
from limpet.pack.chemistry import Chemistry, capacity_factors
from limpet.pack.wearing import lost_within, usual_cycles, usual_months
from limpet.read.stated import pack_temp_c, pack_temp_known
from limpet.road import density_ratio
from limpet.road.surface import TYRE_PER_C
from limpet.state.usual_consumption import shares

FloatArray = NDArray[np.float64]

#: The chance with which the promise is kept [-].
PROBABILITY: Final = 0.95
#: It is for weather up to so much warmer or colder than on the ride [°C] (handbook section 12).
WITHIN_C: Final = 8.0
#: And for so many months of the pack's life, or the full charges that wear as much; then it is ridden again
#: (assumption: an eighth of what is usual for 80%).
MONTHS: Final = 6.0
#: Other weather in steps of so many degrees: each is for days up to half a step from it [°C].
WEATHER_C: Final = (-10.0, 0.0, 10.0, 20.0, 30.0)
STEP_C: Final = 10.0
#: Of what the cold takes so much may be wrong, relative (assumption, as for a ride's own).
COLD_OFF: Final = 0.3
#: The air of a ride of which nobody noted it, u [°C] (assumption).
UNSAID_C: Final = 6.0
SEED: Final = 1


@dataclass(frozen=True, slots=True, kw_only=True)
class InWeather:
    """What to plan on in other weather [m], on days about a temperature [°C]."""

    temp_c: float
    distance_m: float


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanOn:
    """The promise for the next such ride [m], its chance, the runs it stands on, why, and its clauses.

    It is for air of `temp_c` give or take `within_c` [°C] (`temp_assumed` where nobody noted it) and for so
    many `months` or equivalent full `cycles` after the ride, whichever comes first. `run_to_run` is the
    spread from one like run to the next, `wear` what the pack may lose until then in the middle [-].
    """

    distance_m: float
    probability: float
    runs: int
    reason: str
    run_to_run: float = 0.0
    temp_c: float | None = None
    temp_assumed: bool = True
    within_c: float = WITHIN_C
    months: float = MONTHS
    cycles: float | None = None
    wear: float = 0.0
    in_weather: tuple[InWeather, ...] = ()


def plan_on(found: Findings, to_reserve_m: FloatArray) -> PlanOn:
    """The one-sided bound of the next ride's distance to the reserve, and the same in other weather.

    Parameters
    ----------
    found : the test's findings
    to_reserve_m : draws of this ride's distance to the reserve [m], shape (J,)

    Notes
    -----
    An interval of a measurement is no promise: the next ride differs from this one as two runs do,
    √(1 + 1/n) of the spread from run to run, for a single run an assumption (handbook section 12). Here n is
    1: it is this ride that the next one is held against. It is ridden in air that is as likely anywhere
    within the clause, with a pack that has lost what packs lose until the clause ends. Other weather
    changes what the pack gives (`capacity_factors`), how dense the air is and how stiff the tyres are
    (`TYRE_PER_C`); a share of it may be wrong.
    """
    learned = found.priors.learned.get("run_to_run")
    runs = len(learned.tests) if learned is not None else 0
    one = learned.value if learned is not None and runs > 1 else like_days_std()
    why = remark("one_run", percent=100 * one)
    if runs > 1:
        why = remark("several_runs", percent=100 * one, runs=runs)
    test, count = found.evidence.test, len(to_reserve_m)
    cycles = test.sheet.pack.equivalent_full_cycles
    # Draws of their own for each cause: what is told of one weather does not hang on another.
    rng, of_wear, of_air = (np.random.default_rng([SEED, k]) for k in range(3))
    wear = lost_within(MONTHS, cycles, count, of_wear)
    following = to_reserve_m * np.exp(one * sqrt(2.0) * rng.standard_normal(count)) * (1 - wear)
    air = _Air(found, count, of_air)

    def kept(temps_c: FloatArray) -> float:
        return float(np.quantile(following * air.changes(temps_c), 1 - PROBABILITY))

    return PlanOn(
        distance_m=kept(air.temp_c + WITHIN_C * air.even),
        probability=PROBABILITY,
        runs=1 + (runs if runs > 1 else 0),
        reason=why.said,
        run_to_run=one,
        temp_c=pack_temp_c(test),
        temp_assumed=not pack_temp_known(test),
        # A round number: it is an assumption that nobody should read more into.
        cycles=10.0 * floor(usual_cycles() * MONTHS / usual_months() / 10),
        wear=float(np.median(wear)),
        in_weather=tuple(
            InWeather(temp_c=temp, distance_m=kept(temp + 0.5 * STEP_C * air.even))
            for temp in WEATHER_C
        ),
    )


class _Air:
    """The air of the ride, and what other air makes of its range, in draws of shape (J,)."""

    def __init__(self, found: Findings, count: int, rng: np.random.Generator) -> None:
        evidence = found.evidence
        test = evidence.test
        self.chemistry: Chemistry = test.sheet.pack.chemistry
        unsure = 0.0 if pack_temp_known(test) else UNSAID_C
        self.temp_c = pack_temp_c(test) + unsure * rng.standard_normal(count)
        #: Anywhere within the clause, from −1 to 1.
        self.even = rng.uniform(-1, 1, count)
        self.off = rng.standard_normal(count)
        way = None if evidence.distance is None else evidence.distance.line
        self.shares = shares(test, evidence.ride, way, evidence.hours)
        stiffer, std = TYRE_PER_C
        self.stiffer_per_c = np.maximum(stiffer + std * rng.standard_normal(count), 0.0)
        self.own = self._goes(self.temp_c)

    def _goes(self, temp_c: FloatArray) -> FloatArray:
        """How far one goes at a temperature, over that in usual air [-]."""
        density = density_ratio(temp_c, AIR_TEMP_C.value)
        stiffer = self.stiffer_per_c * (AIR_TEMP_C.value - temp_c)
        of_air, of_rolling = self.shares
        takes = 1 + of_air * (density - 1) + of_rolling * stiffer
        return np.asarray(capacity_factors(self.chemistry, temp_c) / takes)

    def changes(self, temp_c: FloatArray) -> FloatArray:
        """Range in air of a temperature over the ride's own [-], with what may be wrong of it."""
        change = np.log(self._goes(temp_c) / self.own)
        return np.exp(change * (1 + COLD_OFF * self.off))
