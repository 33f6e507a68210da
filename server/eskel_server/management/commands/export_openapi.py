"""Print the OpenAPI of the HTTP API, from which the web's types are made."""

from __future__ import annotations

import json
from typing import Any

from django.core.management.base import BaseCommand


class Command(BaseCommand):
    """Print the OpenAPI as JSON."""

    help = "Print the OpenAPI of the HTTP API."

    def handle(self, *args: Any, **options: Any) -> None:
        """Print it."""
        from eskel_server.api import api

        self.stdout.write(
            json.dumps(api.get_openapi_schema(path_prefix="/api/"), indent=2, ensure_ascii=False)
        )
