"""Range tests as recorded: the sheet, the entries with their history, the samples in chunks."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, Self

from django.contrib.auth.models import AnonymousUser, User
from django.db import models
from django.utils import timezone

from limpet.bounds import MOST_WORDS
from limpet.evidence.columns import ENTRY_COLUMNS, Column
from limpet.evidence.model import ENTRY_KINDS
from server.wire.owned import Owned, OwnedQuerySet


class RangeTestQuerySet(OwnedQuerySet):
    def for_list(self) -> Self:
        """Newest first, with what a row needs, in one query."""
        return (
            self.select_related("kept_result")
            .only(
                "id", "title", "purpose", "started_at", "started_at_text", "state", "revision",
                "vehicle_name", "pack_name", "rider_name", "sorted_at",
                "kept_result__revision", "kept_result__core", "kept_result__fault",
                "kept_result__strip", "kept_result__figures",
            )
            .order_by("-sorted_at", "-id")
        )  # fmt: skip

    def with_evidence(self) -> Self:
        """Tests that anything was recorded of."""
        entries = Entry.objects.filter(test=models.OuterRef("pk"), removed=False)
        chunks = SampleChunk.objects.filter(test=models.OuterRef("pk"))
        return self.filter(models.Exists(entries) | models.Exists(chunks))

    def due(self, core: str) -> Self:
        """Tests whose result is missing, or was derived from other evidence or another core."""
        return (
            self.filter(alive=True)
            .with_evidence()
            .exclude(kept_result__revision=models.F("revision"), kept_result__core=core)
        )


class RangeTest(Owned):
    """One range test. `sheet` is test.json as the format has it; samples and entries hang on it."""

    class State(models.TextChoices):
        RIDING = "riding"
        ENDED = "ended"

    title = models.CharField(max_length=300)
    purpose = models.CharField(max_length=20, null=True, blank=True)
    started_at = models.DateTimeField(null=True, blank=True)
    #: With the offset it was noted with, which a database time does not keep.
    started_at_text = models.CharField(max_length=40, blank=True)
    state = models.CharField(max_length=10, choices=State, default=State.ENDED)
    sheet = models.JSONField()
    extra = models.JSONField(default=dict)
    notices = models.JSONField(default=list)
    route_gpx = models.BinaryField(null=True, blank=True)
    vehicle_name = models.CharField(max_length=100, blank=True)
    pack_name = models.CharField(max_length=100, blank=True)
    rider_name = models.CharField(max_length=100, blank=True)
    vehicle = models.ForeignKey("kit.Vehicle", null=True, on_delete=models.SET_NULL)
    pack = models.ForeignKey("kit.Pack", null=True, on_delete=models.SET_NULL)
    rider = models.ForeignKey("kit.Rider", null=True, on_delete=models.SET_NULL)
    #: What lists are sorted by: when it began, or when it was stored if nobody said.
    sorted_at = models.DateTimeField(default=timezone.now, editable=False)
    #: Raised by every change to the evidence; a result is of one revision.
    revision = models.PositiveIntegerField(default=1)

    objects = RangeTestQuerySet.as_manager()  # type: ignore[misc]

    class Meta:
        indexes = (
            models.Index(fields=("owner", "-started_at"), name="range_test_newest"),
            models.Index(fields=("owner", "-sorted_at", "-id"), name="range_test_listed"),
            models.Index(fields=("owner", "state"), name="range_test_by_state"),
        )

    def __str__(self) -> str:
        return self.title


class EntryQuerySet(models.QuerySet["Entry"]):
    def owned_by(self, user: User | AnonymousUser) -> Self:
        """The entries of an account's tests; none for nobody."""
        if not user.is_authenticated:
            return self.none()
        return self.filter(test__owner=user, test__alive=True)

    def standing(self) -> Self:
        """Those that were not taken out, in order of time."""
        return self.filter(removed=False).order_by("time_s", "position")


