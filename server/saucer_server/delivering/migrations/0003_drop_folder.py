"""Names the drop folder as its users do; plans that are kept say so, too."""

from typing import Any

from django.db import migrations


def _rename(apps: Any, old: str, new: str) -> None:
    rows = apps.get_model("delivering", "Delivery").objects.filter(plan__has_key=old)
    for row in rows.only("pk", "plan").iterator():
        row.plan[new] = row.plan.pop(old)
        row.save(update_fields=["plan"])


class Migration(migrations.Migration):
    dependencies = [("delivering", "0002_gone")]

    operations = [
        migrations.RenameField("delivery", "shelf", "drop_folder"),
        migrations.RunPython(lambda apps, _: _rename(apps, "shelf", "drop_folder"), lambda apps, _: _rename(apps, "drop_folder", "shelf")),
    ]
