"""Hypothesis without a clock: a slow machine is no fault, and every run tries the same cases."""

from hypothesis import settings

settings.register_profile("limpet", deadline=None, derandomize=True)
settings.load_profile("limpet")
