"""When a backup was made that could be restored."""

from __future__ import annotations

from django.db import models


class Backup(models.Model):
    """A backup that came back whole in a scratch database; `file` is where it was put."""

    file = models.CharField(max_length=500)
    made_at = models.DateTimeField()
    bytes = models.BigIntegerField()
    rows = models.BigIntegerField()
    encrypted = models.BooleanField()

    class Meta:
        indexes = (models.Index(fields=("-made_at",), name="backup_newest"),)

    def __str__(self) -> str:
        return f"{self.file} of {self.made_at:%Y-%m-%d %H:%M}"
