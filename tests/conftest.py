"""Hypothesis without a clock: a slow machine is no fault, and every run tries the same cases."""

import os

import pytest
from hypothesis import settings

settings.register_profile("limpet", deadline=None, derandomize=True)
settings.load_profile("limpet")

# The browser's driver keeps an event loop in the tests' own thread, where Django's check takes any
# query of a later test for one made by that loop.
os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "true"

#: Few tests that take long; begun last they would keep one processor busy while the others are done.
_LONG = ("calibration/test_calibration", "calibration/test_decisions", "browser/test_walk")


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """The long files first, then the browser's, then the others as they come."""

    def rank(item: pytest.Item) -> int:
        where = item.nodeid
        long = [at for at, name in enumerate(_LONG) if name in where]
        return long[0] if long else len(_LONG) + ("browser/" not in where)

    items.sort(key=rank)
