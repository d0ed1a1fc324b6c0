"""Packs that go out: what was chosen, the file, and the list of what is in it."""

from django.conf import settings
from django.db import models

from ..columns import JsonColumn
from ..people.circles import Seen
from .contents import Contents


class Outgoing(models.Model):
    """A pack of looks for somebody else. It has a file once its job is done, and never changes after.

    collections: names; looks: ids of single ones beside them; kinds: of files beside the recipes. contents:
    the list that stands in the pack, once it is made; changes: in words, what is otherwise than in the last
    one of the same name.
    """

    name = models.CharField(max_length=120)
    collections = JsonColumn(list[str], default=list)
    looks = JsonColumn(list[int], default=list)
    kinds = JsonColumn(list[str], default=list)
    grid = models.PositiveIntegerField(default=33)
    frames = JsonColumn(list[int], default=list)
    job = models.ForeignKey("jobs.Job", on_delete=models.PROTECT, related_name="+")
    file = models.CharField(max_length=200, blank=True)
    bytes = models.PositiveBigIntegerField(default=0)
    contents: JsonColumn[Contents | None, Contents | None] = JsonColumn(Contents, null=True)
    changes = JsonColumn(list[str], default=list)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    #: To whom it is kept; nobody for everybody.
    circle = models.ForeignKey("people.Circle", on_delete=models.SET_NULL, null=True, related_name="+")

    objects = Seen["Outgoing"]()

    class Meta:
        ordering = ["-id"]
