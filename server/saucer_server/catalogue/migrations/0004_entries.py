"""Entries for searching, places in collections, favourites, visits, kept searches."""

from typing import Any

import django.db.models.deletion
from django.conf import settings
from django.contrib.postgres.fields import ArrayField
from django.contrib.postgres.indexes import GinIndex
from django.contrib.postgres.operations import CreateExtension, TrigramExtension
from django.contrib.postgres.search import SearchVectorField
from django.db import migrations, models

import saucer_server.catalogue.cube


def keep_places(apps: Any, schema_editor: Any) -> None:
    """Looks that stood in collections get a place there, by name."""
    collection, placed = apps.get_model("catalogue", "Collection"), apps.get_model("catalogue", "Placed")
    for row in collection.objects.all():
        looks = row.looks.order_by("name", "pk")
        placed.objects.bulk_create([placed(collection=row, look=look, place=k) for k, look in enumerate(looks, 1)])


def measure_anew(apps: Any, schema_editor: Any) -> None:
    """What was kept of looks lacks their traits; it fills itself again."""
    apps.get_model("catalogue", "Likeness").objects.all().delete()


class Migration(migrations.Migration):

    dependencies = [
        ("catalogue", "0003_likeness_collection"),
        ("looks", "0005_look_origin_look_rights"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        TrigramExtension(),
        CreateExtension("cube"),
        migrations.CreateModel(
            name="Placed",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("place", models.PositiveIntegerField(default=0)),
                ("collection", models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="placed", to="catalogue.collection")),
                ("look", models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="placed", to="looks.look")),
            ],
            options={"ordering": ["place", "id"]},
        ),
        migrations.RunPython(keep_places, migrations.RunPython.noop),
        migrations.RemoveField(model_name="collection", name="looks"),
        migrations.AddField(
            model_name="collection", name="looks",
            field=models.ManyToManyField(related_name="collections", through="catalogue.Placed", to="looks.look"),
        ),
        migrations.AddConstraint(
            model_name="placed", constraint=models.UniqueConstraint(fields=("collection", "look"), name="one_place_a_look"),
        ),
        migrations.AddField(model_name="collection", name="note", field=models.CharField(blank=True, default="", max_length=300), preserve_default=False),
        migrations.AddField(model_name="collection", name="search", field=models.CharField(blank=True, default="", max_length=1000), preserve_default=False),
        migrations.AddField(model_name="collection", name="version", field=models.PositiveIntegerField(default=1)),
        migrations.RunPython(measure_anew, migrations.RunPython.noop),
        migrations.AddField(model_name="likeness", name="traits", field=models.JSONField(default=dict)),
        migrations.AddField(model_name="likeness", name="words", field=models.JSONField(default=list)),
        migrations.AddField(model_name="likeness", name="tones", field=models.JSONField(default=list)),
        migrations.CreateModel(
            name="Favourite",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("look", models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="favourites", to="looks.look")),
                ("person", models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="+", to=settings.AUTH_USER_MODEL)),
            ],
            options={"constraints": [models.UniqueConstraint(fields=("look", "person"), name="one_favourite_a_person")]},
        ),
        migrations.CreateModel(
            name="Visit",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("at", models.DateTimeField()),
                ("look", models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="+", to="looks.look")),
                ("person", models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="+", to=settings.AUTH_USER_MODEL)),
            ],
            options={"ordering": ["-at"], "constraints": [models.UniqueConstraint(fields=("look", "person"), name="one_visit_a_person")]},
        ),
        migrations.CreateModel(
            name="KeptSearch",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("name", models.CharField(max_length=80)),
                ("search", models.CharField(max_length=1000)),
                ("person", models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="+", to=settings.AUTH_USER_MODEL)),
            ],
            options={"ordering": ["name"], "constraints": [models.UniqueConstraint(fields=("person", "name"), name="one_search_a_name")]},
        ),
        migrations.CreateModel(
            name="Entry",
            fields=[
                ("look", models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, primary_key=True, related_name="entry", serialize=False, to="looks.look")),
                ("name", models.CharField(max_length=200)),
                ("status", models.CharField(max_length=12)),
                ("input", models.CharField(max_length=60)),
                ("rights", models.CharField(max_length=300)),
                ("brought_in", models.BooleanField()),
                ("changed_at", models.DateTimeField()),
                ("tags", ArrayField(base_field=models.CharField(max_length=40), size=None)),
                ("words", ArrayField(base_field=models.CharField(max_length=60), size=None)),
                ("tones", ArrayField(base_field=models.CharField(max_length=7), size=None)),
                *((trait, models.FloatField(null=True)) for trait in (
                    "warmth", "contrast", "saturation", "exposure", "black", "white", "tint", "skin_hue", "hue_spread",
                )),
                ("gist", saucer_server.catalogue.cube.CubeField(null=True)),
                ("document", SearchVectorField(null=True)),
                ("text", models.TextField()),
                ("maker", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL)),
                ("revision", models.ForeignKey(db_index=False, on_delete=django.db.models.deletion.CASCADE, related_name="+", to="looks.revision")),
            ],
            options={
                "indexes": [
                    GinIndex(fields=["tags"], name="entry_tags"),
                    GinIndex(fields=["document"], name="entry_document"),
                    GinIndex(fields=["text"], name="entry_text", opclasses=["gin_trgm_ops"]),
                    models.Index(fields=["name", "look"], name="entry_name"),
                    models.Index(fields=["-changed_at", "look"], name="entry_changed"),
                    models.Index(fields=["status"], name="entry_status"),
                    models.Index(fields=["revision"], name="entry_revision"),
                ],
            },
        ),
    ]
