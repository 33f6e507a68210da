from django.apps import AppConfig


class RunsConfig(AppConfig):
    """Plans carried out at the bench."""

    name = "eskel_server.runs"
