"""Vehicles, packs and riders."""

from __future__ import annotations

from typing import Any, cast, get_args

from django.db import models
from django.utils.functional import cached_property

from limpet.pack import CHEMISTRIES, Chemistry, PackSpec, ReadingSpan, reading_span
from limpet.road import VehicleKind
from server.wire.owned import Owned
from server.wire.trying import Tried


class Named(Owned):
    """A piece of kit: its name is unique within an account."""

    name = models.CharField(max_length=100)
    note = models.TextField(blank=True, max_length=2000)

    class Meta:
        abstract = True
        ordering = ("name",)
        constraints = (
            models.UniqueConstraint(
                fields=("owner", "name", "alive"), name="%(app_label)s_%(class)s_name_once"
            ),
        )

    def __str__(self) -> str:
        return self.name


class Vehicle(Named, Tried):
    """A vehicle, as it is tested. What is tried is to fit it to its tests."""

    kind = models.CharField(
        max_length=20, choices=[(kind, kind.replace("_", " ")) for kind in get_args(VehicleKind)]
    )
    mass_kg = models.FloatField(null=True, blank=True)
    cda_m2 = models.FloatField(null=True, blank=True)
    crr = models.FloatField(null=True, blank=True)
    drivetrain_efficiency = models.FloatField(null=True, blank=True)
    aux_w = models.FloatField(null=True, blank=True)
    regeneration = models.FloatField(null=True, blank=True)
    max_power_w = models.FloatField(null=True, blank=True)
    max_speed_mps = models.FloatField(null=True, blank=True)
    controller_current_limit_a = models.FloatField(null=True, blank=True)
    #: [{below_v, max_speed_mps}], the controller's limp table.
    step_down = models.JSONField(default=list, blank=True)
    #: Road load found from tests: the core's RoadFit, its statement, and the tests it came from.
    fit = models.JSONField(null=True, blank=True)
    #: Whether its results and forecasts use what its own tests taught, and whether those may tell
    #: another road load than `fit` has.
    learns = models.BooleanField(default=True)
    fit_due = models.BooleanField(default=False)
    #: What of that is not used, by the names of the core's `LESSONS`.
    left_aside = models.JSONField(default=list, blank=True)


class Pack(Named):
    """A pack as its label describes it."""

    chemistry = models.CharField(max_length=20, choices=[(name, name) for name in CHEMISTRIES])
    series = models.PositiveSmallIntegerField()
    #: Volts on the label; and which of chemistry, cells and amp-hours nobody said and are a guess.
    nominal_v = models.FloatField(null=True, blank=True)
    taken = models.JSONField(default=list, blank=True)
    parallel = models.PositiveSmallIntegerField(null=True, blank=True)
    rated_ah = models.FloatField()
    rated_wh = models.FloatField(null=True, blank=True)
    full_v = models.FloatField(null=True, blank=True)
    cutoff_v = models.FloatField(null=True, blank=True)
    equivalent_full_cycles = models.FloatField(null=True, blank=True)
    resistance_ohm = models.FloatField(null=True, blank=True)
    retained_fraction = models.FloatField(null=True, blank=True)

    @cached_property
    def _span(self) -> ReadingSpan:
        names = ("series", "nominal_v", "full_v", "cutoff_v", "rated_ah")
        said: dict[str, Any] = {name: getattr(self, name) for name in names}
        chemistry = cast(Chemistry, self.chemistry)
        return reading_span(PackSpec(chemistry=chemistry, taken=tuple(self.taken or ()), **said))

    @property
    def likely_full_v(self) -> float | None:
        """Full, as it is taken where nobody said [V]."""
        return self._span.likely_full_v

    @property
    def likely_cutoff_v(self) -> float | None:
        """Cut-off, as it is taken where nobody said [V]."""
        return self._span.likely_cutoff_v

    @property
    def most_v(self) -> float | None:
        """The highest voltage that its cells can have [V]; None where their number is unknown."""
        return self._span.most_v


class Rider(Named):
    """Who rides, as a load."""

    mass_kg = models.FloatField(null=True, blank=True)
    gear_kg = models.FloatField(null=True, blank=True)


class Route(Named):
    """A way that is ridden again: legs, a measured lap, or a track with its profile."""

    class Kind(models.TextChoices):
        LEGS = "legs"
        LOOP = "loop"
        TRACK = "track"

    kind = models.CharField(max_length=10, choices=Kind)
    #: The core's legs, in order; for a lap the one leg that it is.
    legs = models.JSONField()
    length_m = models.FloatField()
    ascent_m = models.FloatField()
    descent_m = models.FloatField()
    #: Standard uncertainty of a measured lap [m], and the readings it came from.
    length_std_m = models.FloatField(null=True, blank=True)
    readings_m = models.JSONField(default=list, blank=True)
    #: For drawing: distance_m, height_m, east_m, north_m as lists; null for legs and laps.
    profile = models.JSONField(null=True, blank=True)
    gpx = models.BinaryField(null=True, blank=True)
    notices = models.JSONField(default=list, blank=True)
