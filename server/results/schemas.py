"""What results say over HTTP: the logbook's rows, a test's page, its traces."""

from __future__ import annotations

from uuid import UUID

from limpet.figures.budget import Part
from limpet.figures.claimed import ClaimResult
from limpet.figures.climb import Climb
from limpet.figures.fade import Fade
from limpet.figures.gauge_habits import GaugeHabits
from limpet.figures.gauge_truth import GaugeStep
from limpet.figures.legs import Leg
from limpet.figures.pack_parts import PackPart
from limpet.figures.parts import (
    AtReference,
    Budget,
    Consumption,
    InputResult,
    MethodResult,
    PackResult,
    Regeneration,
)
from limpet.figures.plan_on import InWeather, PlanOn
from limpet.figures.sagging import Sag
from limpet.figures.shown_ranges import ShownRange
from limpet.figures.strip import Mark, Strip, Tide
from limpet.figures.traces import Channel, Stretch, Traces, TrackPath
from limpet.judge.answer import Run
from limpet.state.priors import PooledStep
from limpet.tell import Result
from limpet.tell.workings import Number, Working
from server.logbook.models import RangeTest
from server.logbook.rows import core_sheet, tags_of
from server.logbook.schemas import (
    EntryOut,
    QuestionOut,
    SheetOut,
    TestHead,
    entry_of,
    head_of,
    questions_of,
    sheet_of,
)
from server.results import services
from server.results.changed import change_of
from server.results.services import Computed
from server.wire.derived import Derived, QuantityOut, derived
from server.wire.notices import NoticeOut
from server.wire.problems import UnreadableError
from server.wire.schema import Schema
from server.wire.stored import readable


@derived(Mark)
class MarkOut(Derived):
    """An entry on the tideline."""


@derived(Tide)
class TideOut(Derived):
    """One of several packs on the tideline."""


@derived(Strip)
class StripOut(Derived):
    """A tideline: energy left over distance, its marks and where it ends."""


class FiguresOut(Schema):
    """The three figures, and how the range was found."""

    wh_per_km: QuantityOut | None
    wh_per_mi: QuantityOut | None
    range_to_cutoff: QuantityOut | None
    range_to_reserve: QuantityOut | None
    range_measured: bool
    reserve: float
    reserve_assumed: bool


@derived(Run)
class RunOut(Derived):
    """One test of a side, as found and as carried."""


class TestRow(TestHead):
    """A test as a row of the logbook."""

    strip: StripOut | None
    figures: FiguresOut | None
    tags: list[str]
    #: "waiting" until the worker begins, "computing" until it ends; "failed" says why in `trouble`.
    computed: Computed
    trouble: str


class SummaryOut(Schema):
    """All of an account's tests together."""

    tests: int
    measured: int
    waiting: int
    reach_m: float
    vehicles: list[str]
    packs: list[str]
    riders: list[str]
    tags: list[str]


class TestPage(Schema):
    """Some rows of the logbook, and what gives the next ones."""

    items: list[TestRow]
    next: str | None
    #: How many fit the filters.
    count: int
    #: All tests together; on the first page only.
    summary: SummaryOut | None


@derived(MethodResult)
class MethodOut(Derived):
    """One method's answer."""


@derived(Consumption)
class ConsumptionOut(Derived):
    """Energy over distance."""


@derived(AtReference)
class AtReferenceOut(Derived):
    """What a pack gives at 25 °C."""


@derived(PackResult)
class PackFindings(Derived):
    """What the ride says of the pack."""

    resistance_ohm: QuantityOut | None


@derived(InWeather)
class InWeatherOut(Derived):
    """What to plan on in other weather."""


@derived(PlanOn)
class PlanOnOut(Derived):
    """The promise for the next such ride."""


@derived(Part)
class PartOut(Derived):
    """An input's share of a variance."""


@derived(Budget)
class BudgetOut(Derived):
    """What makes each figure uncertain."""


class AdviceOut(Schema):
    """What would narrow a figure, and to what."""

    code: str
    message: str
    figure: str
    relative_half_width_now: float
    then: float
    notice: NoticeOut


@derived(Climb)
class ClimbOut(Derived):
    """Ascent and descent."""


@derived(Fade)
class FadeOut(Derived):
    """Where the speed held began to fall."""


@derived(GaugeStep)
class GaugeStepOut(Derived):
    """What a step of the gauge meant."""


@derived(PooledStep)
class PooledStepOut(Derived):
    """What a step of a gauge meant over several tests."""


@derived(GaugeHabits)
class GaugeHabitsOut(Derived):
    """How a gauge behaved along a ride."""


@derived(ShownRange)
class ShownRangeOut(Derived):
    """What the display promised, and what came."""


