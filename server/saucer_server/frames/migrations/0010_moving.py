"""A frame may stand for a clip."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("clips", "0005_proxy"), ("frames", "0009_bytes")]

    operations = [
        migrations.AddField(
            "frame",
            "clip",
            models.ForeignKey(
                null=True, on_delete=django.db.models.deletion.SET_NULL, related_name="+", to="clips.clip"
            ),
        ),
        migrations.AddField("frame", "number", models.PositiveIntegerField(default=0)),
    ]
