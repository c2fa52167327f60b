"""The cost of a stop against closed forms and against its own limits."""

from __future__ import annotations

from dataclasses import fields, replace

import numpy as np
import pytest

from limpet.drive.block import Block
from limpet.drive.draws import columns_of, drawn_inputs
from limpet.drive.inputs import inputs_of
from limpet.drive.limits import PackLimits
from limpet.drive.stops import CUT_AFTER_S, stop_cost
from limpet.pack import curve_family
from tests.trips import certain

LIMITS = PackLimits(
    family=curve_family("nmc"),
    series=13,
    cutoff_v=39.0,
    minimum_mps=1.4,
    accel_mps2=0.7,
    brake_mps2=1.1,
)


def cost(*, stops=1.0, slowings=0.0, v=6.0, most=5000.0, takes=1.0, **vehicle):
    what = certain()
    what = replace(what, vehicle=replace(what.vehicle, **vehicle))
    inputs = inputs_of(what)
    columns = columns_of(what, inputs, drawn_inputs(what, inputs, 1, 1))
    shape = (1, 2)
    block = one_step(
        stops=stops,
        slowings=slowings,
        speed_mps=np.full(shape, v),
        headwind_mps=np.zeros(shape),
        resisting_n=np.broadcast_to(columns.rolling * columns.mass_kg * 9.80665, shape),
        open_v=np.full(shape, 50.0),
    )
    block.resistance_ohm = columns.resistance_ohm
    where = np.array([0])
    return columns, stop_cost(columns, LIMITS, block, where, np.full(2, most), np.full(2, takes))


def one_step(*, stops, slowings, open_v, **road):
    block = Block(
        rows=slice(0, 1),
        length_m=np.array([100.0]),
        stops=np.array([stops]),
        slowings=np.array([slowings]),
        wheel_w=np.zeros_like(open_v),
        **road,
    )
    block.open_v = open_v
    return block


def test_a_stop_costs_the_motion_less_what_air_and_rolling_save():
    columns, found = cost()
    m, k = columns.mass_kg[0], columns.drag[0]
    roll = columns.rolling[0] * m * 9.80665
    kinetic = 0.5 * 1.03 * m * 36
    start_m, brake_m = 36 / 1.4, 36 / 2.2
    expected = (kinetic - 0.5 * k * 36 * start_m - (roll + k * 36) * brake_m) / 0.8
    assert found.energy_j[0, 0] == pytest.approx(expected)
    assert found.seconds[0, 0] == pytest.approx(15 + 3 / 0.7 + 3 / 1.1)
    assert found.idle_j[0, 0] == pytest.approx(9.0 * found.seconds[0, 0])


def test_a_slowing_is_a_stop_without_the_wait():
    _, stop = cost(stops=1.0)
    _, slowing = cost(stops=0.0, slowings=1.0)
    assert slowing.energy_j[0, 0] == stop.energy_j[0, 0]
    assert stop.seconds[0, 0] - slowing.seconds[0, 0] == pytest.approx(15.0)


def test_regeneration_gives_some_back_and_a_full_pack_nothing():
    _, none = cost()
    _, some = cost(regeneration=0.5)
    _, full = cost(regeneration=0.5, takes=0.0)
    assert some.energy_j[0, 0] < none.energy_j[0, 0]
    assert full.energy_j[0, 0] == none.energy_j[0, 0]


def test_the_pull_that_lasts_is_that_of_the_speed_five_seconds_before_the_end():
    columns, found = cost(v=6.0)
    m, k, roll = (
        columns.mass_kg[0],
        columns.drag[0],
        columns.rolling[0] * columns.mass_kg[0] * 9.80665,
    )
    early = 6.0 - 0.7 * CUT_AFTER_S
    power = (roll + 1.03 * m * 0.7 + k * early**2) * early / 0.8 + 9.0
    volts = (50 + np.sqrt(2500 - 4 * 0.11 * power)) / 2
    assert found.lasting_v[0, 0] == pytest.approx(volts)
    assert found.hardest_v[0] < found.lasting_v[0, 0]
    peak = (roll + 1.03 * m * 0.7 + k * 36) * 6 / 0.8 + 9.0
    assert found.hardest_w[0] == pytest.approx(peak)


def test_a_weak_motor_pulls_its_most_for_longer():
    _, weak = cost(most=400.0)
    assert weak.hardest_w[0] == 400.0
    _, strong = cost()
    assert weak.hardest_v[0] > strong.hardest_v[0]
    # It gathers way so slowly that the last five seconds are all at full power.
    assert weak.lasting_v[0, 0] == pytest.approx(weak.hardest_v[0], abs=0.3)


def test_every_draw_is_its_own():
    what = certain()
    inputs = inputs_of(what)
    columns = columns_of(what, inputs, drawn_inputs(what, inputs, 1, 1))
    weak_and_strong = {
        name: np.array([value, 1.7 * value])
        for name, value in (
            ("mass_kg", 95.0),
            ("resistance_ohm", 0.11),
            ("drag", 0.3),
            ("stopping", 0.8),
        )
    }

    def found(*chosen):
        k = list(chosen)
        some = {
            name: value[..., k] if isinstance(value, np.ndarray) and value.shape[-1] == 2 else value
            for name, value in (
                (field.name, getattr(columns, field.name)) for field in fields(columns)
            )
        }
        some |= {name: values[k] for name, values in weak_and_strong.items()}
        block = one_step(
            stops=1.0,
            slowings=0.5,
            speed_mps=np.array([[6.0, 9.0]])[:, k],
            headwind_mps=np.array([[1.0, -2.0]])[:, k],
            resisting_n=np.array([[12.0, 30.0]])[:, k],
            open_v=np.array([[50.0, 47.0]])[:, k],
        )
        block.resistance_ohm = some["resistance_ohm"]
        most, takes = np.array([700.0, 1500.0])[k], np.array([1.0, 0.4])[k]
        return stop_cost(type(columns)(**some), LIMITS, block, np.array([0]), most, takes)

    both, first, second = found(0, 1), found(0), found(1)
    for name in ("energy_j", "idle_j", "seconds", "charge_as", "loaded_v", "lasting_v"):
        alone = [getattr(first, name)[0, 0], getattr(second, name)[0, 0]]
        assert getattr(both, name)[0] == pytest.approx(alone), name
    # The peaks are told of the best values alone.
    assert both.hardest_w == pytest.approx(first.hardest_w)
    assert both.hardest_v == pytest.approx(first.hardest_v)
