"""Every chunk is of a stream by now; a test has its chunks through it."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [("logbook", "0008_chunks_into_streams")]

    operations = [
        migrations.AlterField(
            model_name="samplechunk",
            name="stream",
            field=models.ForeignKey(
                on_delete=django.db.models.deletion.CASCADE,
                related_name="chunks",
                to="logbook.stream",
            ),
        ),
        migrations.RemoveConstraint(model_name="samplechunk", name="sample_chunk_once"),
        migrations.RemoveField(model_name="samplechunk", name="test"),
        migrations.AddConstraint(
            model_name="samplechunk",
            constraint=models.UniqueConstraint(
                fields=("stream", "sequence"), name="sample_chunk_of_stream"
            ),
        ),
    ]
