from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [("results", "0001_from_the_logbook")]

    operations = [
        migrations.AddField(
            model_name="testresult",
            name="claimed_until",
            field=models.DateTimeField(null=True),
        ),
    ]
