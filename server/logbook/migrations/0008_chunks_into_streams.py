"""What was stored of each test becomes its one stream; the samples themselves are not touched."""

from django.db import migrations
from django.db.models import Count, F, Max, Sum


def into_streams(apps, schema_editor):
    Stream = apps.get_model("logbook", "Stream")
    SampleChunk = apps.get_model("logbook", "SampleChunk")
    found = (
        SampleChunk.objects.filter(stream=None)
        .order_by()
        .values("test_id")
        .annotate(rows=Sum("count"), last=Max("sequence"), chunks=Count("pk"))
    )
    for test in found:
        # Sums that are missing are made when somebody asks for them.
        stream = Stream.objects.create(
            test_id=test["test_id"],
            instrument="samples.csv",
            next_sequence=test["last"] + 1,
            rows=test["rows"],
        )
        SampleChunk.objects.filter(test_id=test["test_id"], stream=None).update(
            stream=stream, through=F("sequence")
        )


class Migration(migrations.Migration):

    dependencies = [("logbook", "0007_streams")]

    operations = [migrations.RunPython(into_streams, migrations.RunPython.noop)]
