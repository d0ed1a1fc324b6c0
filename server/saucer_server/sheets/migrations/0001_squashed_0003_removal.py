"""All of the tables as they were at version 1.0.0, in one step for a new database; an older one goes through the migrations it replaces."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    replaces = [
        ('sheets', '0001_initial'),
        ('sheets', '0002_circle'),
        ('sheets', '0003_removal'),
    ]

    initial = True

    dependencies = [
        ('frames', '0008_removal'),
        ('looks', '0006_base_successor'),
        ('people', '0007_circle'),
    ]

    operations = [
        migrations.CreateModel(
            name='Sheet',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('removed_at', models.DateTimeField(db_index=True, editable=False, null=True)),
                ('name', models.CharField(max_length=120)),
                ('strength', models.FloatField(default=1.0)),
                ('blind', models.BooleanField(default=False)),
                ('seed', models.PositiveIntegerField(default=0)),
                ('closed_at', models.DateTimeField(null=True)),
                ('made_at', models.DateTimeField(auto_now_add=True)),
                ('circle', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to='people.circle')),
                ('closed_by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('made_by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('removed_by', models.ForeignKey(editable=False, null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'ordering': ['-made_at', '-id'],
            },
        ),
        migrations.CreateModel(
            name='Row',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('place', models.PositiveIntegerField()),
                ('name', models.CharField(max_length=160)),
                ('judged_by', models.BooleanField(default=False)),
                ('revision', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to='looks.revision')),
                ('sheet', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='rows', to='sheets.sheet')),
            ],
            options={
                'ordering': ['place', 'id'],
            },
        ),
        migrations.CreateModel(
            name='Column',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('place', models.PositiveIntegerField()),
                ('name', models.CharField(max_length=120)),
                ('frame', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to='frames.frame')),
                ('sheet', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='columns', to='sheets.sheet')),
            ],
            options={
                'ordering': ['place', 'id'],
            },
        ),
        migrations.CreateModel(
            name='Mark',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('verdict', models.CharField(blank=True, choices=[('for', 'For'), ('with changes', 'Changes'), ('against', 'Against')], max_length=12)),
                ('note', models.CharField(blank=True, max_length=500)),
                ('column', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='+', to='sheets.column')),
                ('person', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('row', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='marks', to='sheets.row')),
            ],
            options={
                'constraints': [models.UniqueConstraint(fields=('row', 'column', 'person'), name='one_mark_a_cell', nulls_distinct=False)],
            },
        ),
    ]
