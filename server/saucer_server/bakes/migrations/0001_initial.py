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
                name='Bake',
                fields=[
                    ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                    ('format', models.CharField(max_length=12)),
                    ('grid', models.PositiveIntegerField()),
                    ('title', models.CharField(blank=True, max_length=200)),
                    ('rights', models.CharField(blank=True, max_length=300)),
                    ('deviation', models.JSONField()),
                    ('file', models.CharField(max_length=200)),
                    ('bytes', models.PositiveBigIntegerField()),
                    ('made_at', models.DateTimeField(auto_now_add=True)),
                    ('made_by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                    ('revision', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='bakes', to='looks.revision')),
                ],
                options={
                    'db_table': 'looks_bake',
                    'ordering': ['-made_at'],
                },
            ),
        ]),
    ]
