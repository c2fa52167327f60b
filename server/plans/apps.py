from django.apps import AppConfig


class Config(AppConfig):
    name = "server.plans"
    label = "plans"
