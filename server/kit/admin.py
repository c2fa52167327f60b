from django.contrib import admin

from server.kit.models import Pack, Rider, Vehicle

for model in (Vehicle, Pack, Rider):
    admin.site.register(model, list_display=("name", "owner", "created_at"), list_filter=("owner",))
