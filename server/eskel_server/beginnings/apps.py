from django.apps import AppConfig


class BeginningsConfig(AppConfig):
    """From an idea to a piece."""

    name = "eskel_server.beginnings"
