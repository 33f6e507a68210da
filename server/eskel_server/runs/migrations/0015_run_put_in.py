from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("runs", "0014_steprecord_heat_no")]

    operations = [migrations.AddField("run", "put_in", models.JSONField(default=list))]
