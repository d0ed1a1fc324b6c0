"""Clips have a proxy: a small file that plays, with an index of its frames; and may stand among the frames."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("clips", "0004_no_facts"), ("jobs", "0002_initial")]

    operations = [
        migrations.AddField("clip", "proxy", models.CharField(blank=True, default="", max_length=200)),
        migrations.AddField("clip", "proxy_index", models.CharField(blank=True, default="", max_length=200)),
        migrations.AddField("clip", "samples", models.CharField(blank=True, default="", max_length=200)),
        migrations.AddField("clip", "light", models.CharField(blank=True, default="", max_length=40)),
        migrations.AddField("clip", "among_frames", models.BooleanField(default=False)),
        migrations.AddField(
            "clip",
            "proxy_job",
            models.ForeignKey(
                null=True, on_delete=django.db.models.deletion.SET_NULL, related_name="+", to="jobs.job"
            ),
        ),
    ]
