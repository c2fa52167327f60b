"""Addresses: the API, the admin, and the page for everything else."""

from django.contrib import admin
from django.urls import path, re_path

from server.api import api
from server.page import page

urlpatterns = [
    path("api/", api.urls),
    path("admin/", admin.site.urls),
    # Every place of the page has its own address; the page itself reads it.
    re_path(r"^(?!api/|admin/|static/|assets/).*$", page),
]
