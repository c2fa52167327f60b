"""The rows that the logbook kept, as they are."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):

    initial = True
    dependencies = [("logbook", "0006_results_in_an_app_of_their_own")]

    operations = [
        migrations.SeparateDatabaseAndState(
            database_operations=[],
            state_operations=[
                migrations.CreateModel(
                    name="TestResult",
                    fields=[
                        ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                        ("revision", models.PositiveIntegerField()),
                        ("core", models.CharField(max_length=32)),
                        ("fault", models.CharField(blank=True, max_length=500)),
                        ("wh_per_km", models.FloatField(blank=True, null=True)),
                        ("wh_per_km_std", models.FloatField(blank=True, null=True)),
                        ("range_to_cutoff_m", models.FloatField(blank=True, null=True)),
                        ("range_to_cutoff_std_m", models.FloatField(blank=True, null=True)),
                        ("reach_m", models.FloatField(blank=True, null=True)),
                        ("measured", models.BooleanField(default=False)),
                        ("figures", models.JSONField(null=True)),
                        ("strip", models.JSONField(null=True)),
                        ("detail", models.JSONField(null=True)),
                        ("computed_at", models.DateTimeField(auto_now=True)),
                        (
                            "test",
                            models.OneToOneField(
                                on_delete=django.db.models.deletion.CASCADE,
                                related_name="kept_result",
                                to="logbook.rangetest",
                            ),
                        ),
                    ],
                    options={
                        "indexes": [
                            models.Index(fields=["core", "revision"], name="result_by_core"),
                            models.Index(fields=["wh_per_km"], name="result_by_consumption"),
                            models.Index(fields=["range_to_cutoff_m"], name="result_by_range"),
                        ],
                    },
                ),
            ],
        ),
    ]
