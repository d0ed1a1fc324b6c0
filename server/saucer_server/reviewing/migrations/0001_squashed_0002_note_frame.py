"""All of the tables as they were at version 1.0.0, in one step for a new database; an older one goes through the migrations it replaces."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    replaces = [
        ('reviewing', '0001_initial'),
        ('reviewing', '0002_note_frame'),
    ]

    initial = True

    dependencies = [
        ('frames', '0008_removal'),
        ('looks', '0006_base_successor'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='Note',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('x', models.FloatField(null=True)),
                ('y', models.FloatField(null=True)),
                ('text', models.TextField()),
                ('at', models.DateTimeField(auto_now_add=True)),
                ('by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('frame', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to='frames.frame')),
                ('look', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='notes', to='looks.look')),
                ('reply_to', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='replies', to='reviewing.note')),
                ('revision', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='looks.revision')),
                ('settled_by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'ordering': ['id'],
            },
        ),
        migrations.CreateModel(
            name='Review',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('asked_at', models.DateTimeField(auto_now_add=True)),
                ('due', models.DateField(null=True)),
                ('words', models.TextField(blank=True)),
                ('stand', models.CharField(choices=[('open', 'Open'), ('approved', 'Approved'), ('sent back', 'Sent Back'), ('withdrawn', 'Withdrawn')], default='open', max_length=12)),
                ('answer', models.TextField(blank=True)),
                ('answered_at', models.DateTimeField(null=True)),
                ('seen', models.BooleanField(default=False)),
                ('answered_by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('asked_by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('asked_of', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('revision', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='reviews', to='looks.revision')),
            ],
            options={
                'ordering': ['-asked_at', '-id'],
                'constraints': [models.UniqueConstraint(condition=models.Q(('stand', 'open')), fields=('revision', 'asked_of'), name='one_open_review_a_person')],
            },
        ),
    ]
