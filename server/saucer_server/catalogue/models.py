"""How looks are found again: tags, collections, favourites; and what is kept of every look so that thousands
are searched at once."""

from django.conf import settings
from django.contrib.postgres.fields import ArrayField
from django.contrib.postgres.indexes import GinIndex
from django.contrib.postgres.search import SearchVectorField
from django.db import models
from saucer_core.readings.traits import Traits

from ..columns import JsonColumn
from ..people.circles import Seen
from ..removals.models import Present, Removable
from .cube import CubeField

PERSON = settings.AUTH_USER_MODEL


class Tag(models.Model):
    """A word on looks: mood, light, use."""

    name = models.CharField(max_length=40, unique=True)
    looks = models.ManyToManyField("looks.Look", related_name="tags")

    class Meta:
        ordering = ["name"]


class Collection(Removable):
    """Looks that belong together, under one name: put there by hand, in an order, or found by a kept search.

    search: the words of an address of the catalogue; empty where looks are put in by hand.
    """

    name = models.CharField(max_length=80)
    note = models.CharField(max_length=300, blank=True)
    search = models.CharField(max_length=1000, blank=True)
    version = models.PositiveIntegerField(default=1)
    made_by = models.ForeignKey(PERSON, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    looks = models.ManyToManyField("looks.Look", related_name="collections", through="Placed")

    objects = Present["Collection"]()

    class Meta:
        ordering = ["name"]
        constraints = [
            models.UniqueConstraint(
                fields=["name"], condition=models.Q(removed_at=None), name="one_collection_a_name"
            )
        ]

    def __str__(self) -> str:
        return self.name


class Placed(models.Model):
    """A look in a collection, at its place in the order."""

    collection = models.ForeignKey(Collection, on_delete=models.CASCADE, related_name="placed")
    look = models.ForeignKey("looks.Look", on_delete=models.CASCADE, related_name="placed")
    place = models.PositiveIntegerField(default=0)

    class Meta:
        ordering = ["place", "id"]
        constraints = [models.UniqueConstraint(fields=["collection", "look"], name="one_place_a_look")]


class Use(models.Model):
    """That a project has a look on its shots; written down by the project, in the transaction that changes
    it.

    project, name: its number and what it is called. shots: on how many of them. circle: to whom the project
    is kept; nobody for everybody.
    """

    look = models.ForeignKey("looks.Look", on_delete=models.CASCADE, related_name="uses")
    project = models.PositiveBigIntegerField(db_index=True)
    name = models.CharField(max_length=120)
    circle = models.ForeignKey("people.Circle", on_delete=models.SET_NULL, null=True, related_name="+")
    shots = models.PositiveIntegerField()

    objects = Seen["Use"]()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["look", "project"], name="one_use_a_project")]


class Favourite(models.Model):
    """A look that a person likes to find again."""

    look = models.ForeignKey("looks.Look", on_delete=models.CASCADE, related_name="favourites")
    person = models.ForeignKey(PERSON, on_delete=models.CASCADE, related_name="+")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["look", "person"], name="one_favourite_a_person")]


class Visit(models.Model):
    """When a person last looked at a look's page, or tried it."""

    look = models.ForeignKey("looks.Look", on_delete=models.CASCADE, related_name="+")
    person = models.ForeignKey(PERSON, on_delete=models.CASCADE, related_name="+")
    at = models.DateTimeField()

    class Meta:
        ordering = ["-at"]
        constraints = [models.UniqueConstraint(fields=["look", "person"], name="one_visit_a_person")]


class Likeness(models.Model):
    """What the core measured of a look, by the look's digest.

    colours: what it makes of the core's fixed colours, float32, CIELAB; traits and words: see ``Traits``;
    tones: two CSS colours. Where the core measures otherwise, a migration empties this table; it fills itself
    again.
    """

    digest = models.CharField(max_length=64, unique=True)
    colours = models.BinaryField()
    traits = JsonColumn(Traits)
    words = JsonColumn(list[str], default=list)
    tones = JsonColumn(list[str], default=list)


class Entry(models.Model):
    """A look of the catalogue by its newest revision: all that a search needs, in one row. Made anew whenever
    any of it changes.

    document, text: the words, for full text and for pieces of words. gist: see the core's ``gist``; null, as
    the traits are, where the look cannot be computed.
    """

    look = models.OneToOneField(
        "looks.Look", on_delete=models.CASCADE, primary_key=True, related_name="entry"
    )
    revision = models.ForeignKey("looks.Revision", on_delete=models.CASCADE, related_name="+", db_index=False)
    name = models.CharField(max_length=200)
    status = models.CharField(max_length=12)
    input = models.CharField(max_length=60)
    maker = models.ForeignKey(PERSON, on_delete=models.PROTECT, related_name="+")
    rights = models.CharField(max_length=300)
    brought_in = models.BooleanField()
    changed_at = models.DateTimeField()
    tags = ArrayField(models.CharField(max_length=40))
    words = ArrayField(models.CharField(max_length=60))
    tones = ArrayField(models.CharField(max_length=7))
    warmth = models.FloatField(null=True)
    contrast = models.FloatField(null=True)
    saturation = models.FloatField(null=True)
    exposure = models.FloatField(null=True)
    black = models.FloatField(null=True)
    white = models.FloatField(null=True)
    tint = models.FloatField(null=True)
    skin_hue = models.FloatField(null=True)
    hue_spread = models.FloatField(null=True)
    gist = CubeField(null=True)
    document = SearchVectorField(null=True)
    text = models.TextField()

    objects = Seen["Entry"]("look__circle")

    class Meta:
        indexes = [
            GinIndex(fields=["tags"], name="entry_tags"),
            GinIndex(fields=["document"], name="entry_document"),
            GinIndex(fields=["text"], name="entry_text", opclasses=["gin_trgm_ops"]),
            models.Index(fields=["name", "look"], name="entry_name"),
            models.Index(fields=["-changed_at", "look"], name="entry_changed"),
            models.Index(fields=["status"], name="entry_status"),
            models.Index(fields=["revision"], name="entry_revision"),
        ]


class Word(models.Model):
    """A word that entries hold: see ``vocabulary``."""

    word = models.TextField(unique=True)

    class Meta:
        indexes = [GinIndex(fields=["word"], name="word_alike", opclasses=["gin_trgm_ops"])]


class KeptSearch(models.Model):
    """Filters of the catalogue that a person gave a name."""

    name = models.CharField(max_length=80)
    search = models.CharField(max_length=1000)
    person = models.ForeignKey(PERSON, on_delete=models.CASCADE, related_name="+")

    class Meta:
        ordering = ["name"]
        constraints = [models.UniqueConstraint(fields=["person", "name"], name="one_search_a_name")]
