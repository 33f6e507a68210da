"""Each outcome is of a run and a workshop: a step of its own, since a table is not changed in one with its rows."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [("runs", "0009_facets")]

    operations = [
        migrations.AlterField(
            "outcomerecord",
            "run",
            models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="outcomes", to="runs.run"),
        ),
        migrations.AlterField(
            "outcomerecord",
            "workshop",
            models.ForeignKey(
                on_delete=django.db.models.deletion.CASCADE, related_name="+", to="accounts.workshop"
            ),
        ),
    ]
