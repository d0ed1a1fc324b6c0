"""All of the tables as they were at version 1.0.0, in one step for a new database; an older one goes through the migrations it replaces."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    replaces = [
        ('outgoing', '0001_initial'),
        ('outgoing', '0002_circle'),
    ]

    initial = True

    dependencies = [
        ('jobs', '0002_initial'),
        ('people', '0007_circle'),
    ]

    operations = [
        migrations.CreateModel(
            name='Outgoing',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=120)),
                ('collections', models.JSONField(default=list)),
                ('looks', models.JSONField(default=list)),
                ('kinds', models.JSONField(default=list)),
                ('grid', models.PositiveIntegerField(default=33)),
                ('frames', models.JSONField(default=list)),
                ('file', models.CharField(blank=True, max_length=200)),
                ('bytes', models.PositiveBigIntegerField(default=0)),
                ('contents', models.JSONField(default=dict)),
                ('changes', models.JSONField(default=list)),
                ('made_at', models.DateTimeField(auto_now_add=True)),
                ('circle', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to='people.circle')),
                ('job', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='jobs.job')),
                ('made_by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'ordering': ['-id'],
            },
        ),
    ]
