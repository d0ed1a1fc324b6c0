import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    initial = True

    dependencies = [
        ('jobs', '0002_initial'),
        ('projects', '0002_scenes_and_assignments'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        # The table is there already, from when deliveries belonged to the room of projects.
        migrations.SeparateDatabaseAndState(state_operations=[
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
        migrations.AddField(model_name='delivery', name='plan', field=models.JSONField(default=dict)),
        migrations.AddField(model_name='delivery', name='shots', field=models.JSONField(default=list)),
        migrations.AddField(model_name='delivery', name='contents', field=models.JSONField(default=dict)),
        migrations.AddField(model_name='delivery', name='changes', field=models.JSONField(default=list)),
        migrations.AddField(model_name='delivery', name='left_out', field=models.JSONField(default=list)),
        migrations.AddField(model_name='delivery', name='shelf', field=models.JSONField(default=dict)),
        migrations.AddField(model_name='delivery', name='ready', field=models.BooleanField(default=False)),
        migrations.CreateModel(
            name='Feed',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=120)),
                ('token', models.CharField(max_length=64, unique=True)),
                ('hint', models.CharField(max_length=12)),
                ('ends_at', models.DateTimeField(null=True)),
                ('revoked_at', models.DateTimeField(null=True)),
                ('made_at', models.DateTimeField(auto_now_add=True)),
                ('made_by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('project', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='feeds', to='projects.project')),
            ],
            options={
                'ordering': ['-id'],
            },
        ),
        migrations.CreateModel(
            name='Fetch',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('what', models.CharField(max_length=400)),
                ('delivery', models.PositiveIntegerField()),
                ('status', models.PositiveIntegerField()),
                ('bytes', models.PositiveBigIntegerField(default=0)),
                ('came_from', models.CharField(blank=True, max_length=60)),
                ('at', models.DateTimeField(auto_now_add=True)),
                ('feed', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='fetches', to='delivering.feed')),
            ],
            options={
                'ordering': ['-id'],
            },
        ),
        migrations.CreateModel(
            name='Piece',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('place', models.PositiveIntegerField()),
                ('part', models.CharField(max_length=12)),
                ('path', models.CharField(max_length=400)),
                ('spec', models.JSONField(default=dict)),
                ('state', models.CharField(choices=[('waiting', 'Waiting'), ('done', 'Done'), ('dropped', 'Dropped')], default='waiting', max_length=8)),
                ('files', models.JSONField(default=list)),
                ('facts', models.JSONField(default=dict)),
                ('delivery', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='pieces', to='delivering.delivery')),
            ],
            options={
                'ordering': ['place'],
            },
        ),
        migrations.AddConstraint(
            model_name='piece',
            constraint=models.UniqueConstraint(fields=('delivery', 'place'), name='one_piece_a_place'),
        ),
    ]
