from django.db import migrations

from server.accounts.names import folded, skeleton


def forwards(apps, schema_editor):
    """Every user gets an account; the demo, which had no mark but its name, gets one."""
    account = apps.get_model("accounts", "Account")
    seen_names, seen_looks = set(), set()
    for user in apps.get_model("auth", "User").objects.order_by("pk").iterator(chunk_size=500):
        name, looks = folded(user.username), skeleton(user.username)
        # Two of yesterday's names may look alike; both stay, and neither is taken again.
        if name in seen_names:
            name = f"{name}#{user.pk}"
        if looks in seen_looks:
            looks = f"{looks}#{user.pk}"
        seen_names.add(name)
        seen_looks.add(looks)
        is_demo = user.username == "demo" and user.password.startswith("!")
        account.objects.create(owner=user, folded=name, skeleton=looks, is_demo=is_demo)


def backwards(apps, schema_editor):
    apps.get_model("accounts", "Account").objects.all().delete()


class Migration(migrations.Migration):
    dependencies = [("accounts", "0002_accounts"), ("auth", "0012_alter_user_first_name_max_length")]
    operations = [migrations.RunPython(forwards, backwards)]
