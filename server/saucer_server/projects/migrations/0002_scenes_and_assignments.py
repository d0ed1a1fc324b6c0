from typing import Any

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


def looks_become_assignments(apps: Any, schema_editor: Any) -> None:
    """What was on a shot becomes an assignment of its own."""
    Shot, Assignment, Layer = (apps.get_model("projects", name) for name in ("Shot", "Assignment", "Layer"))
    for shot in Shot.objects.filter(revision__isnull=False):
        put = {"place": 1, "shot": shot, "revision": shot.revision, "strength": shot.strength}
        Assignment.objects.create(project=shot.project, **put)
        Layer.objects.create(given_by="shot", **put)


class Migration(migrations.Migration):

    dependencies = [
        ('clips', '0001_initial'),
        ('looks', '0006_base_successor'),
        ('projects', '0001_initial'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.AddField(
            model_name='project',
            name='encodings',
            field=models.JSONField(default=list),
        ),
        migrations.AddField(
            model_name='project',
            name='members',
            field=models.ManyToManyField(blank=True, related_name='+', to=settings.AUTH_USER_MODEL),
        ),
        migrations.AddField(
            model_name='project',
            name='pattern',
            field=models.JSONField(default=list),
        ),
        migrations.AddField(
            model_name='project',
            name='reading',
            field=models.JSONField(default=list),
        ),
        migrations.AddField(
            model_name='shot',
            name='clip',
            field=models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.PROTECT, related_name='shots', to='clips.clip'),
        ),
        migrations.AddField(
            model_name='shot',
            name='first',
            field=models.PositiveIntegerField(default=0),
        ),
        migrations.AddField(
            model_name='shot',
            name='last',
            field=models.PositiveIntegerField(default=0),
        ),
        migrations.AddField(
            model_name='shot',
            name='meant',
            field=models.JSONField(default=list),
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
            name='Assignment',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('place', models.PositiveIntegerField()),
                ('strength', models.FloatField(default=1.0)),
                ('project', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='assignments', to='projects.project')),
                ('revision', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='assignments', to='looks.revision')),
                ('shot', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='assignments', to='projects.shot')),
                ('scene', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='assignments', to='projects.scene')),
            ],
            options={
                'ordering': ['place'],
            },
        ),
        migrations.AddField(
            model_name='shot',
            name='scene',
            field=models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='shots', to='projects.scene'),
        ),
        # Deliveries have a room of their own from here on; their table stays as it is.
        migrations.SeparateDatabaseAndState(state_operations=[migrations.DeleteModel(name='Delivery')]),
        migrations.AddConstraint(
            model_name='layer',
            constraint=models.UniqueConstraint(fields=('shot', 'place'), name='one_layer_a_place'),
        ),
        migrations.AddConstraint(
            model_name='assignment',
            constraint=models.UniqueConstraint(fields=('project', 'scene', 'shot', 'place'), name='one_assignment_a_place', nulls_distinct=False),
        ),
        migrations.RunPython(looks_become_assignments, migrations.RunPython.noop),
        migrations.RemoveField(
            model_name='shot',
            name='revision',
        ),
        migrations.RemoveField(
            model_name='shot',
            name='strength',
        ),
    ]
