"""All of the tables as they were at version 1.0.0, in one step for a new database; an older one goes through the migrations it replaces."""

import django.contrib.postgres.fields
import django.contrib.postgres.indexes
import django.contrib.postgres.search
import django.db.models.deletion
import saucer_server.catalogue.cube
from django.conf import settings
from django.contrib.postgres.operations import CreateExtension, TrigramExtension
from django.db import migrations, models


class Migration(migrations.Migration):

    replaces = [
        ('catalogue', '0001_initial'),
        ('catalogue', '0002_initial'),
        ('catalogue', '0003_likeness_collection'),
        ('catalogue', '0004_entries'),
        ('catalogue', '0005_words'),
        ('catalogue', '0006_removal'),
    ]

    initial = True

    dependencies = [
        ('looks', '0010_circle'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        TrigramExtension(),
        CreateExtension('cube'),
        migrations.CreateModel(
            name='Likeness',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('digest', models.CharField(max_length=64, unique=True)),
                ('colours', models.BinaryField()),
                ('traits', models.JSONField(default=dict)),
                ('words', models.JSONField(default=list)),
                ('tones', models.JSONField(default=list)),
            ],
        ),
        migrations.CreateModel(
            name='Collection',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('removed_at', models.DateTimeField(db_index=True, editable=False, null=True)),
                ('name', models.CharField(max_length=80)),
                ('note', models.CharField(blank=True, max_length=300)),
                ('search', models.CharField(blank=True, max_length=1000)),
                ('version', models.PositiveIntegerField(default=1)),
                ('made_at', models.DateTimeField(auto_now_add=True)),
                ('made_by', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('removed_by', models.ForeignKey(editable=False, null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'ordering': ['name'],
            },
        ),
        migrations.CreateModel(
            name='Placed',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('place', models.PositiveIntegerField(default=0)),
                ('collection', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='placed', to='catalogue.collection')),
                ('look', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='placed', to='looks.look')),
            ],
            options={
                'ordering': ['place', 'id'],
            },
        ),
        migrations.AddField(
            model_name='collection',
            name='looks',
            field=models.ManyToManyField(related_name='collections', through='catalogue.Placed', to='looks.look'),
        ),
        migrations.CreateModel(
            name='Tag',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=40, unique=True)),
                ('looks', models.ManyToManyField(related_name='tags', to='looks.look')),
            ],
            options={
                'ordering': ['name'],
            },
        ),
        migrations.CreateModel(
            name='Visit',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('at', models.DateTimeField()),
                ('look', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='looks.look')),
                ('person', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'ordering': ['-at'],
            },
        ),
        migrations.CreateModel(
            name='Word',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('word', models.TextField(unique=True)),
            ],
            options={
                'indexes': [django.contrib.postgres.indexes.GinIndex(fields=['word'], name='word_alike', opclasses=['gin_trgm_ops'])],
            },
        ),
        migrations.CreateModel(
            name='Entry',
            fields=[
                ('look', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, primary_key=True, related_name='entry', serialize=False, to='looks.look')),
                ('name', models.CharField(max_length=200)),
                ('status', models.CharField(max_length=12)),
                ('input', models.CharField(max_length=60)),
                ('rights', models.CharField(max_length=300)),
                ('brought_in', models.BooleanField()),
                ('changed_at', models.DateTimeField()),
                ('tags', django.contrib.postgres.fields.ArrayField(base_field=models.CharField(max_length=40), size=None)),
                ('words', django.contrib.postgres.fields.ArrayField(base_field=models.CharField(max_length=60), size=None)),
                ('tones', django.contrib.postgres.fields.ArrayField(base_field=models.CharField(max_length=7), size=None)),
                ('warmth', models.FloatField(null=True)),
                ('contrast', models.FloatField(null=True)),
                ('saturation', models.FloatField(null=True)),
                ('exposure', models.FloatField(null=True)),
                ('black', models.FloatField(null=True)),
                ('white', models.FloatField(null=True)),
                ('tint', models.FloatField(null=True)),
                ('skin_hue', models.FloatField(null=True)),
                ('hue_spread', models.FloatField(null=True)),
                ('gist', saucer_server.catalogue.cube.CubeField(null=True)),
                ('document', django.contrib.postgres.search.SearchVectorField(null=True)),
                ('text', models.TextField()),
                ('maker', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('revision', models.ForeignKey(db_index=False, on_delete=django.db.models.deletion.CASCADE, related_name='+', to='looks.revision')),
            ],
            options={
                'indexes': [django.contrib.postgres.indexes.GinIndex(fields=['tags'], name='entry_tags'), django.contrib.postgres.indexes.GinIndex(fields=['document'], name='entry_document'), django.contrib.postgres.indexes.GinIndex(fields=['text'], name='entry_text', opclasses=['gin_trgm_ops']), models.Index(fields=['name', 'look'], name='entry_name'), models.Index(fields=['-changed_at', 'look'], name='entry_changed'), models.Index(fields=['status'], name='entry_status'), models.Index(fields=['revision'], name='entry_revision')],
            },
        ),
        migrations.CreateModel(
            name='Favourite',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('look', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='favourites', to='looks.look')),
                ('person', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'constraints': [models.UniqueConstraint(fields=('look', 'person'), name='one_favourite_a_person')],
            },
        ),
        migrations.CreateModel(
            name='KeptSearch',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=80)),
                ('search', models.CharField(max_length=1000)),
                ('person', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'ordering': ['name'],
                'constraints': [models.UniqueConstraint(fields=('person', 'name'), name='one_search_a_name')],
            },
        ),
        migrations.AddConstraint(
            model_name='placed',
            constraint=models.UniqueConstraint(fields=('collection', 'look'), name='one_place_a_look'),
        ),
        migrations.AddConstraint(
            model_name='collection',
            constraint=models.UniqueConstraint(condition=models.Q(('removed_at', None)), fields=('name',), name='one_collection_a_name'),
        ),
        migrations.AddConstraint(
            model_name='visit',
            constraint=models.UniqueConstraint(fields=('look', 'person'), name='one_visit_a_person'),
        ),
    ]
