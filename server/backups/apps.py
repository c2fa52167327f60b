"""Backups."""

from django.apps import AppConfig


class BackupsConfig(AppConfig):
    """Backups of all that an installation keeps."""

    name = "server.backups"
    default_auto_field = "django.db.models.BigAutoField"
