"""A project says itself when it was delivered last."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("projects", "0003_circle")]

    operations = [
        migrations.AddField("project", "delivered", models.PositiveIntegerField(null=True)),
        migrations.AddField("project", "delivered_at", models.DateTimeField(null=True)),
    ]
