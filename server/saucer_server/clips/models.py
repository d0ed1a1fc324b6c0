"""Clips: moving pictures that shots are cut from."""

from django.conf import settings
from django.db import models
from saucer_core.formats.clips import ClipFacts

from ..columns import JsonColumn
from ..removals.models import Removable, SeenPresent


class Clip(Removable):
    """A clip as it was brought in. Its pixels never change; where it is cut may.

    facts: what the core found of it, nothing until it was looked through; cuts: the first frame of every
    shot; stamps: the file that says when each frame is shown.
    """

    name = models.CharField(max_length=120)
    digest = models.CharField(max_length=64, db_index=True)
    file = models.CharField(max_length=200)
    file_name = models.CharField(max_length=200)
    bytes = models.PositiveBigIntegerField(default=0)
    encoding = models.CharField(max_length=40, blank=True)
    #: Frames a second that a sequence of pictures is shown at, as a fraction; empty for the usual ones.
    rate = models.CharField(max_length=20, blank=True, default="")
    facts: JsonColumn[ClipFacts | None, ClipFacts | None] = JsonColumn(ClipFacts, null=True)
    cuts = JsonColumn(list[int], default=list)
    #: Whether the two fields of its frames are made whole frames wherever it is read.
    deinterlaced = models.BooleanField(default=False)
    stamps = models.CharField(max_length=200, blank=True)
    job = models.ForeignKey("jobs.Job", on_delete=models.PROTECT, related_name="+")
    added_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    added_at = models.DateTimeField(auto_now_add=True)
    #: A small file of it that plays, and the index of its frames; empty until they are made.
    proxy = models.CharField(max_length=200, blank=True, default="")
    proxy_index = models.CharField(max_length=200, blank=True, default="")
    #: Samples of its frames, for what is measured over its length; empty until they are taken.
    samples = models.CharField(max_length=200, blank=True, default="")
    proxy_job = models.ForeignKey("jobs.Job", on_delete=models.SET_NULL, null=True, related_name="+")
    light = models.CharField(max_length=40, blank=True, default="")
    #: Whether a frame is to stand for it among the frames.
    among_frames = models.BooleanField(default=False)
    #: To whom it is kept; nobody for everybody.
    circle = models.ForeignKey("people.Circle", on_delete=models.SET_NULL, null=True, related_name="+")

    objects = SeenPresent["Clip"]()

    class Meta:
        ordering = ["-id"]

    def __str__(self) -> str:
        return self.name

    @property
    def pixels(self) -> str:
        """What its pixels depend on: the file, and how its fields are read."""
        return f"{self.digest} deinterlaced" if self.deinterlaced else self.digest
