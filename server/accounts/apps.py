from django.apps import AppConfig


class AccountsConfig(AppConfig):
    """Whose everything is."""

    name = "accounts"
