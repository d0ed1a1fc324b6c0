"""All of the tables as they were at version 1.0.0, in one step for a new database; an older one goes through the migrations it replaces."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    replaces = [
        ('clips', '0001_initial'),
        ('clips', '0002_circle'),
        ('clips', '0003_removal'),
    ]

    initial = True

    dependencies = [
        ('jobs', '0002_initial'),
        ('people', '0007_circle'),
    ]

    operations = [
        migrations.CreateModel(
            name='Clip',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('removed_at', models.DateTimeField(db_index=True, editable=False, null=True)),
                ('name', models.CharField(max_length=120)),
                ('digest', models.CharField(db_index=True, max_length=64)),
                ('file', models.CharField(max_length=200)),
                ('file_name', models.CharField(max_length=200)),
                ('bytes', models.PositiveBigIntegerField(default=0)),
                ('encoding', models.CharField(blank=True, max_length=40)),
                ('facts', models.JSONField(default=dict)),
                ('cuts', models.JSONField(default=list)),
                ('stamps', models.CharField(blank=True, max_length=200)),
                ('added_at', models.DateTimeField(auto_now_add=True)),
                ('added_by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('circle', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to='people.circle')),
                ('job', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='jobs.job')),
                ('removed_by', models.ForeignKey(editable=False, null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'ordering': ['-id'],
            },
        ),
    ]
