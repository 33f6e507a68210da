from django.apps import AppConfig


class PiecesConfig(AppConfig):
    """The pieces on the go."""

    name = "eskel_server.pieces"