def _kept(column: Column) -> models.Field[Any, Any]:
    """A column of the one list as a column of the table."""
    if column.name == "time_s":
        return models.FloatField()
    if column.name == "kind":
        return models.CharField(max_length=12, choices=[(kind, kind) for kind in ENTRY_KINDS])
    if not column.is_text:
        return models.FloatField(null=True, blank=True)
    if column.longest <= MOST_WORDS:
        return models.CharField(max_length=column.longest, null=True, blank=True)
    return models.TextField(null=True, blank=True)


class Entry(models.Model):
    """What the rider wrote down at one moment; `None` is "not read"."""

    id = models.UUIDField(primary_key=True, editable=False)
    test = models.ForeignKey(RangeTest, on_delete=models.CASCADE, related_name="entries")
    position = models.PositiveIntegerField(default=0)
    extra = models.JSONField(default=dict)
    removed = models.BooleanField(default=False)
    if TYPE_CHECKING:
        time_s: float
        kind: str

    objects = EntryQuerySet.as_manager()

    class Meta:
        indexes = (models.Index(fields=("test", "time_s"), name="entry_in_time"),)


# What `evidence.columns` says that an entry holds; a reading more there is a migration here.
for _name, _column in ENTRY_COLUMNS.items():
    Entry.add_to_class(_name, _kept(_column))


class EntryRevision(models.Model):
    """What an entry said before it was changed or taken out. Never altered itself."""

    entry = models.ForeignKey(Entry, on_delete=models.CASCADE, related_name="revisions")
    replaced_at = models.DateTimeField(auto_now_add=True)
    values = models.JSONField()

    class Meta:
        ordering = ("-replaced_at", "-id")


class SampleChunk(models.Model):
    """A stretch of samples as Parquet; immutable."""

    test = models.ForeignKey(RangeTest, on_delete=models.CASCADE, related_name="chunks")
    sequence = models.PositiveIntegerField()
    first_time_s = models.FloatField()
    last_time_s = models.FloatField()
    count = models.PositiveIntegerField()
    data = models.BinaryField()

    class Meta:
        ordering = ("sequence",)
        constraints = (
            models.UniqueConstraint(fields=("test", "sequence"), name="sample_chunk_once"),
        )


class TestResult(models.Model):
    """What a test came to, under the evidence and the core that it was derived from.

    Lists read rows and compute nothing; a row whose evidence or core has moved on is computed anew
    by `worker`. `figures`, `strip` and `detail` are kept as `wire.stored` does.
    """

    __test__ = False  # not a pytest class, whatever its name begins with

    test = models.OneToOneField(RangeTest, on_delete=models.CASCADE, related_name="kept_result")
    revision = models.PositiveIntegerField()
    core = models.CharField(max_length=32)
    #: Why it could not be computed; empty when it could.
    fault = models.CharField(max_length=500, blank=True)
    wh_per_km = models.FloatField(null=True, blank=True)
    wh_per_km_std = models.FloatField(null=True, blank=True)
    range_to_cutoff_m = models.FloatField(null=True, blank=True)
    range_to_cutoff_std_m = models.FloatField(null=True, blank=True)
    #: How far its tideline reaches, and whether it was ridden to the end of the pack.
    reach_m = models.FloatField(null=True, blank=True)
    measured = models.BooleanField(default=False)
    figures = models.JSONField(null=True)
    #: The tideline thinned to what a row of a list can show.
    strip = models.JSONField(null=True)
    #: The whole result, and the tideline as the test's own page draws it.
    detail = models.JSONField(null=True)
    computed_at = models.DateTimeField(auto_now=True)

    class Meta:
        indexes = (
            models.Index(fields=("core", "revision"), name="result_by_core"),
            models.Index(fields=("wh_per_km",), name="result_by_consumption"),
            models.Index(fields=("range_to_cutoff_m",), name="result_by_range"),
        )