@derived(ClaimResult)
class ClaimResultOut(Derived):
    """The verdict on the maker's figure."""


@derived(PackPart)
class PackPartOut(Derived):
    """One of several packs."""


@derived(Leg)
class RiddenLegOut(Derived):
    """A piece of the ride."""


@derived(InputResult)
class InputResultOut(Derived):
    """An uncertain input as the ride leaves it."""


@derived(Regeneration)
class RegenerationOut(Derived):
    """Energy returned."""


@derived(Number)
class NumberOut(Derived):
    """What a letter of a formula stands for."""


@derived(Working)
class WorkingOut(Derived):
    """A figure's formula with this test's numbers."""


@derived(
    Result,
    without=(
        "reserve",
        "reserve_assumed",
        "range_measured",
        "ride",
        "started_fraction",
        "gauge_full",
        "energy_line",
        "distance_line",
        "energy_estimate",
        "distance_estimate",
        "contradiction",
        "curve",
    ),
)
class ResultOut(Derived):
    """The result, as the command line prints it."""

    advice: list[AdviceOut]


@derived(TrackPath)
class TrackPathOut(Derived):
    """A track over the ground."""


@derived(Sag)
class SagOut(Derived):
    """Volts and speed over what is left in the pack."""


class ChangedOut(Schema):
    """What a result was before Limpet learned to work it out better, and what it learned."""

    wh_per_km: QuantityOut | None
    wh_per_mi: QuantityOut | None
    range_to_cutoff: QuantityOut | None
    plan_on_m: float | None
    why: list[NoticeOut]


class TestDetail(TestHead):
    """A test with its entries and its result."""

    #: None when it was stored in a shape that cannot be read any more; `trouble` says so.
    sheet: SheetOut | None
    #: The kit that it was ridden with, where that is in the kit still.
    vehicle_id: UUID | None
    pack_id: UUID | None
    rider_id: UUID | None
    entries: list[EntryOut]
    has_samples: bool
    result: ResultOut | None
    strip: StripOut | None
    path: TrackPathOut | None
    sag: SagOut | None
    figures: FiguresOut | None
    #: Where the same evidence comes to another result than before, until it was seen.
    changed: ChangedOut | None
    computed: Computed
    trouble: str


@derived(Channel)
class ChannelOut(Derived):
    """One trace in bins."""


@derived(Stretch)
class StretchOut(Derived):
    """A part of a ride in figures."""


@derived(Traces)
class TracesOut(Derived):
    """Traces over common bins."""


def row_of(test: RangeTest) -> TestRow:
    """A test as a row."""
    kept = getattr(test, "kept_result", None)
    computed = services.computed_of(test, kept)
    return TestRow(
        **head_of(test),
        strip=readable(kept.strip, StripOut) if kept else None,
        figures=readable(kept.figures, FiguresOut) if kept else None,
        tags=tags_of(test.tags_text),
        computed=computed,
        trouble=kept.fault if kept and computed == "failed" else "",
    )


def detail_of(test: RangeTest, *, kept: bool = False) -> TestDetail:
    """A test with its entries and, once there is evidence, its result: of today's, or as it is kept."""
    entries = list(test.entries.standing().prefetch_related("revisions"))
    has_samples = test.streams.filter(rows__gt=0).exists()
    there = bool(entries) or has_samples
    found = (services.as_kept(test) if kept else services.current(test)) if there else None
    detail = services.detail_of(found) if found else {}
    trouble = found.fault if found else ""
    asked: dict[UUID, list[QuestionOut]] = {}
    core = None
    try:
        core = core_sheet(test)
        sheet, asked = sheet_of(test, core), questions_of(core, entries)
    except UnreadableError as error:
        sheet, trouble = None, str(error)
    # Read last: what came meanwhile may be among the entries, and is never told as less than it is.
    revision = RangeTest.objects.values_list("revision", flat=True).get(pk=test.pk)
    return TestDetail(
        **{**head_of(test), "revision": revision},
        sheet=sheet,
        vehicle_id=test.vehicle_id,
        pack_id=test.pack_id,
        rider_id=test.rider_id,
        entries=[entry_of(entry, asked.get(entry.pk, [])) for entry in entries],
        has_samples=has_samples,
        result=readable(detail.get("result"), ResultOut),
        strip=readable(detail.get("strip"), StripOut),
        path=readable(detail.get("path"), TrackPathOut),
        sag=readable(detail.get("sag"), SagOut),
        changed=None
        if found is None or core is None
        else readable(change_of(found, core.pack.chemistry), ChangedOut),
        figures=readable(found.figures, FiguresOut) if found else None,
        # Of nothing, nothing is to come.
        computed=services.computed_of(test, found) if there else "fresh",
        trouble=trouble,
    )
