"""Frames: reference pictures with a known encoding."""

from django.conf import settings
from django.db import models
from saucer_core.trim import Trim

from ..columns import JsonColumn
from ..removals.models import Removable, SeenPresent
from .values import RawSaid, SetName, ShownPart


class Frame(Removable):
    """A picture people judge looks on. Its pixels never change; its name, light and trim may."""

    name = models.CharField(max_length=120)
    light = models.CharField(max_length=40, blank=True)
    encoding = models.CharField(max_length=40)
    #: By whom or what the encoding is said, in words; empty for frames that were brought before it was kept.
    encoding_by = models.CharField(max_length=200, blank=True)
    digest = models.CharField(max_length=64, db_index=True)
    file = models.CharField(max_length=200)
    file_name = models.CharField(max_length=200)
    #: The file as it came, where the one that is read was developed from it; empty else.
    original = models.CharField(max_length=200, blank=True)
    #: SHA-256 of the file as it came, by which one that is here already is told; empty for frames that were
    #: brought before it was kept.
    came = models.CharField(max_length=64, blank=True, db_index=True)
    bytes = models.PositiveBigIntegerField(default=0)
    kind = models.CharField(max_length=12)
    depth = models.CharField(max_length=20)
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()
    trim = JsonColumn(Trim, default=Trim)
    #: Why its declared code range is probably wrong, in words; empty where nothing speaks against it.
    doubt = models.CharField(max_length=300, blank=True)
    #: What else the file holds that is not read, each in words.
    unread = JsonColumn(list[str], default=list)
    #: What was done to the file before it could be read, each in words.
    notes = JsonColumn(list[str], default=list)
    #: What is known of a camera raw.
    raw: JsonColumn[RawSaid | None, RawSaid | None] = JsonColumn(RawSaid, null=True)
    #: The part that small cards show.
    part = JsonColumn(ShownPart, default=ShownPart)
    #: Names of the sets that it is in.
    sets = JsonColumn(list[SetName], default=list)
    chart = models.BooleanField(default=False)
    #: Dropped in for now: seen by who did alone, and gone when they have dropped in some more.
    passing = models.BooleanField(default=False)
    #: Made for a shot alone, from a clip or in another encoding: shown there, not among the frames.
    of_shot = models.BooleanField(default=False)
    #: The clip that it stands for, and which of its frames it shows at rest; a still has none.
    clip = models.ForeignKey("clips.Clip", on_delete=models.SET_NULL, null=True, related_name="+")
    number = models.PositiveIntegerField(default=0)
    added_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    added_at = models.DateTimeField(auto_now_add=True)
    #: To whom it is kept; nobody for everybody.
    circle = models.ForeignKey("people.Circle", on_delete=models.SET_NULL, null=True, related_name="+")

    objects = SeenPresent["Frame"]()

    class Meta:
        ordering = ["chart", "id"]

    def __str__(self) -> str:
        return self.name
