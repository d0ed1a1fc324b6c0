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
                name='BorrowedLut',
                fields=[
                    ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                    ('digest', models.CharField(max_length=64, unique=True)),
                    ('name', models.CharField(max_length=200)),
                    ('file', models.CharField(max_length=200)),
                    ('file_name', models.CharField(max_length=200)),
                    ('size', models.PositiveIntegerField()),
                    ('expects', models.CharField(max_length=40)),
                    ('gives', models.CharField(max_length=40)),
                    ('rights', models.CharField(max_length=300)),
                    ('origin', models.CharField(max_length=300)),
                    ('added_at', models.DateTimeField(auto_now_add=True)),
                    ('added_by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ],
                options={
                    'db_table': 'looks_borrowedlut',
                    'ordering': ['name', 'id'],
                },
            ),
        ]),
    ]
