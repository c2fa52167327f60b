from django.contrib import admin

from server.logbook.models import RangeTest


@admin.register(RangeTest)
class RangeTestAdmin(admin.ModelAdmin):
    list_display = ("title", "owner", "vehicle_name", "started_at", "state")
    list_filter = ("owner", "state")
    exclude = ("route_gpx",)
