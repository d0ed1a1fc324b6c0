"""Gives two models the names that are usual: failed sign-ins, and sessions."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("people", "0008_external")]

    operations = [migrations.RenameModel("Guess", "FailedSignIn"), migrations.RenameModel("Seat", "UserSession")]
