"""Cuts of projects."""

from fractions import Fraction

from django.conf import settings
from django.db import models
from saucer_core.formats.cutlists.model import CutList, Event

from ..columns import JsonColumn
from ..people.circles import Seen
from .values import Met

PERSON = settings.AUTH_USER_MODEL


class Cut(models.Model):
    """A cut list of a project: looked at, then taken.

    number: among the cuts that were taken; nothing before. rate: frames a second, as a fraction. met: for
    each event its clip and its shot. corrections: events whose ASC CDL becomes the trim of their shot, by
    their place from 0. waiting: how many events had no clip when last looked. change: what taking it did to
    the project.
    """

    project = models.ForeignKey("projects.Project", on_delete=models.CASCADE, related_name="cuts")
    number = models.PositiveIntegerField(null=True)
    title = models.CharField(max_length=200, blank=True)
    file_name = models.CharField(max_length=200)
    rate = models.CharField(max_length=20)
    drop = models.BooleanField(default=False)
    events = JsonColumn(list[Event], default=list)
    doubts = JsonColumn(list[str], default=list)
    met = JsonColumn(list[Met], default=list)
    corrections = JsonColumn(list[int], default=list)
    waiting = models.PositiveIntegerField(default=0)
    job = models.ForeignKey("jobs.Job", on_delete=models.SET_NULL, null=True, related_name="+")
    change = models.ForeignKey("projects.Change", on_delete=models.SET_NULL, null=True, related_name="+")
    made_by = models.ForeignKey(PERSON, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    taken_by = models.ForeignKey(PERSON, on_delete=models.PROTECT, null=True, related_name="+")
    taken_at = models.DateTimeField(null=True)

    objects = Seen["Cut"]("project__circle")

    class Meta:
        ordering = ["-id"]
        constraints = [models.UniqueConstraint(fields=["project", "number"], name="one_cut_a_number")]

    def __str__(self) -> str:
        return f"cut {self.number}" if self.number else self.file_name

    @property
    def circle_id(self) -> int | None:
        """To whom it is kept: to whom its project is."""
        return self.project.circle_id

    @property
    def as_list(self) -> CutList:
        """The list as the core has it."""
        return CutList(self.title, Fraction(self.rate), self.drop, tuple(self.events), tuple(self.doubts))
