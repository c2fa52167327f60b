from django.db import migrations
from django.db.models import F
from django.db.models.functions import Coalesce


def forwards(apps, schema_editor):
    tests = apps.get_model("logbook", "RangeTest").objects
    tests.update(sorted_at=Coalesce(F("started_at"), F("created_at")))


class Migration(migrations.Migration):
    dependencies = [("logbook", "0002_results_and_listing")]
    operations = [migrations.RunPython(forwards, migrations.RunPython.noop)]
