"""Packs that wait for a decision, and what stands in them."""

from django.conf import settings
from django.db import models

from ..columns import JsonColumn
from .payloads import Collections, Tag
from .values import ItemGuess, Twin

PERSON = settings.AUTH_USER_MODEL


class Stage(models.TextChoices):
    """Where a pack stands."""

    GATHERING = "gathering"
    READING = "reading"
    READY = "ready"
    KEEPING = "keeping"
    KEPT = "kept"


class Pack(models.Model):
    """Files that came in together. What is said of it holds for every look in it.

    collections: the name of the collection that each folder becomes, empty for none.
    """

    name = models.CharField(max_length=200)
    stage = models.CharField(max_length=12, choices=Stage, default=Stage.GATHERING)
    brought_by = models.ForeignKey(PERSON, on_delete=models.PROTECT, related_name="+")
    brought_at = models.DateTimeField(auto_now_add=True)
    job = models.ForeignKey("jobs.Job", on_delete=models.SET_NULL, null=True, related_name="+")
    frame = models.ForeignKey("frames.Frame", on_delete=models.SET_NULL, null=True, related_name="+")
    origin = models.CharField(max_length=300, blank=True)
    rights = models.CharField(max_length=300, default="ask first")
    licence = models.TextField(blank=True)
    licence_file = models.CharField(max_length=200, blank=True)
    tags = JsonColumn(list[Tag], default=list)
    collections = JsonColumn(Collections, default=dict)
    review = models.BooleanField(default=False)

    class Meta:
        ordering = ["-brought_at"]


class PackFile(models.Model):
    """A file as it was sent; gone once the pack is kept or dropped."""

    pack = models.ForeignKey(Pack, on_delete=models.CASCADE, related_name="files")
    folder = models.CharField(max_length=200, blank=True)
    name = models.CharField(max_length=200)
    file = models.CharField(max_length=200)
    size = models.BigIntegerField()
    read = models.BooleanField(default=False)

    class Meta:
        ordering = ["id"]


class PackItem(models.Model):
    """One look that a pack brings, or a file of it that cannot be read (``reason``).

    file: its bytes; place: which of the looks in that file. guess: how sure the encodings are, on what that
    rests, and the next likely pair. far: mean ΔE2000 between colours with and without it. twin: the look or
    item that an eye cannot tell it from. colours: what it makes of the core's fixed colours. look: what it
    became.
    """

    pack = models.ForeignKey(Pack, on_delete=models.CASCADE, related_name="items")
    source = models.ForeignKey(PackFile, on_delete=models.CASCADE, related_name="items")
    folder = models.CharField(max_length=200, blank=True)
    file_name = models.CharField(max_length=200)
    file = models.CharField(max_length=200, blank=True)
    place = models.PositiveIntegerField(default=0)
    kind = models.CharField(max_length=12, blank=True)
    form = models.CharField(max_length=60, blank=True)
    name = models.CharField(max_length=120)
    expects = models.CharField(max_length=40, blank=True)
    gives = models.CharField(max_length=40, blank=True)
    guess: JsonColumn[ItemGuess | None, ItemGuess | None] = JsonColumn(ItemGuess, null=True)
    far = models.FloatField(default=0)
    findings = JsonColumn(list[str], default=list)
    serious = models.BooleanField(default=False)
    words = JsonColumn(list[str], default=list)
    reason = models.CharField(max_length=400, blank=True)
    table = models.CharField(max_length=64, blank=True)
    colours = models.BinaryField(null=True)
    twin: JsonColumn[Twin | None, Twin | None] = JsonColumn(Twin, null=True)
    chosen = models.BooleanField(default=True)
    look = models.ForeignKey("looks.Look", on_delete=models.SET_NULL, null=True, related_name="+")
    kept = models.BooleanField(default=False)

    class Meta:
        ordering = ["folder", "id"]
