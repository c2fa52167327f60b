from django.db import migrations
from django.db.models import F


def forwards(apps, schema_editor):
    """Plans whose ride began are closed; those whose ride ended are open, for good."""
    plans = apps.get_model("plans", "Plan").objects
    plans.filter(test__isnull=False).update(begun_at=F("changed_at"))
    plans.filter(test__state="ended").update(opened_at=F("changed_at"))


class Migration(migrations.Migration):
    dependencies = [("plans", "0002_guesses_stay_open"), ("logbook", "0003_sort_by_when_it_began")]
    operations = [migrations.RunPython(forwards, migrations.RunPython.noop)]
