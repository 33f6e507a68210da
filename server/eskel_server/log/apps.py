from django.apps import AppConfig


class LogConfig(AppConfig):
    """What was done, found again."""

    name = "eskel_server.log"
