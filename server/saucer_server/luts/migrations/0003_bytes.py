"""Writes down how many bytes each file has; one that is gone has none."""

from typing import Any

from django.core.files.storage import default_storage
from django.db import migrations

from saucer_server.storage import away


def measure(apps: Any, schema_editor: Any) -> None:
    """Asks the storage for each file that no size is known of."""
    rows = apps.get_model("luts", "borrowedlut")._base_manager
    for key, file in rows.filter(bytes=0).values_list("pk", "file").iterator():
        try:
            size = default_storage.size(file)
        except away():
            continue
        rows.filter(pk=key).update(bytes=size)


class Migration(migrations.Migration):
    dependencies = [("luts", "0002_removal")]

    operations = [migrations.RunPython(measure, migrations.RunPython.noop)]
