"""The road load that is kept with a vehicle, as the core has it."""

from __future__ import annotations

import logging

from pydantic import ValidationError

from limpet.files.tripfile import adapter_of
from limpet.trip import RoadFit
from server.kit.models import Vehicle
from server.wire.stored import unwrapped

logger = logging.getLogger(__name__)


def road_of(vehicle: Vehicle) -> RoadFit | None:
    """The vehicle's fit; None without one, or with one that cannot be read."""
    kept = unwrapped(vehicle.fit)
    try:
        return adapter_of(RoadFit).validate_python(kept["road"]) if kept else None
    except (ValidationError, KeyError, TypeError):
        logger.warning("the fit of vehicle %s cannot be read", vehicle.pk)
        return None
