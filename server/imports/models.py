"""What was let in, so that it can be noticed again and undone; and how instruments' files are read."""

from __future__ import annotations

from django.db import models

from limpet.bounds import MOST_NAME, MOST_TITLE
from server.wire.owned import Owned


class Brought(Owned):
    """One import: which files came, and what became of them. Undone, it and all of that are removed.

    `files` is a list of {name, sha256, readings}; `tests`, `routes` and `streams` are lists of ids as text,
    `streams` those that were added to tests that had been there before.
    """

    name = models.CharField(max_length=MOST_TITLE)
    files = models.JSONField(default=list)
    tests = models.JSONField(default=list)
    routes = models.JSONField(default=list)
    streams = models.JSONField(default=list)

    class Meta:
        indexes = (models.Index(fields=("owner", "-created_at"), name="brought_newest"),)

    def __str__(self) -> str:
        return self.name


class BroughtFile(models.Model):
    """A file of an import, by its bytes and by what it measured: the same again is noticed."""

    brought = models.ForeignKey(Brought, on_delete=models.CASCADE, related_name="by_digest")
    digest = models.CharField(max_length=64)

    class Meta:
        indexes = (models.Index(fields=("digest",), name="brought_by_digest"),)


class KeptMapping(Owned):
    """How an instrument's tables are read, found again by their headings."""

    instrument = models.CharField(max_length=MOST_NAME)
    headings = models.CharField(max_length=64)
    mapping = models.JSONField()

    class Meta:
        constraints = (
            models.UniqueConstraint(
                fields=("owner", "headings", "alive"), name="mapping_by_headings"
            ),
        )

    def __str__(self) -> str:
        return self.instrument


class Home(models.Model):
    """Where an account lives, and how far round it a track is left out; nothing but the cut of a track asks."""

    owner = models.OneToOneField("auth.User", on_delete=models.CASCADE, related_name="+")
    latitude_deg = models.FloatField()
    longitude_deg = models.FloatField()
    within_m = models.FloatField()
