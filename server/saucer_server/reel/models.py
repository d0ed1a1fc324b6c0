"""Notes on moments of a project."""

from django.db import models
from saucer_core.trim import Trim

from ..columns import JsonColumn
from ..people.circles import Seen
from ..reviewing.remarks import Remark
from .payloads import Wore


class ReelNote(Remark):
    """A note on a frame of a shot or on a stretch of it, on a spot where it has one; or a reply to such a
    note.

    place: what the shot was called; it stays when the shot is taken out. first, last: frames of the shot's
    clip, 0 for a still. x, y: from 0 to 1, from the left and the top. wore, trim: what was on the shot when
    the note was written.
    """

    project = models.ForeignKey("projects.Project", on_delete=models.CASCADE, related_name="notes")
    shot = models.ForeignKey("projects.Shot", on_delete=models.SET_NULL, null=True, related_name="+")
    place = models.CharField(max_length=140)
    first = models.PositiveIntegerField(default=0)
    last = models.PositiveIntegerField(default=0)
    x = models.FloatField(null=True)
    y = models.FloatField(null=True)
    wore = JsonColumn(list[Wore], default=list)
    trim = JsonColumn(Trim, default=Trim)

    objects = Seen["ReelNote"]("project__circle")

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return f"under a note on “{self.project.name}”"

    @property
    def circle_id(self) -> int | None:
        """To whom it is kept: to whom its project is."""
        return self.project.circle_id
