"""All of the tables as they were at version 1.0.0, in one step for a new database; an older one goes through the migrations it replaces."""

import django.db.models.deletion
import django.db.models.fields.json
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    replaces = [
        ('looks', '0001_initial'),
        ('looks', '0002_initial'),
        ('looks', '0003_variations_presets_sittings'),
        ('looks', '0004_rooms'),
        ('looks', '0005_look_origin_look_rights'),
        ('looks', '0006_base_successor'),
        ('looks', '0007_shared'),
        ('looks', '0008_groups_apart'),
        ('looks', '0009_encodings_of_revisions'),
        ('looks', '0010_circle'),
        ('looks', '0011_presence'),
    ]

    initial = True

    dependencies = [
        ('people', '0007_circle'),
    ]

    operations = [
        migrations.CreateModel(
            name='Look',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=120)),
                ('note', models.TextField(blank=True)),
                ('origin', models.CharField(blank=True, max_length=300)),
                ('rights', models.CharField(blank=True, max_length=300)),
                ('made_at', models.DateTimeField(auto_now_add=True)),
                ('draft', models.JSONField()),
                ('draft_version', models.PositiveIntegerField(default=1)),
                ('draft_at', models.DateTimeField(auto_now=True)),
                ('base', models.JSONField(null=True)),
                ('shared', models.BooleanField(default=False)),
                ('circle', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to='people.circle')),
                ('draft_by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('maker', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('merged_into', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.PROTECT, related_name='merged', to='looks.look')),
                ('parent', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='variations', to='looks.look')),
                ('successor', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='succeeds', to='looks.look')),
            ],
            options={
                'ordering': ['name', 'id'],
            },
        ),
        migrations.CreateModel(
            name='SetAside',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('draft', models.JSONField()),
                ('based_on', models.PositiveIntegerField()),
                ('tab', models.CharField(blank=True, max_length=40)),
                ('kept_at', models.DateTimeField(auto_now_add=True)),
                ('kept_by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('look', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='set_aside', to='looks.look')),
            ],
            options={
                'ordering': ['-kept_at'],
            },
        ),
        migrations.CreateModel(
            name='Presence',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('holds', models.BooleanField(default=False)),
                ('seen_at', models.DateTimeField()),
                ('look', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='sittings', to='looks.look')),
                ('person', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'ordering': ['id'],
                'constraints': [models.UniqueConstraint(fields=('look', 'person'), name='one_sitting_a_person')],
            },
        ),
        migrations.CreateModel(
            name='Revision',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('number', models.PositiveIntegerField()),
                ('recipe', models.JSONField()),
                ('input', models.GeneratedField(db_persist=True, expression=django.db.models.fields.json.KeyTextTransform('input', 'recipe'), output_field=models.CharField(max_length=60))),
                ('output', models.GeneratedField(db_persist=True, expression=django.db.models.fields.json.KeyTextTransform('output', 'recipe'), output_field=models.CharField(max_length=60))),
                ('digest', models.CharField(db_index=True, max_length=64)),
                ('note', models.TextField(blank=True)),
                ('status', models.CharField(choices=[('draft', 'Draft'), ('in review', 'In Review'), ('approved', 'Approved'), ('retired', 'Retired')], default='draft', max_length=12)),
                ('made_at', models.DateTimeField(auto_now_add=True)),
                ('moved_at', models.DateTimeField(null=True)),
                ('look', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='revisions', to='looks.look')),
                ('made_by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('moved_by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'ordering': ['look', '-number'],
                'constraints': [models.UniqueConstraint(fields=('look', 'number'), name='one_revision_a_number')],
            },
        ),
        # The first tables of three apps that took them over from this one; the apps' own migrations go on from them.
        migrations.SeparateDatabaseAndState(database_operations=[
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
