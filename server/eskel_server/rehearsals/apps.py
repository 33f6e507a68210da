from django.apps import AppConfig


class RehearsalsConfig(AppConfig):
    """Heats rehearsed beside the editing, and the bench's own torches."""

    name = "eskel_server.rehearsals"
