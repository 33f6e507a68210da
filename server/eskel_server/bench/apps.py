from django.apps import AppConfig


class BenchConfig(AppConfig):
    """What a smith works with."""

    name = "eskel_server.bench"
