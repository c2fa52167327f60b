"""Plans, the guesses sealed with them, and makers' claims."""

from __future__ import annotations

from django.db import models

from server.kit.models import Named
from server.wire.owned import Owned


class Plan(Owned):
    """A ride that is being planned. `asked` is what the form holds; `answer` what it came to."""

    title = models.CharField(max_length=300)
    purpose = models.CharField(max_length=20)
    asked = models.JSONField()
    #: Forecast, schedule and rules as they stood when the plan was stored: what the ride is held
    #: against afterwards, whatever the kit or the formulas become.
    answer = models.JSONField()
    checklist = models.JSONField(default=list)
    test = models.OneToOneField(
        "logbook.RangeTest", null=True, on_delete=models.SET_NULL, related_name="plan"
    )
    #: When its ride began, which closes the guesses, and when it ended, which opens them; both
    #: stay when the ride is removed.
    begun_at = models.DateTimeField(null=True, blank=True)
    opened_at = models.DateTimeField(null=True, blank=True)
    changed_at = models.DateTimeField(auto_now=True)
    #: One of several rides that settle a comparison: which series, which place in it, for which side,
    #: and the tests of both sides that it was made from.
    series = models.UUIDField(null=True, blank=True)
    series_place = models.PositiveSmallIntegerField(null=True, blank=True)
    series_side = models.CharField(max_length=1, blank=True)
    series_sides = models.JSONField(null=True, blank=True)

    class Meta:
        indexes = (
            models.Index(fields=("owner", "-changed_at"), name="plan_newest"),
            models.Index(fields=("owner", "series"), name="plan_of_series"),
        )

    def __str__(self) -> str:
        return self.title


class Guess(models.Model):
    """How far somebody thinks it will go. Sealed: never changed, shown once the ride has ended."""

    id = models.UUIDField(primary_key=True, editable=False)
    plan = models.ForeignKey(Plan, on_delete=models.CASCADE, related_name="guesses")
    name = models.CharField(max_length=100)
    distance_m = models.FloatField()
    sealed_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ("sealed_at",)
        constraints = (
            models.UniqueConstraint(fields=("plan", "name"), name="one_guess_each"),
            models.CheckConstraint(condition=models.Q(distance_m__gt=0), name="guess_above_zero"),
        )


class KeptTrip(Named):
    """A trip that is asked about again: what the form held, forecast anew whenever it is opened."""

    asked = models.JSONField()


class Claim(Named):
    """What a maker says."""

    rated_wh = models.FloatField()
    distance_m = models.FloatField()
    speed_mps = models.FloatField()
    load_kg = models.FloatField(null=True, blank=True)
    vehicle_kind = models.CharField(max_length=20)
    vehicle_mass_kg = models.FloatField(null=True, blank=True)


class Followed(models.Model):
    """What was last told of a ride under way, and of what: `server.plans.following`. Derived: what is gone is computed again."""

    test = models.OneToOneField(
        "logbook.RangeTest", primary_key=True, on_delete=models.CASCADE, related_name="followed"
    )
    digest = models.CharField(max_length=64)
    #: JSON, compressed.
    answer = models.BinaryField()
    #: The table for a device, the same; None where readings contradict each other.
    table = models.BinaryField(null=True)
    made_at = models.DateTimeField(auto_now=True)

    class Meta:
        indexes = (models.Index(fields=("made_at",), name="followed_by_age"),)
