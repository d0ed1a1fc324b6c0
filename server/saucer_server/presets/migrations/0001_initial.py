"""The tables stay where they are: only the app that they belong to changes."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    initial = True

    dependencies = [
        ('looks', '0004_rooms'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.SeparateDatabaseAndState(state_operations=[
            migrations.CreateModel(
                name='Preset',
                fields=[
                    ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                    ('kind', models.CharField(db_index=True, max_length=40)),
                    ('name', models.CharField(max_length=80)),
                    ('note', models.CharField(blank=True, max_length=300)),
                    ('content', models.JSONField()),
                    ('shared', models.BooleanField(default=False)),
                    ('made_at', models.DateTimeField(auto_now_add=True)),
                    ('owner', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to=settings.AUTH_USER_MODEL)),
                ],
                options={
                    'db_table': 'looks_preset',
                    'ordering': ['name', 'id'],
                },
            ),
        ]),
    ]
