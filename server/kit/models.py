"""Vehicles, packs and riders."""

from __future__ import annotations

from typing import get_args

from django.db import models

from limpet.pack import CHEMISTRIES
from limpet.road import VehicleKind
from server.owned import Owned


class Named(Owned):
    """A piece of kit: its name is unique within an account."""

    name = models.CharField(max_length=100)
    note = models.TextField(blank=True, max_length=2000)

    class Meta:
        abstract = True
        ordering = ("name",)
        constraints = (
            models.UniqueConstraint(
                fields=("owner", "name"), name="%(app_label)s_%(class)s_name_once"
            ),
        )

    def __str__(self) -> str:
        return self.name


class Vehicle(Named):
    """A vehicle, as it is tested."""

    kind = models.CharField(
        max_length=20, choices=[(kind, kind.replace("_", " ")) for kind in get_args(VehicleKind)]
    )
    mass_kg = models.FloatField(null=True, blank=True)


class Pack(Named):
    """A pack as its label describes it."""

    chemistry = models.CharField(max_length=20, choices=[(name, name) for name in CHEMISTRIES])
    series = models.PositiveSmallIntegerField()
    parallel = models.PositiveSmallIntegerField(null=True, blank=True)
    rated_ah = models.FloatField()
    rated_wh = models.FloatField(null=True, blank=True)
    full_v = models.FloatField(null=True, blank=True)
    cutoff_v = models.FloatField(null=True, blank=True)
    equivalent_full_cycles = models.FloatField(null=True, blank=True)


class Rider(Named):
    """Who rides, as a load."""

    mass_kg = models.FloatField(null=True, blank=True)
    gear_kg = models.FloatField(null=True, blank=True)
