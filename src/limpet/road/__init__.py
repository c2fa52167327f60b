"""The road: so far, the length of a track on the ellipsoid."""

from limpet.road.geodesic import step_lengths_m

__all__ = ["step_lengths_m"]
