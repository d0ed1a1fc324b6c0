"""What a variation began as, which look takes the place of a retired one, and which one a twin became a part of."""

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
        migrations.AddField(
            model_name="look", name="merged_into",
            field=models.ForeignKey(
                blank=True, null=True, on_delete=django.db.models.deletion.PROTECT, related_name="merged", to="looks.look",
            ),
        ),
    ]
