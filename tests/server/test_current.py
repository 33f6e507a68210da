"""What is generated and kept in the tree is what the code would generate now."""

from io import StringIO
from pathlib import Path

import pytest
from django.core.management import call_command

OPENAPI = Path(__file__).parents[2] / "web" / "openapi.json"


def test_the_openapi_is_current() -> None:
    """From it the web's types are made: run bin/lib/make_types.sh when this fails."""
    told = StringIO()
    call_command("export_openapi", stdout=told)
    assert told.getvalue() == OPENAPI.read_text(encoding="utf-8")


@pytest.mark.django_db
def test_the_migrations_are_current() -> None:
    """Raises SystemExit when a model differs from its migrations."""
    call_command("makemigrations", check=True, dry_run=True, stdout=StringIO())
