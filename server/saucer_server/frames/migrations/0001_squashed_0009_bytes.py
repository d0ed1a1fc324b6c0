"""All of the tables as they were at version 1.0.0, in one step for a new database; an older one goes through the migrations it replaces."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    replaces = [
        ('frames', '0001_initial'),
        ('frames', '0002_initial'),
        ('frames', '0003_frame_doubt'),
        ('frames', '0004_frame_passing'),
        ('frames', '0005_frame_of_shot'),
        ('frames', '0006_frame_encoding_by'),
        ('frames', '0007_circle'),
        ('frames', '0008_removal'),
        ('frames', '0009_bytes'),
    ]

    initial = True

    dependencies = [
        ('people', '0007_circle'),
    ]

    operations = [
        migrations.CreateModel(
            name='Frame',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('removed_at', models.DateTimeField(db_index=True, editable=False, null=True)),
                ('name', models.CharField(max_length=120)),
                ('light', models.CharField(blank=True, max_length=40)),
                ('encoding', models.CharField(max_length=40)),
                ('encoding_by', models.CharField(blank=True, max_length=200)),
                ('digest', models.CharField(db_index=True, max_length=64)),
                ('file', models.CharField(max_length=200)),
                ('file_name', models.CharField(max_length=200)),
                ('bytes', models.PositiveBigIntegerField(default=0)),
                ('kind', models.CharField(max_length=12)),
                ('depth', models.CharField(max_length=20)),
                ('width', models.PositiveIntegerField()),
                ('height', models.PositiveIntegerField()),
                ('trim', models.JSONField(default=dict)),
                ('doubt', models.CharField(blank=True, max_length=300)),
                ('unread', models.JSONField(default=list)),
                ('chart', models.BooleanField(default=False)),
                ('passing', models.BooleanField(default=False)),
                ('of_shot', models.BooleanField(default=False)),
                ('added_at', models.DateTimeField(auto_now_add=True)),
                ('added_by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('circle', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to='people.circle')),
                ('removed_by', models.ForeignKey(editable=False, null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'ordering': ['chart', 'id'],
            },
        ),
    ]
