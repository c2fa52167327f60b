"""Integrals over uneven samples by the trapezoidal rule, with nothing counted across gaps."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

FloatArray = NDArray[np.float64]


def seconds_between(time_s: FloatArray, threshold_s: float) -> FloatArray:
    """The steps between samples, 0 where one is a gap [s], shape (n - 1,).

    Parameters
    ----------
    time_s : shape (n,), rising [s]
    threshold_s : what is longer is a gap [s]
    """
    steps = np.diff(time_s)
    return np.where(steps > threshold_s, 0.0, steps)


def integral(values: FloatArray, seconds: FloatArray) -> float:
    """∫ y dt over all steps [unit·s]; 0 of fewer than two values.

    Parameters
    ----------
    values : y at the samples [unit], shape (n,)
    seconds : between them [s], shape (n - 1,)
    """
    return float(np.dot(values[1:] + values[:-1], seconds)) / 2 if len(values) > 1 else 0.0


def pieces(values: FloatArray, seconds: FloatArray) -> FloatArray:
    """The integral of each step by itself [unit·s], shape (n - 1,).

    Parameters
    ----------
    values : shape (n,)
    seconds : of each step, 0 in a gap, shape (n - 1,)
    """
    return (values[1:] + values[:-1]) * (seconds / 2)


def running(values: FloatArray, seconds: FloatArray) -> FloatArray:
    """The same up to each sample, 0 at the first [unit·s], shape (n,).

    Parameters
    ----------
    values : shape (n,)
    seconds : of each step, 0 in a gap, shape (n - 1,)
    """
    return np.concatenate([[0.0], np.cumsum(pieces(values, seconds))])
