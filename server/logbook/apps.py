from django.apps import AppConfig


class Config(AppConfig):
    name = "server.logbook"
    label = "logbook"
