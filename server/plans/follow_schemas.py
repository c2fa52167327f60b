"""What a ride under way is told over HTTP."""

from __future__ import annotations

from typing import Literal
from uuid import UUID

from limpet.under_way.advice import OneMore
from limpet.under_way.answer import Consumption, Way
from limpet.under_way.answer import Enough as EnoughNow
from limpet.under_way.matter import Code
from limpet.under_way.others import Choice
from limpet.under_way.reads import Reads
from limpet.under_way.ways import Onward
from server.plans.schemas import SlowToOut
from server.results.schemas import StripOut
from server.wire.derived import Derived, QuantityOut, derived
from server.wire.notices import NoticeOut
from server.wire.schema import Schema


@derived(Way)
class WayOut(Derived):
    """The way that is left of a ride."""

    slow_to: SlowToOut | None


@derived(EnoughNow)
class EnoughNowOut(Derived):
    """How well the range would be known if the ride stopped now."""


@derived(Choice)
class ChoiceOut(Derived):
    """One way to go on, with its chances."""


@derived(OneMore)
class OneMoreOut(Derived):
    """What one more reading would change."""


class MatterOut(Schema):
    """The line that matters now: a code of the core's list, and the values of its words."""

    code: Code
    values: dict[str, float | str]


@derived(Consumption)
class ConsumptionSoFarOut(Derived):
    """What the ride took so far."""


class EntrySeen(Schema):
    """An entry of an answer, and how often it had been changed by then."""

    id: UUID
    changes: int


class EvidenceOut(Schema):
    """What an answer was made from: the test's evidence, counted and digested, and the core that read it.

    Answers of one digest are of one evidence; the greater revision is the newer. 0 before a ride begins.
    `entries` are those that stood, with how often each had been changed, and `sheet_changes` the same of
    the sheet: by them a device tells what it knows beyond the answer.
    """

    revision: int
    digest: str
    core: str
    sheet_changes: int
    entries: list[EntrySeen]


class SightOut(Schema):
    """What an instrument would show in each draw, at shares of the energy left."""

    name: str
    left: list[float]
    shown: list[list[float]]
    std: float
    by_log: bool


class BaseOut(Schema):
    """What an instrument of the way showed where."""

    name: str
    shown: float
    at_m: float


@derived(Reads)
class ReadsOut(Derived):
    """What the rider's own instrument shows where."""


class StepOut(Schema):
    """A step in speed of the vehicle's own: what its rider reads there."""

    name: Literal["gauge", "voltage_load_v"]
    at: float
    what: str
    speed_mps: float


class FollowTableOut(Schema):
    """The table for a device: `limpet.under_way.offline_table` says what its numbers are."""

    follow_table: Literal[2]
    at_s: float
    done_m: float
    until_m: float
    onward: Onward
    leads: bool
    turned: bool
    lap_m: float | None
    turn_until_m: float
    half: float | None
    in_bag: float
    reserve: float
    wanted: float
    shows_charge: bool
    reads: ReadsOut | None
    said_mps: float | None
    speeds_mps: list[float]
    slower: list[list[float]]
    places_m: list[float]
    left_wh: list[float]
    last_wh: list[float]
    usable_wh: list[float]
    per_m: list[float]
    #: Absent in a table of before.
    heat_slope: float = 0.0
    takes_wh: list[list[float]]
    rest_wh: list[list[float]]
    home_wh: list[list[float]] | None
    lap_wh: list[float] | None
    step_std: float
    height_m: float
    climb_wh: float
    sights: list[SightOut]
    bases: list[BaseOut]
    steps: list[StepOut]


class FollowOut(Schema):
    """A ride under way as it stands: all of it from the one evidence that it names."""

    evidence: EvidenceOut
    at_s: float
    distance: QuantityOut | None
    reads: ReadsOut | None
    consumption: ConsumptionSoFarOut | None
    strip: StripOut
    shows_charge: bool
    energy_left_fraction: QuantityOut | None
    range_left_to_cutoff: QuantityOut | None
    range_left_to_reserve: QuantityOut | None
    reserve: float
    way: WayOut | None
    enough: EnoughNowOut | None
    warnings: list[NoticeOut]
    matter: MatterOut
    choices: list[ChoiceOut]
    more: list[OneMoreOut]
    onward: Onward
    wanted: float
    table: FollowTableOut | None
