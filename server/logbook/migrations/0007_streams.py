"""Samples belong to the stream of an instrument: the tables for it."""

import uuid

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [("logbook", "0006_results_in_an_app_of_their_own")]

    operations = [
        migrations.CreateModel(
            name="Stream",
            fields=[
                ("id", models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ("instrument", models.CharField(max_length=100)),
                ("clock_offset_s", models.FloatField(default=0.0)),
                ("sign", models.SmallIntegerField(default=1)),
                ("next_sequence", models.PositiveIntegerField(default=0)),
                ("rows", models.PositiveIntegerField(default=0)),
                ("short", models.PositiveIntegerField(default=0)),
                ("sums", models.JSONField(null=True)),
                ("created_at", models.DateTimeField(auto_now_add=True)),
                (
                    "test",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="streams",
                        to="logbook.rangetest",
                    ),
                ),
            ],
            options={
                "ordering": ("created_at", "id"),
                "indexes": [models.Index(fields=["short"], name="stream_in_short_chunks")],
            },
        ),
        migrations.AddField(
            model_name="samplechunk",
            name="stream",
            field=models.ForeignKey(
                null=True,
                on_delete=django.db.models.deletion.CASCADE,
                related_name="chunks",
                to="logbook.stream",
            ),
        ),
        migrations.AddField(
            model_name="samplechunk",
            name="through",
            field=models.PositiveIntegerField(default=0),
            preserve_default=False,
        ),
        migrations.AddField(
            model_name="samplechunk", name="sums", field=models.JSONField(null=True)
        ),
    ]
