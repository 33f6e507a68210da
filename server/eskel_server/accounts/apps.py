from django.apps import AppConfig


class AccountsConfig(AppConfig):
    """Whose everything is."""

    name = "eskel_server.accounts"
