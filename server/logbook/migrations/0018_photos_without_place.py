"""Pictures of earlier releases, whose reader let a place slip through, become plain as today's are."""

from __future__ import annotations

from typing import Any

from django.db import migrations

from limpet.files.photos import plain_jpeg


def make_plain(apps: Any, schema_editor: Any) -> None:
    """Encode anew what holds more than its picture; what is no picture any more stays as it is."""
    photos = apps.get_model("logbook", "Photo").objects
    for key in photos.values_list("pk", flat=True).iterator():
        photo = photos.get(pk=key)
        before = bytes(photo.data)
        try:
            plain = plain_jpeg(before)
        except ValueError:
            continue
        if plain != before:
            photos.filter(pk=key).update(data=plain)


class Migration(migrations.Migration):
    dependencies = (("logbook", "0017_acts_on_entries"),)
    operations = (migrations.RunPython(make_plain, migrations.RunPython.noop),)
