"""Draws that agree with readings: against closed forms, and where a reading cannot tell."""

import numpy as np
import pytest

from limpet.uncertain.posterior import Observation, infer


def seen(residual):
    nothing = np.zeros_like(residual)
    return Observation(residual=residual, place=nothing, slope=nothing)


def linear(matrix, readings, std):
    matrix, readings, std = np.array(matrix), np.array(readings), np.array(std)

    def look(scores):
        return seen((matrix @ scores - readings[:, None]) / std[:, None])

    return look


def test_a_linear_model_has_the_posterior_of_the_normal_equations():
    # x ~ N(0, 1)², y = A·x + e: mean and covariance are those of weighted least squares with a
    # prior (Gelman et al., Bayesian Data Analysis, 3rd ed. (2013), 14.8; from memory).
    matrix, readings, std = [[1.0, 1.0], [1.0, -0.5], [0.2, 0.0]], [1.0, 0.3, 0.4], [0.1, 0.3, 0.2]
    found = infer(linear(matrix, readings, std), 2, 20_000, 1)
    a, w = np.array(matrix), np.diag(1 / np.array(std) ** 2)
    covariance = np.linalg.inv(np.eye(2) + a.T @ w @ a)
    mean = covariance @ a.T @ w @ np.array(readings)
    assert found.scores.mean(axis=1) == pytest.approx(mean, abs=0.01)
    assert np.cov(found.scores) == pytest.approx(covariance, abs=0.02 * covariance.max())
    assert found.covariance == pytest.approx(covariance, rel=1e-6)
    assert found.scores[:, 0] == pytest.approx(mean, abs=1e-3)
    assert found.effective > 19_900


def test_without_readings_the_draws_are_the_inputs():
    found = infer(lambda scores: seen(np.zeros((0, scores.shape[1]))), 3, 4001, 1)
    assert found.scores.mean(axis=1) == pytest.approx(0, abs=1e-3)
    assert found.scores.std(axis=1) == pytest.approx(1, abs=2e-3)
    assert not found.scores[:, 0].any()


def test_eight_sharp_readings_leave_all_draws():
    # Where plain weights would keep a handful of draws of 40,000 (five to a hundred).
    rng = np.random.default_rng(3)
    matrix = rng.normal(size=(8, 12))
    found = infer(linear(matrix, rng.normal(size=8), np.full(8, 1e-3)), 12, 1000, 1)
    assert found.effective == 1000
    assert len(np.unique(found.scores[0])) == 1000


def test_the_same_seed_gives_the_same_draws():
    look = linear([[1.0, 2.0]], [0.5], [0.1])
    assert np.array_equal(infer(look, 2, 200, 7).scores, infer(look, 2, 200, 7).scores)
    assert not np.array_equal(infer(look, 2, 200, 7).scores, infer(look, 2, 200, 8).scores)


def plateau(reading, std=0.02):
    """A reading through a curve that is steep, flat between −1 and 1, and steep again."""

    def look(scores):
        place = scores[:1]
        outside = np.clip(place, None, -1) + 1 + np.clip(place, 1, None) - 1
        slope = np.where(np.abs(place) < 1, 0.01, 1.0)
        value = outside + 0.01 * np.clip(place, -1, 1)
        return Observation(residual=(value - reading) / std, place=place, slope=slope / std)

    return look


def test_on_a_plateau_a_reading_cannot_tell_and_the_draws_lie_along_it():
    found = infer(plateau(0.0), 2, 2000, 1)
    spread = np.quantile(found.scores[0], [0.025, 0.5, 0.975])
    assert spread[0] < -0.85
    assert spread[2] > 0.85
    assert abs(spread[1]) < 0.1


def test_beyond_the_plateau_it_tells_sharply():
    found = infer(plateau(0.5), 2, 2000, 1)
    assert np.quantile(found.scores[0], [0.025, 0.975]) == pytest.approx([1.45, 1.53], abs=0.03)


