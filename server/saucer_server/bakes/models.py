"""Bakes."""

from django.conf import settings
from django.db import models
from saucer_core.baking.deviation import Deviation

from ..columns import JsonColumn
from ..people.circles import Seen

PERSON = settings.AUTH_USER_MODEL


class Bake(models.Model):
    """A file made from a revision, how it was made, and how far it is from the look. It never changes, but
    for the times it was fetched."""

    revision = models.ForeignKey("looks.Revision", on_delete=models.PROTECT, related_name="bakes")
    #: The kind of file, a key of the core's.
    format = models.CharField(max_length=16)
    #: Points a side of its table; 0 where it holds none.
    grid = models.PositiveIntegerField()
    #: How the table was made: sampled or fitted; empty where there is none.
    method = models.CharField(max_length=12, blank=True)
    code_range = models.CharField(max_length=8, default="full")
    title = models.CharField(max_length=200, blank=True)
    rights = models.CharField(max_length=300, blank=True)
    note = models.CharField(max_length=2000, blank=True)
    #: Over the whole cube; ``None`` for files that hold no table.
    deviation: JsonColumn[Deviation | None, Deviation | None] = JsonColumn(Deviation, null=True)
    name = models.CharField(max_length=200)
    file = models.CharField(max_length=200)
    bytes = models.PositiveBigIntegerField()
    #: SHA-256 of the file.
    checksum = models.CharField(max_length=64)
    fetched = models.PositiveIntegerField(default=0)
    made_by = models.ForeignKey(PERSON, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)

    objects = Seen["Bake"]("revision__look__circle")

    class Meta:
        db_table = "looks_bake"
        ordering = ["-made_at", "-id"]
