"""Gives the model of who has a draft open the name that is usual."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("looks", "0010_circle")]

    operations = [migrations.RenameModel("Sitting", "Presence")]
