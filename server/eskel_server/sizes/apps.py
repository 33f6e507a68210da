from django.apps import AppConfig


class SizesConfig(AppConfig):
    """All the measuring and arithmetic."""

    name = "eskel_server.sizes"
