"""Which looks are on shots of which projects, written down by the projects."""

import django.db.models.deletion
from django.db import migrations, models



class Migration(migrations.Migration):
    dependencies = [("catalogue", "0006_removal"), ("looks", "0001_initial"), ("people", "0007_circle")]

    operations = [
        migrations.AlterField("likeness", "traits", models.JSONField()),
        migrations.CreateModel(
            "Use",
            [
                (
                    "id",
                    models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID"),
                ),
                ("project", models.PositiveBigIntegerField(db_index=True)),
                ("name", models.CharField(max_length=120)),
                ("shots", models.PositiveIntegerField()),
                (
                    "circle",
                    models.ForeignKey(
                        null=True,
                        on_delete=django.db.models.deletion.SET_NULL,
                        related_name="+",
                        to="people.circle",
                    ),
                ),
                (
                    "look",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE, related_name="uses", to="looks.look"
                    ),
                ),
            ],
            options={
                "constraints": [
                    models.UniqueConstraint(fields=("look", "project"), name="one_use_a_project")
                ],
            },
        ),
    ]
