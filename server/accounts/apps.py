from django.apps import AppConfig


class Config(AppConfig):
    name = "server.accounts"
    label = "accounts"
