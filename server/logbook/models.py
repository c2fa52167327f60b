"""Range tests as recorded: the sheet, the entries with their history, the samples in chunks."""

from __future__ import annotations

from typing import Self

from django.contrib.auth.models import AnonymousUser, User
from django.db import models

from limpet.evidence.model import ENTRY_KINDS
from server.owned import Owned, OwnedQuerySet


class RangeTestQuerySet(OwnedQuerySet):
    def for_list(self) -> Self:
        """Newest first, with what a row needs, in one query."""
        return (
            self.select_related("cached_result")
            .only(
                "id", "title", "purpose", "started_at", "started_at_text", "state", "revision",
                "vehicle_name", "pack_name", "rider_name", "vehicle_id", "pack_id",
                "cached_result__key", "cached_result__strip", "cached_result__figures",
            )
            .order_by(models.F("started_at").desc(nulls_last=True), "title")
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
    #: Raised by every change to the evidence; part of the key under which results are cached.
    revision = models.PositiveIntegerField(default=1)

    objects = RangeTestQuerySet.as_manager()

    class Meta:
        indexes = (models.Index(fields=("owner", "-started_at"), name="range_test_newest"),)

    def __str__(self) -> str:
        return self.title


class EntryQuerySet(models.QuerySet["Entry"]):
    def owned_by(self, user: User | AnonymousUser) -> Self:
        """The entries of an account's tests; none for nobody."""
        return self.filter(test__owner=user) if user.is_authenticated else self.none()

    def standing(self) -> Self:
        """Those that were not taken out, in order of time."""
        return self.filter(removed=False).order_by("time_s", "position")


class Entry(models.Model):
    """What the rider wrote down at one moment; `None` is "not read"."""

    id = models.UUIDField(primary_key=True, editable=False)
    test = models.ForeignKey(RangeTest, on_delete=models.CASCADE, related_name="entries")
    position = models.PositiveIntegerField(default=0)
    time_s = models.FloatField()
    kind = models.CharField(max_length=12, choices=[(kind, kind) for kind in ENTRY_KINDS])
    trip_m = models.FloatField(null=True, blank=True)
    gps_m = models.FloatField(null=True, blank=True)
    odometer_m = models.FloatField(null=True, blank=True)
    laps = models.FloatField(null=True, blank=True)
    voltage_rest_v = models.FloatField(null=True, blank=True)
    voltage_load_v = models.FloatField(null=True, blank=True)
    current_a = models.FloatField(null=True, blank=True)
    charge_ah = models.FloatField(null=True, blank=True)
    energy_wh = models.FloatField(null=True, blank=True)
    gauge = models.FloatField(null=True, blank=True)
    speed_mps = models.FloatField(null=True, blank=True)
    battery_temp_c = models.FloatField(null=True, blank=True)
    motor_temp_c = models.FloatField(null=True, blank=True)
    mode = models.CharField(max_length=200, null=True, blank=True)
    note = models.TextField(null=True, blank=True)
    extra = models.JSONField(default=dict)
    removed = models.BooleanField(default=False)

    objects = EntryQuerySet.as_manager()

    class Meta:
        indexes = (models.Index(fields=("test", "time_s"), name="entry_in_time"),)


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


class CachedResult(models.Model):
    """A derived result under the key of what it was derived from; thrown away freely."""

    test = models.OneToOneField(RangeTest, on_delete=models.CASCADE, related_name="cached_result")
    key = models.CharField(max_length=60)
    result = models.JSONField()
    strip = models.JSONField()
    figures = models.JSONField()
