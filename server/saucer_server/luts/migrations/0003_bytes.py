"""Writes down how many bytes each file has."""

from django.db import migrations

from saucer_server.storage import measure


class Migration(migrations.Migration):
    dependencies = [("luts", "0002_removal")]

    operations = [migrations.RunPython(lambda apps, _: measure(apps.get_model("luts", "borrowedlut")._base_manager), migrations.RunPython.noop)]
