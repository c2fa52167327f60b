"""Hypothesis without a clock: a slow machine is no fault, and every run tries the same cases."""

import os

from hypothesis import settings

settings.register_profile("limpet", deadline=None, derandomize=True)
settings.load_profile("limpet")

# The browser's driver keeps an event loop in the tests' own thread, where Django's check takes any
# query of a later test for one made by that loop.
os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "true"
