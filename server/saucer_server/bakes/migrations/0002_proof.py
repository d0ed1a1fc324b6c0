"""Bakes say how they were made, and carry their name and checksum."""

from pathlib import PurePosixPath
from typing import Any

from django.db import migrations, models


def say(apps: Any, schema_editor: Any) -> None:
    """Files made before: sampled tables, their checksum in the name they are kept under, named as they were."""
    for bake in apps.get_model("bakes", "Bake").objects.select_related("revision__look"):
        kept = PurePosixPath(bake.file)
        safe = "".join(c if c.isalnum() or c in "-_" else "_" for c in bake.revision.look.name.strip()).strip("_")[:80] or "look"
        bake.checksum = kept.stem
        bake.name = f"{safe}_r{bake.revision.number}_{bake.grid}{kept.suffix}"
        bake.method = "sampled"
        bake.save(update_fields=["checksum", "name", "method"])


class Migration(migrations.Migration):
    dependencies = [("bakes", "0001_initial")]

    operations = [
        migrations.AlterModelOptions(name="bake", options={"ordering": ["-made_at", "-id"]}),
        migrations.AddField("bake", "checksum", models.CharField(default="", max_length=64), preserve_default=False),
        migrations.AddField("bake", "code_range", models.CharField(default="full", max_length=8)),
        migrations.AddField("bake", "fetched", models.PositiveIntegerField(default=0)),
        migrations.AddField("bake", "method", models.CharField(blank=True, default="", max_length=12), preserve_default=False),
        migrations.AddField("bake", "name", models.CharField(default="", max_length=200), preserve_default=False),
        migrations.AddField("bake", "note", models.CharField(blank=True, default="", max_length=2000), preserve_default=False),
        migrations.AlterField("bake", "deviation", models.JSONField(null=True)),
        migrations.AlterField("bake", "format", models.CharField(max_length=16)),
        migrations.RunPython(say, migrations.RunPython.noop),
    ]
