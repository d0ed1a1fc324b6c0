"""All of the tables as they were at version 1.0.0, in one step for a new database; an older one goes through the migrations it replaces."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    replaces = [
        ('projects', '0001_initial'),
        ('projects', '0002_scenes_and_assignments'),
        ('projects', '0003_circle'),
    ]

    initial = True

    dependencies = [
        ('clips', '0001_initial'),
        ('frames', '0001_initial'),
        ('jobs', '0001_initial'),
        ('looks', '0006_base_successor'),
        ('people', '0007_circle'),
    ]

    operations = [
        migrations.CreateModel(
            name='Project',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=120)),
                ('note', models.TextField(blank=True)),
                ('encodings', models.JSONField(default=list)),
                ('pattern', models.JSONField(default=list)),
                ('reading', models.JSONField(default=list)),
                ('made_at', models.DateTimeField(auto_now_add=True)),
                ('circle', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to='people.circle')),
                ('made_by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('members', models.ManyToManyField(blank=True, related_name='+', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'ordering': ['name', 'id'],
            },
        ),
        migrations.CreateModel(
            name='Change',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('kind', models.CharField(max_length=12)),
                ('words', models.CharField(max_length=300)),
                ('before', models.JSONField(default=dict)),
                ('after', models.JSONField(default=dict)),
                ('shots', models.JSONField(default=list)),
                ('undone', models.BooleanField(default=False)),
                ('made_at', models.DateTimeField(auto_now_add=True)),
                ('made_by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('project', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='changes', to='projects.project')),
            ],
            options={
                'ordering': ['-id'],
            },
        ),
        migrations.CreateModel(
            name='Scene',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('place', models.PositiveIntegerField()),
                ('name', models.CharField(max_length=120)),
                ('project', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='scenes', to='projects.project')),
            ],
            options={
                'ordering': ['place', 'id'],
            },
        ),
        migrations.CreateModel(
            name='Shot',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('number', models.PositiveIntegerField()),
                ('name', models.CharField(max_length=120)),
                ('first', models.PositiveIntegerField(default=0)),
                ('last', models.PositiveIntegerField(default=0)),
                ('trim', models.JSONField(default=dict)),
                ('meant', models.JSONField(default=list)),
                ('clip', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.PROTECT, related_name='shots', to='clips.clip')),
                ('frame', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='shots', to='frames.frame')),
                ('project', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='shots', to='projects.project')),
                ('scene', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='shots', to='projects.scene')),
            ],
            options={
                'ordering': ['number'],
            },
        ),
        migrations.CreateModel(
            name='Layer',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('place', models.PositiveIntegerField()),
                ('strength', models.FloatField(default=1.0)),
                ('given_by', models.CharField(choices=[('project', 'Project'), ('scene', 'Scene'), ('shot', 'Shot')], max_length=8)),
                ('revision', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='layers', to='looks.revision')),
                ('shot', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='layers', to='projects.shot')),
            ],
            options={
                'ordering': ['place'],
            },
        ),
        migrations.CreateModel(
            name='Assignment',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('place', models.PositiveIntegerField()),
                ('strength', models.FloatField(default=1.0)),
                ('revision', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='assignments', to='looks.revision')),
                ('project', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='assignments', to='projects.project')),
                ('scene', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='assignments', to='projects.scene')),
                ('shot', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='assignments', to='projects.shot')),
            ],
            options={
                'ordering': ['place'],
            },
        ),
        migrations.AddConstraint(
            model_name='shot',
            constraint=models.UniqueConstraint(fields=('project', 'number'), name='one_shot_a_number'),
        ),
        migrations.AddConstraint(
            model_name='layer',
            constraint=models.UniqueConstraint(fields=('shot', 'place'), name='one_layer_a_place'),
        ),
        migrations.AddConstraint(
            model_name='assignment',
            constraint=models.UniqueConstraint(fields=('project', 'scene', 'shot', 'place'), name='one_assignment_a_place', nulls_distinct=False),
        ),
        # The first table of deliveries, whose app took it over from this one; its own migrations go on from it.
        migrations.SeparateDatabaseAndState(database_operations=[
            migrations.CreateModel(
                name='Delivery',
                fields=[
                    ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                    ('number', models.PositiveIntegerField()),
                    ('file', models.CharField(blank=True, max_length=200)),
                    ('bytes', models.PositiveBigIntegerField(default=0)),
                    ('grid', models.PositiveIntegerField(default=33)),
                    ('made_at', models.DateTimeField(auto_now_add=True)),
                    ('job', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='jobs.job')),
                    ('made_by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                    ('project', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='deliveries', to='projects.project')),
                ],
                options={
                    'db_table': 'projects_delivery',
                    'ordering': ['-number'],
                },
            ),
            migrations.AddConstraint(
                model_name='delivery',
                constraint=models.UniqueConstraint(fields=('project', 'number'), name='one_delivery_a_number'),
            ),
        ]),
    ]
