"""Writes down how many bytes each file has."""

from django.db import migrations

from saucer_server.storage import measure


class Migration(migrations.Migration):
    dependencies = [("frames", "0008_removal")]

    operations = [migrations.RunPython(lambda apps, _: measure(apps.get_model("frames", "frame")._base_manager), migrations.RunPython.noop)]
