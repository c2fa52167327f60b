from django.apps import AppConfig


class Config(AppConfig):
    name = "server.imports"
    label = "imports"
