"""Timings of what comes before the ride, each beside a yardstick measured in the same run."""

from __future__ import annotations

import os
import time
from collections.abc import Callable
from math import sqrt
from statistics import median

import numpy as np
from scipy.integrate import solve_ivp

from limpet.drive.journey import draws_of
from limpet.drive.steps import Steps, steps_of
from limpet.drive.walk import walk
from limpet.fitting.fit import SampledRide, fit_road
from limpet.outlook.forecast import forecast
from limpet.pack.family import GRID
from limpet.road import Leg
from limpet.trip import RouteSpec
from tests.chromium import chromium
from tests.trips import rng, routed, trip

Timing = Callable[[Callable[[], object]], tuple[float, float]]
Line = Callable[..., None]
ROUTE_M = 40_000.0


def hilly_road() -> RouteSpec:
    """40 km of rolling road, a leg every 200 m, every bearing."""
    generator = rng(8)
    rises = generator.normal(0, 3, 200)
    legs = tuple(
        Leg(
            length_m=ROUTE_M / 200,
            climb_m=float(max(rise, 0)),
            descent_m=float(max(-rise, 0)),
            bearing_deg=float(generator.uniform(0, 360)),
        )
        for rise in rises
    )
    return RouteSpec(legs=legs)


def bench_walk(best_of: Timing, line: Line) -> None:
    """1,000 draws over 40 km at 10 m, against a plain loop and against solve_ivp for one draw."""
    os.sched_setaffinity(0, {min(os.sched_getaffinity(0))})
    what, route = routed(trip(route=hilly_road(), draws=1000))
    draws = draws_of(what, route, swings=False)
    steps = steps_of(route, 10.0)

    def vectorised(count: int, length: float) -> Callable[[], object]:
        some, _ = routed(trip(route=hilly_road(), draws=count))
        drawn, cut = draws_of(some, route, swings=False), steps_of(route, length)
        return lambda: walk(
            cut,
            drawn.columns,
            drawn.limits,
            start_charge=drawn.start_charge,
            longest_m=ROUTE_M,
            block_m=600.0,
        )

    plain = best_of(lambda: plain_walk(steps, draws, 0))
    line(f"yardstick: plain loop, one draw, {len(steps)} steps of 10 m", plain, "-")
    ode = best_of(lambda: by_solve_ivp(steps, draws, 0))
    line("yardstick: solve_ivp, one draw (rtol 1e-5)", ode, "-")
    found = best_of(vectorised(1000, 10.0))
    line("1,000 draws over 40 km at 10 m, one core", found, "0.3 s", found[0] / plain[0])
    print(
        f"    the plain loop would take {1000 * plain[0]:.0f} s for 1,000 draws "
        f"({1000 * plain[0] / found[0]:.0f} times as long), solve_ivp {1000 * ode[0]:.0f} s"
    )
    print("    cost in seconds by draws and step:")
    print(f"    {'':>12}" + "".join(f"{length:>9.0f} m" for length in (10, 25, 100)))
    for count in (100, 300, 1000, 3000):
        row = [best_of(vectorised(count, length))[0] for length in (10.0, 25.0, 100.0)]
        print(f"    {count:>6} draws" + "".join(f"{seconds:>11.3f}" for seconds in row))
    whole = best_of(lambda: forecast(what, route))
    line("the whole forecast, 1,000 draws, every question", whole, "-", whole[0] / plain[0])
    os.sched_setaffinity(0, range(os.cpu_count() or 1))


def bench_fit(best_of: Timing, line: Line) -> None:
    """A fit on 100,000 samples against reading through them ten times with a plain sum."""
    count, generator = 100_000, rng(9)
    time_s = np.arange(count) * 0.2
    speed = 5.5 + np.sin(time_s / 90) + generator.normal(0, 0.05, count)
    grade = 0.02 * np.sin(time_s / 400)
    wheel = (
        113 * (9.80665 * (0.0095 + grade) + 1.03 * np.cos(time_s / 90) / 90) + 0.36 * speed**2
    ) * speed
    ride = SampledRide(
        time_s=time_s,
        speed_mps=speed,
        power_w=np.maximum(wheel, 0) / 0.8 + 9 + generator.normal(0, 8, count),
        grade=grade,
        headwind_mps=np.zeros(count),
        density_kgpm3=1.22,
        mass_kg=113.0,
    )
    yardstick = best_of(lambda: [float(np.sum(ride.power_w * speed)) for _ in range(100)])
    line("yardstick: 100 sums over 100,000 samples", yardstick, "-")
    found = best_of(lambda: fit_road("bicycle", [ride]))
    line("a fit on 100,000 samples", found, "0.5 s", found[0] / yardstick[0])


