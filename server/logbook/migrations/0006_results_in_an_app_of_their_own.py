"""Results move to an app of their own; their rows stay where they are, under another name."""

from django.db import migrations


class Migration(migrations.Migration):

    dependencies = [("logbook", "0005_lowest_cell_of_entries")]

    operations = [
        migrations.SeparateDatabaseAndState(
            database_operations=[
                migrations.AlterModelTable(name="testresult", table="results_testresult"),
            ],
            state_operations=[migrations.DeleteModel(name="TestResult")],
        ),
    ]
