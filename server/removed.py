"""What was removed can be had back for some weeks; then it goes."""

from __future__ import annotations

from server.kit.models import Pack, Rider, Route, Vehicle
from server.logbook.models import RangeTest
from server.plans.models import Claim, KeptTrip, Plan
from server.wire.owned import purge

KINDS = (Vehicle, Pack, Rider, Route, RangeTest, Plan, KeptTrip, Claim)


def purge_all() -> int:
    """Delete for good what was removed long ago, of every kind; says how many rows went."""
    return sum(purge(kind) for kind in KINDS)
