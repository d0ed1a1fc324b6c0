"""A pack that is not made yet has no contents; before, it had an empty object."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("outgoing", "0002_circle")]

    operations = [
        migrations.AlterField("outgoing", "contents", models.JSONField(null=True)),
        migrations.RunSQL(
            "update outgoing_outgoing set contents = null where contents = '{}'::jsonb",
            "update outgoing_outgoing set contents = '{}'::jsonb where contents is null",
        ),
    ]
