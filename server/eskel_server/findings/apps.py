from django.apps import AppConfig


class FindingsConfig(AppConfig):
    """Finished findings on the shelf."""

    name = "eskel_server.findings"
