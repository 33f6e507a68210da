"""A run is the list of what happened in it. Of runs from before the turns are their steps; what happened is told from what was kept when they are gone on with."""

from typing import Any

import django.db.models.deletion
from django.db import migrations, models
from django.db.models.functions import Cast


def name_turns(apps: Any, schema_editor: Any) -> None:
    step, run = apps.get_model("runs", "StepRecord"), apps.get_model("runs", "Run")
    step.objects.update(turn=Cast("n", models.CharField()))
    run.objects.update(turn=Cast("position", models.CharField()))


class Migration(migrations.Migration):

    dependencies = [("runs", "0007_kinds_of_work")]

    operations = [
        migrations.AlterModelOptions(name="steprecord", options={"ordering": ("started_at", "pk")}),
        migrations.RemoveConstraint(model_name="steprecord", name="one_record_of_a_step"),
        migrations.AddField("run", "turn", models.CharField(default="1", max_length=16)),
        migrations.AddField("steprecord", "again", models.PositiveIntegerField(default=1)),
        migrations.AddField(
            "steprecord", "turn", models.CharField(default="1", max_length=16), preserve_default=False
        ),
        migrations.RunPython(name_turns, migrations.RunPython.noop),
        migrations.AddConstraint(
            "steprecord", models.UniqueConstraint(fields=("run", "turn"), name="one_record_of_a_turn")
        ),
        migrations.CreateModel(
            name="EventRecord",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("event", models.CharField(max_length=64)),
                ("kind", models.CharField(max_length=10)),
                ("told", models.JSONField()),
                ("taken_at", models.DateTimeField()),
                (
                    "run",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE, related_name="events", to="runs.run"
                    ),
                ),
            ],
            options={"ordering": ("pk",)},
        ),
        migrations.AddConstraint(
            "eventrecord", models.UniqueConstraint(fields=("run", "event"), name="each_event_once")
        ),
    ]
