"""The tables stay where they are: only the app that they belong to changes."""

from django.db import migrations


class Migration(migrations.Migration):

    dependencies = [
        ('looks', '0003_variations_presets_sittings'),
    ]

    operations = [
        migrations.SeparateDatabaseAndState(state_operations=[
            migrations.RemoveField(
                model_name='borrowedlut',
                name='added_by',
            ),
            migrations.RemoveField(
                model_name='preset',
                name='owner',
            ),
            migrations.DeleteModel(
                name='Bake',
            ),
            migrations.DeleteModel(
                name='BorrowedLut',
            ),
            migrations.DeleteModel(
                name='Preset',
            ),
        ]),
    ]
