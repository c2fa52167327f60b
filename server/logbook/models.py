"""Range tests as recorded: the sheet, the entries with their history, the samples in streams."""

from __future__ import annotations

from functools import reduce
from operator import or_
from typing import TYPE_CHECKING, Any, Self
from uuid import uuid4

from django.contrib.auth.models import AnonymousUser, User
from django.db import models
from django.utils import timezone

from limpet.bounds import MOST_NAME, MOST_WORDS
from limpet.evidence.columns import ENTRY_COLUMNS, Column
from limpet.evidence.model import ENTRY_KINDS
from server.wire.owned import Owned, OwnedQuerySet
from server.wire.trying import Tried

#: Words that are looked for at once.
MOST_SOUGHT = 6


class RangeTestQuerySet(OwnedQuerySet):
    def newest_first(self) -> Self:
        """With what names a test in a list, and no more."""
        return self.only(*NAMED).order_by("-sorted_at", "-id")

    def naming(self, words: str) -> Self:
        """Those with each of some words in a name."""
        found = self
        for word in words.split()[:MOST_SOUGHT]:
            names = ("title", "vehicle_name", "pack_name", "rider_name")
            holds = (models.Q(**{f"{name}__icontains": word}) for name in names)
            found = found.filter(reduce(or_, holds))
        return found

    def with_evidence(self) -> Self:
        """Tests that anything was recorded of."""
        entries = Entry.objects.filter(test=models.OuterRef("pk"), removed=False)
        chunks = SampleChunk.objects.filter(stream__test=models.OuterRef("pk"))
        return self.filter(models.Exists(entries) | models.Exists(chunks))


#: The columns that a list names a test by.
class OctetLength(models.Func):
    """How many bytes a binary column holds; Django's own Length counts characters."""

    function = "OCTET_LENGTH"
    output_field = models.BigIntegerField()


NAMED = (
    "id", "title", "purpose", "started_at", "started_at_text", "state", "revision",
    "vehicle_name", "pack_name", "rider_name", "sorted_at", "tags_text", "ended_how",
)  # fmt: skip


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
    #: Why it ended; its tags, each between two bars; and the month it was ridden in, as noted.
    ended_how = models.CharField(max_length=12, blank=True)
    tags_text = models.CharField(max_length=600, blank=True)
    month = models.PositiveSmallIntegerField(null=True, blank=True)
    #: How often a part of the sheet was changed; a change says which of these it was made from.
    sheet_changes = models.PositiveIntegerField(default=0)
    #: Raised by every change to the evidence; a result is of one revision.
    revision = models.PositiveIntegerField(default=1)

    objects = RangeTestQuerySet.as_manager()  # type: ignore[misc]

    class Meta:
        indexes = (
            models.Index(fields=("owner", "-started_at"), name="range_test_newest"),
            models.Index(fields=("owner", "-sorted_at", "-id"), name="range_test_listed"),
            models.Index(fields=("owner", "state"), name="range_test_by_state"),
            models.Index(fields=("owner", "vehicle_name"), name="range_test_by_vehicle"),
            models.Index(fields=("owner", "pack_name"), name="range_test_by_pack"),
        )

    def __str__(self) -> str:
        return self.title


class SheetRevision(models.Model):
    """A change of one part of a sheet. Never altered itself.

    `number` counts the changes of a test. One that was made from an older sheet than another's is
    kept without being taken; its number is the one that was in its way.
    """

    test = models.ForeignKey(RangeTest, on_delete=models.CASCADE, related_name="sheet_revisions")
    number = models.PositiveIntegerField()
    part = models.CharField(max_length=20)
    taken = models.BooleanField(default=True)
    made_at = models.DateTimeField(auto_now_add=True)
    by = models.ForeignKey("auth.User", null=True, on_delete=models.SET_NULL, related_name="+")
    #: What the part held, and what it was to hold, by the fields' names.
    before = models.JSONField()
    after = models.JSONField()

    class Meta:
        ordering = ("-id",)
        indexes = (models.Index(fields=("test", "part", "number"), name="sheet_revision_of_part"),)

    def __str__(self) -> str:
        return f"{self.part} {self.number}"


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
    #: Of a removal and of what brought an entry back: sent again under it, neither changes anything.
    act = models.UUIDField(null=True)

    class Meta:
        ordering = ("-replaced_at", "-id")


class Photo(models.Model):
    """A picture of the display, as a file of the bundle; an entry refers to it by its name."""

    id = models.UUIDField(primary_key=True, default=uuid4, editable=False)
    test = models.ForeignKey(RangeTest, on_delete=models.CASCADE, related_name="photos")
    name = models.CharField(max_length=MOST_NAME)
    data = models.BinaryField()
    bytes = models.PositiveIntegerField(default=0)
    created_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ("name",)
        constraints = (models.UniqueConstraint(fields=("test", "name"), name="photo_of_test"),)

    def __str__(self) -> str:
        return self.name


class Stream(Tried):
    """What one instrument sent during one test, on its own clock.

    `sums` are those of all its samples (`limpet.evidence.reduction`), carried on with every batch
    and kept as `wire.stored` does; what is missing there is summed again. What is tried is to draw
    its chunks together.
    """

    id = models.UUIDField(primary_key=True, default=uuid4, editable=False)
    test = models.ForeignKey(RangeTest, on_delete=models.CASCADE, related_name="streams")
    instrument = models.CharField(max_length=MOST_NAME)
    clock_offset_s = models.FloatField(default=0.0)
    #: -1 when the instrument counts the current positive while charging.
    sign = models.SmallIntegerField(default=1)
    #: The batch that is taken next; those before it are here.
    next_sequence = models.PositiveIntegerField(default=0)
    rows = models.PositiveIntegerField(default=0)
    #: What its chunks take on the disk.
    bytes = models.PositiveBigIntegerField(default=0)
    #: Batches that came since its chunks were last drawn together.
    short = models.PositiveIntegerField(default=0)
    sums = models.JSONField(null=True)
    created_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ("created_at", "id")
        indexes = (models.Index(fields=("short",), name="stream_in_short_chunks"),)

    def __str__(self) -> str:
        return self.instrument


class SampleChunk(models.Model):
    """A stretch of a stream's samples as Parquet; immutable, and replaced by fewer longer ones.

    It holds the batches `sequence` to `through`; its times are the stream's own.
    """

    stream = models.ForeignKey(Stream, on_delete=models.CASCADE, related_name="chunks")
    sequence = models.PositiveIntegerField()
    through = models.PositiveIntegerField()
    first_time_s = models.FloatField()
    last_time_s = models.FloatField()
    count = models.PositiveIntegerField()
    #: What it comes to, kept as `wire.stored` does; None in what was stored before there were sums.
    sums = models.JSONField(null=True)
    data = models.BinaryField()

    class Meta:
        ordering = ("sequence",)
        constraints = (
            models.UniqueConstraint(fields=("stream", "sequence"), name="sample_chunk_of_stream"),
        )
