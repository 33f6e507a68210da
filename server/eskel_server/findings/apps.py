from django.apps import AppConfig


class FindingsConfig(AppConfig):
    """Finished findings on the shelf."""

    name = "eskel_server.findings"

    def ready(self) -> None:
        """Hear of what is undone in a piece, and done again."""
        from eskel_server.pieces.actions import stepped

        from .actions import put_back_or_take

        stepped.connect(put_back_or_take)
