"""Named errors, each drawn once: what two tests have in common is one number in both."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from functools import lru_cache
from hashlib import blake2b

import numpy as np
from numpy.typing import NDArray

from limpet.uncertain.normal import normal_quantile

FloatArray = NDArray[np.float64]

#: Draws of a comparison; and where hundreds of tests are looked at, whose number makes up for it.
DRAWS, FEW, MANY = 1000, 120, 20
_draws: ContextVar[int] = ContextVar("draws", default=DRAWS)


@contextmanager
def draws_of(count: int) -> Iterator[None]:
    """Within it a key names so many numbers."""
    token = _draws.set(count)
    try:
        yield
    finally:
        _draws.reset(token)


@contextmanager
def few_draws_of_many(tests: int) -> Iterator[None]:
    """Within it a key names `FEW` numbers, where so many tests are looked at that it makes no difference."""
    with draws_of(FEW if tests > MANY else _draws.get()):
        yield


def score(*key: str) -> FloatArray:
    """Standard normal numbers of what a key names, shape (DRAWS,): the same whenever it is asked for.

    Notes
    -----
    The even quantiles of the normal distribution in an order of the key's own: the mean is 0 and the
    spread 1 to within a thousandth, and different keys are independent but for chance. Nobody may
    change what is returned.
    """
    return _score(_draws.get(), key)


@lru_cache(maxsize=2)
def _even(draws: int) -> FloatArray:
    return np.asarray(normal_quantile((np.arange(draws) + 0.5) / draws))


@lru_cache(maxsize=16_384)
def _score(draws: int, key: tuple[str, ...]) -> FloatArray:
    seed = int.from_bytes(blake2b("\x1f".join(key).encode(), digest_size=8).digest(), "big")
    found = np.random.default_rng(seed).permutation(_even(draws))
    found.flags.writeable = False
    return found
