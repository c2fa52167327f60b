"""A test's facts with their time."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from limpet.history.facts import Facts, Spread


@dataclass(frozen=True, slots=True, kw_only=True)
class Dated:
    """What one test teaches, when it was ridden, and what its page is called by.

    `range_m` is its range to cut-off brought to the conditions of the pack's first test, and u, where
    somebody brought it.
    """

    key: str
    at: datetime
    facts: Facts
    range_m: Spread | None = None
