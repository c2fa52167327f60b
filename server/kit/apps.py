from django.apps import AppConfig


class Config(AppConfig):
    name = "server.kit"
    label = "kit"
