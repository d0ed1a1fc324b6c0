"""What a variation began as, and which look takes the place of a retired one."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [("looks", "0005_look_origin_look_rights")]

    operations = [
        migrations.AddField(model_name="look", name="base", field=models.JSONField(null=True)),
        migrations.AddField(
            model_name="look", name="successor",
            field=models.ForeignKey(
                blank=True, null=True, on_delete=django.db.models.deletion.SET_NULL, related_name="succeeds", to="looks.look",
            ),
        ),
    ]
