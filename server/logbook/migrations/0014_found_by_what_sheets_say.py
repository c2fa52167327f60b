from django.db import migrations


def forwards(apps, schema_editor):
    """What the sheets say already; one that cannot be read is found by less."""
    for test in apps.get_model("logbook", "RangeTest").objects.iterator(chunk_size=200):
        kept = test.sheet if isinstance(test.sheet, dict) else {}
        sheet = kept.get("value", kept) if "schema" in kept else kept
        ending = sheet.get("ending") if isinstance(sheet, dict) else None
        reason = ending.get("reason") if isinstance(ending, dict) else None
        test.ended_how = reason if isinstance(reason, str) and len(reason) <= 12 else ""
        text = test.started_at_text
        test.month = int(text[5:7]) if text[5:7].isdecimal() else None
        test.save(update_fields=["ended_how", "month"])


class Migration(migrations.Migration):
    dependencies = [("logbook", "0013_found_by_more")]
    operations = [migrations.RunPython(forwards, migrations.RunPython.noop)]
