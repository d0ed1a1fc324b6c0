"""A delivery that is not made yet has no contents; before, it had an empty object. What a piece is made from
is called its source; the column keeps its name."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("delivering", "0003_drop_folder")]

    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.RenameField("piece", "spec", "source"),
                migrations.AlterField("piece", "source", models.JSONField(db_column="spec")),
            ]
        ),
        migrations.AlterField("delivery", "contents", models.JSONField(null=True)),
        migrations.RunSQL(
            "update projects_delivery set contents = null where contents = '{}'::jsonb",
            "update projects_delivery set contents = '{}'::jsonb where contents is null",
        ),
    ]
