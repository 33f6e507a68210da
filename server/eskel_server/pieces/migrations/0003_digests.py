"""Revisions from before: the digest of each, by which the line of its piece is kept."""

import hashlib
import json
from typing import Any

from django.db import migrations


def fill(apps: Any, schema_editor: Any) -> None:
    Revision = apps.get_model("pieces", "Revision")
    for revision in Revision.objects.filter(digest="").iterator(chunk_size=200):
        revision.digest = hashlib.sha256(json.dumps(revision.document, sort_keys=True).encode()).hexdigest()
        revision.save(update_fields=["digest"])


class Migration(migrations.Migration):

    dependencies = [("pieces", "0002_kept_lines")]

    operations = [migrations.RunPython(fill, migrations.RunPython.noop)]
