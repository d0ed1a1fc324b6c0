"""A clip that was not looked through yet has no facts; before, it had an empty object."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("clips", "0003_removal")]

    operations = [
        migrations.AlterField("clip", "facts", models.JSONField(null=True)),
        migrations.RunSQL(
            "update clips_clip set facts = null where facts = '{}'::jsonb",
            "update clips_clip set facts = '{}'::jsonb where facts is null",
        ),
    ]
