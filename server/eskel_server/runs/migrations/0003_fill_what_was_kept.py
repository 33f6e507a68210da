"""Runs from before: how many steps they have, the one stay that is known of each step, notes, and heats foretold."""

from typing import Any

from django.db import migrations


def fill(apps: Any, schema_editor: Any) -> None:
    Run = apps.get_model("runs", "Run")
    StayRecord = apps.get_model("runs", "StayRecord")
    NoteRecord = apps.get_model("runs", "NoteRecord")
    ForetoldHeat = apps.get_model("runs", "ForetoldHeat")
    for run in Run.objects.prefetch_related("records").iterator(chunk_size=50):
        steps = run.plan.get("steps") if isinstance(run.plan, dict) else None
        steps = steps if isinstance(steps, list) else []
        run.step_count = len(steps)
        run.save(update_fields=["step_count"])
        for record in run.records.all():
            StayRecord.objects.create(record=record, entered_at=record.started_at, left_at=record.ended_at)
            if record.note:
                NoteRecord.objects.create(record=record, text=record.note, at=record.ended_at or record.started_at)
            told = _told(steps, record.n)
            if told is not None:
                ForetoldHeat.objects.create(record=record, **told)


def _told(steps: list[Any], n: int) -> dict[str, Any] | None:
    step = next((one for one in steps if isinstance(one, dict) and one.get("n") == n), {})
    told = step.get("rehearsed")
    if not isinstance(told, dict) or not told.get("likely_s") or not told.get("torch"):
        return None
    return {
        "torch": told["torch"],
        "heat_no": step.get("heat_no") or 0,
        "low_s": told.get("low_s"),
        "likely_s": told["likely_s"],
        "high_s": told.get("high_s"),
        "factor": told.get("factor", 1.0),
        "spread": told.get("spread", 0.0),
    }


class Migration(migrations.Migration):

    dependencies = [("runs", "0002_nothing_is_deleted")]

    operations = [migrations.RunPython(fill, migrations.RunPython.noop)]
