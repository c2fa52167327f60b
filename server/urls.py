"""Addresses: the API, the admin, and the page for everything else."""

from django.conf import settings
from django.contrib import admin
from django.urls import path, re_path

from server import health
from server.api import api
from server.page import page

handler404 = "server.failures.not_found"
handler500 = "server.failures.server_error"

urlpatterns = [
    path("healthz", health.alive),
    path("readyz", health.ready),
    path("metrics", health.metrics),
    path("api/", api.urls),
    *([path("admin/", admin.site.urls)] if settings.ADMIN_OPEN else []),
    # Every place of the page has its own address; the page itself reads it.
    re_path(r"^(?!api/|admin/|static/|assets/|healthz|readyz|metrics).*$", page),
]