def test_along_a_bend_the_draws_lie_as_the_whole_posterior_does_within_a_quarter_of_its_spread():
    # Three readings of a place that moves on, through a curve that is steep, flat and steep again, each with
    # the same offset: their posterior on a grid, by Bayes' rule and nothing else.
    moved, offset_std, std = np.array([0.0, 0.6, 1.2]), 0.1, 0.05
    shown = np.array([1.1, 0.35, 0.2])

    def curve(place):
        return place**3 / 3 + 0.05 * place

    def look(scores):
        place = 1.5 + 0.4 * scores[0] - moved[:, None]
        value = curve(place) + offset_std * scores[1]
        return Observation(
            residual=(value - shown[:, None]) / std, place=place, slope=(place**2 + 0.05) / std
        )

    axis = np.linspace(-4.5, 4.5, 901)
    grid = np.stack([one.ravel() for one in np.meshgrid(axis, axis, indexing="ij")])
    weight = np.exp(-0.5 * ((look(grid).residual ** 2).sum(axis=0) + (grid**2).sum(axis=0)))
    found = infer(look, 2, 4000, 1)
    for row in (0, 1):
        by_score = weight.reshape(901, 901).sum(axis=1 - row)
        cumulated = np.cumsum(by_score) / by_score.sum()
        exact = np.interp([0.16, 0.5, 0.84], cumulated, axis)
        near = 0.25 * (exact[2] - exact[0]) / 2
        assert np.quantile(found.scores[row], [0.16, 0.5, 0.84]) == pytest.approx(exact, abs=near)


@pytest.mark.parametrize(("apart", "says"), [(0.05, False), (3.0, True)])
def test_readings_that_contradict_each_other_widen_the_answer(apart, says):
    # Birge ratio √(χ²/n) (R. T. Birge, 1932): two readings of one thing, ±0.1 each.
    look = linear([[1.0], [1.0]], [-apart / 2, apart / 2], [0.1, 0.1])
    found = infer(look, 1, 4000, 1)
    alone = 1 / np.sqrt(1 + 2 / 0.01)
    assert (found.birge > 1) is says
    assert found.scores.std() == pytest.approx(found.birge * alone, rel=0.1)
    if says:
        assert found.birge == pytest.approx(np.sqrt((2 * (apart / 2 / 0.1) ** 2) / 2), rel=0.01)


def test_a_search_that_ends_in_a_valley_is_begun_elsewhere():
    # 2·sin(4x) + x falls again behind x = 0.41 and meets 3.2 only near x = 1.7: from nothing, least squares
    # stops at the first hill, eight standard uncertainties off.
    def look(scores):
        return seen((2 * np.sin(4 * scores[:1]) + scores[:1] - 3.2) / 0.1)

    found = infer(look, 1, 400, 1)
    assert abs(found.residual[0]) < 1.0
    assert 2 * np.sin(4 * found.scores[0, 0]) + found.scores[0, 0] == pytest.approx(3.2, abs=0.1)
    assert found.birge == 1.0
    assert found.effective > 200


def test_readings_that_cannot_both_be_true_widen_what_is_told():
    found = infer(linear([[1.0], [1.0]], [1.0, -1.0], [0.1, 0.1]), 1, 400, 1)
    # By hand: the mode lies between, each reading is off by ten; √(χ²/n) = 10.
    assert found.scores[0, 0] == pytest.approx(0.0, abs=0.02)
    assert found.birge == pytest.approx(10.0, rel=0.02)


def test_a_valley_that_misses_a_little_is_left_for_a_lower_one():
    """Long before readings contradict each other: at 0 the search stands in a valley of cost 2.9, at about −1 is one of 1."""

    def look(scores):
        residual = 1.7 - 2.6 * np.exp(-(((scores[0] + 1.1) / 0.35) ** 2))
        nothing = np.zeros((1, scores.shape[1]))
        return Observation(residual=residual[None], place=nothing, slope=nothing)

    found = infer(look, 1, 200, seed=1)
    assert found.birge == 1
    assert found.scores[0, 0] == pytest.approx(-0.9, abs=0.15)
    assert abs(found.residual[0]) < 0.3
