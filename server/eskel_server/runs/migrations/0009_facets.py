"""What the log is asked by. Of outcomes from before it is told which run and workshop they are of; the rest when Eskel starts (`count_runs`)."""

from typing import Any

import django.db.models.deletion
from django.db import migrations, models


def of_which_run(apps: Any, schema_editor: Any) -> None:
    outcome, step = apps.get_model("runs", "OutcomeRecord"), apps.get_model("runs", "StepRecord")
    of = step.objects.filter(pk=models.OuterRef("record_id"))
    outcome.objects.update(
        run_id=models.Subquery(of.values("run_id")[:1]), workshop_id=models.Subquery(of.values("run__workshop_id")[:1])
    )
    apps.get_model("runs", "Run").objects.update(counted=False)


class Migration(migrations.Migration):

    dependencies = [
        ('accounts', '0001_initial'),
        ('runs', '0008_what_happened'),
    ]

    operations = [
        migrations.CreateModel(
            name='Facet',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('piece_name', models.CharField(max_length=120)),
                ('kind', models.CharField(blank=True, max_length=20)),
                ('metal', models.CharField(blank=True, max_length=200)),
                ('wire', models.CharField(blank=True, max_length=10)),
                ('sheet', models.CharField(blank=True, max_length=10)),
                ('grade', models.CharField(blank=True, max_length=20)),
                ('solder', models.CharField(blank=True, max_length=60)),
                ('torch', models.CharField(blank=True, max_length=60)),
                ('later_try', models.BooleanField(default=False)),
                ('outcome', models.CharField(max_length=20)),
                ('sound', models.BooleanField()),
                ('text', models.TextField()),
            ],
        ),
        migrations.CreateModel(
            name='FacetMonth',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('month', models.DateField()),
                ('times', models.IntegerField(default=0)),
                ('heats', models.IntegerField(default=0)),
                ('log_ratio', models.FloatField(default=0)),
                ('solder_mg', models.FloatField(default=0)),
            ],
        ),
        migrations.CreateModel(
            name='StepMonth',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('piece_name', models.CharField(max_length=120)),
                ('kind', models.CharField(max_length=20)),
                ('month', models.DateField()),
                ('times', models.IntegerField(default=0)),
                ('seconds', models.FloatField(default=0)),
            ],
        ),
        migrations.RemoveIndex(
            model_name='outcomerecord',
            name='outcomes_by_word',
        ),
        migrations.AddField(
            model_name='outcomerecord',
            name='run',
            field=models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='outcomes', to='runs.run'),
        ),
        migrations.AddField(
            model_name='outcomerecord',
            name='solder_mg',
            field=models.FloatField(default=0),
        ),
        migrations.AddField(
            model_name='outcomerecord',
            name='told_s',
            field=models.FloatField(null=True),
        ),
        migrations.AddField(
            model_name='outcomerecord',
            name='took_s',
            field=models.FloatField(null=True),
        ),
        migrations.AddField(
            model_name='outcomerecord',
            name='workshop',
            field=models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.workshop'),
        ),
        migrations.AddField(
            model_name='run',
            name='counted',
            field=models.BooleanField(default=True),
        ),
        migrations.AddField(
            model_name='facet',
            name='workshop',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='facets', to='accounts.workshop'),
        ),
        migrations.AddField(
            model_name='outcomerecord',
            name='facet',
            field=models.ForeignKey(null=True, on_delete=django.db.models.deletion.RESTRICT, related_name='outcomes', to='runs.facet'),
        ),
        migrations.AddIndex(
            model_name='outcomerecord',
            index=models.Index(fields=['workshop', '-at'], name='outcomes_newest'),
        ),
        migrations.AddIndex(
            model_name='outcomerecord',
            index=models.Index(fields=['facet', '-at'], name='outcomes_by_facet'),
        ),
        migrations.AddField(
            model_name='facetmonth',
            name='facet',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='months', to='runs.facet'),
        ),
        migrations.AddField(
            model_name='stepmonth',
            name='workshop',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='step_months', to='accounts.workshop'),
        ),
        migrations.AddConstraint(
            model_name='facet',
            constraint=models.UniqueConstraint(fields=('workshop', 'piece_name', 'kind', 'metal', 'wire', 'sheet', 'grade', 'solder', 'torch', 'later_try', 'outcome'), name='each_facet_once'),
        ),
        migrations.AddConstraint(
            model_name='facetmonth',
            constraint=models.UniqueConstraint(fields=('facet', 'month'), name='each_month_of_a_facet_once'),
        ),
        migrations.AddConstraint(
            model_name='stepmonth',
            constraint=models.UniqueConstraint(fields=('workshop', 'piece_name', 'kind', 'month'), name='each_month_of_a_kind_once'),
        ),
        migrations.AddIndex(
            model_name='steprecord',
            index=models.Index(condition=models.Q(('note', ''), _negated=True), fields=['-run'], name='steps_noted'),
        ),
        migrations.RemoveIndex(model_name='run', name='runs_by_name'),
        migrations.AddIndex(
            model_name='run',
            index=models.Index(fields=['workshop', 'piece_name', '-started_at'], name='runs_by_piece'),
        ),
        migrations.RunPython(of_which_run, migrations.RunPython.noop),
    ]