def bench_slider(best_of: Timing, line: Line) -> None:
    """A slider on the Forecast page, from the key to the changed figure on the screen."""
    from playwright.sync_api import sync_playwright

    from tests.browser.conftest import CHROMIUM, served

    with served() as address, sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=chromium(), args=CHROMIUM)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(f"{address}/")
        page.get_by_role("button", name="Open the demo").click()
        page.get_by_role("heading", name="tests").wait_for()
        yardstick = best_of(lambda: page.request.get(f"{address}/api/session"))
        line("yardstick: one empty request", yardstick, "-")
        page.goto(f"{address}/forecast")
        slider = page.get_by_role("slider", name="Wind")
        slider.focus()
        page.get_by_role("heading", name="What matters most").wait_for()
        taken = []
        for _ in range(20):
            begun = time.perf_counter()
            # The strip's band is redrawn with every answer: wait for its path to change.
            drawing = "svg[aria-label^=Tideline] path"
            shape = f"document.querySelector('{drawing}').getAttribute('d')"
            before = page.evaluate(shape)
            slider.press("ArrowRight")
            page.wait_for_function(f"before => {shape} !== before", arg=before, polling="raf")
            taken.append(time.perf_counter() - begun)
        line(
            "a slider moved, the strip redrawn",
            (min(taken), median(taken)),
            "0.15 s",
            min(taken) / yardstick[0],
        )
        browser.close()


def pack_v(draws, column: int) -> np.ndarray:
    """Open-circuit volts of one draw's pack over `GRID`."""
    family = draws.limits.family
    own = family.volts[0] + draws.columns.modes[:, column] @ family.volts[1:]
    return np.asarray(own * draws.limits.series)


def plain_walk(steps: Steps, draws, column: int) -> float:
    """One draw, one step after the other, as one would write it first; the charge left."""
    c, limits = draws.columns, draws.limits
    mass, rolling, drag = (float(v[column]) for v in (c.mass_kg, c.rolling, c.drag))
    inverse, aux = float(c.inverse_efficiency[column]), float(c.aux_w[column])
    ohm, capacity = float(c.resistance_ohm[column]), float(c.capacity_as[column])
    east, north = float(c.wind_east[column]), float(c.wind_north[column])
    v, most = float(c.target_mps[column]), float(c.max_power_w[column])
    z_table, v_table = GRID, pack_v(draws, column)
    z = 1.0
    for k in range(len(steps)):
        grade = steps.grade[k]
        head = east * steps.sin_bearing[k] + north * steps.cos_bearing[k]
        air = v + head
        force = mass * 9.80665 * (rolling * sqrt(1 - grade * grade) + grade) + drag * air * abs(air)
        power = min(max(force * v, 0.0) * inverse + aux, most)
        open_v = float(np.interp(z, z_table, v_table))
        amps = (open_v - sqrt(open_v * open_v - 4 * ohm * power)) / (2 * ohm)
        if open_v - amps * ohm < limits.cutoff_v:
            break
        z -= amps * steps.length_m[k] / v / capacity
    return z


def by_solve_ivp(steps: Steps, draws, column: int) -> float:
    """The same ride as a differential equation in distance; the charge left."""
    c = draws.columns
    mass, v = float(c.mass_kg[column]), float(c.target_mps[column])
    ohm, capacity = float(c.resistance_ohm[column]), float(c.capacity_as[column])
    head = c.wind_east[column] * steps.sin_bearing + c.wind_north[column] * steps.cos_bearing
    air = v + head
    force = mass * 9.80665 * (
        c.rolling[column] * np.sqrt(1 - steps.grade**2) + steps.grade
    ) + c.drag[column] * air * np.abs(air)
    power = np.minimum(
        np.maximum(force * v, 0) * c.inverse_efficiency[column] + c.aux_w[column],
        c.max_power_w[column],
    )
    ends = np.cumsum(steps.length_m)
    z_table, v_table = GRID, pack_v(draws, column)

    def slope(metres: float, state: np.ndarray) -> list[float]:
        p = float(power[min(int(np.searchsorted(ends, metres)), len(power) - 1)])
        open_v = float(np.interp(state[0], z_table, v_table))
        return [-(open_v - sqrt(open_v * open_v - 4 * ohm * p)) / (2 * ohm) / v / capacity]

    found = solve_ivp(slope, (0, float(ends[-1])), [1.0], rtol=1e-5, max_step=200.0)
    return float(found.y[0, -1])
