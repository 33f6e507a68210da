from django.db import migrations, models

# Of runs from before: the step of the plan says which heat it is.
TELL_HEATS = """
UPDATE runs_steprecord AS record
SET heat_no = (run.plan -> 'steps' -> (record.n - 1) ->> 'heat_no')::integer
FROM runs_run AS run
WHERE run.id = record.run_id AND run.plan -> 'steps' -> (record.n - 1) ->> 'kind' = 'heat'
"""


class Migration(migrations.Migration):
    dependencies = [("runs", "0013_goes_on_from")]

    operations = [
        migrations.AddField("steprecord", "heat_no", models.PositiveIntegerField(null=True)),
        migrations.RunSQL(TELL_HEATS, migrations.RunSQL.noop),
    ]
