"""Contact sheets: looks by frames, what people mark on them, and whether the names are turned over."""

from django.conf import settings
from django.db import models

from ..removals.models import Removable, SeenPresent

PERSON = settings.AUTH_USER_MODEL


class Sheet(Removable):
    """Looks to choose from on the same frames. blind: names are hidden and rows shuffled until it is closed;
    seed: by that order."""

    name = models.CharField(max_length=120)
    strength = models.FloatField(default=1.0)
    blind = models.BooleanField(default=False)
    seed = models.PositiveIntegerField(default=0)
    closed_by = models.ForeignKey(PERSON, on_delete=models.PROTECT, null=True, related_name="+")
    closed_at = models.DateTimeField(null=True)
    made_by = models.ForeignKey(PERSON, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    #: To whom it is kept; nobody for everybody.
    circle = models.ForeignKey("people.Circle", on_delete=models.SET_NULL, null=True, related_name="+")

    objects = SeenPresent["Sheet"]()

    class Meta:
        ordering = ["-made_at", "-id"]


class Row(models.Model):
    """A look on a sheet, by the revision it had then. name: for when the look is gone. judged_by: always
    named, and not voted on."""

    sheet = models.ForeignKey(Sheet, on_delete=models.CASCADE, related_name="rows")
    place = models.PositiveIntegerField()
    revision = models.ForeignKey("looks.Revision", on_delete=models.SET_NULL, null=True, related_name="+")
    name = models.CharField(max_length=160)
    judged_by = models.BooleanField(default=False)

    class Meta:
        ordering = ["place", "id"]


class Column(models.Model):
    """A frame on a sheet."""

    sheet = models.ForeignKey(Sheet, on_delete=models.CASCADE, related_name="columns")
    place = models.PositiveIntegerField()
    frame = models.ForeignKey("frames.Frame", on_delete=models.PROTECT, null=True, related_name="+")
    name = models.CharField(max_length=120)

    class Meta:
        ordering = ["place", "id"]

    def __str__(self) -> str:
        return f"on the contact sheet “{self.sheet.name}”"

    @property
    def circle_id(self) -> int | None:
        """To whom it is kept: to whom its sheet is."""
        return self.sheet.circle_id


class Verdict(models.TextChoices):
    """What a mark says."""

    FOR = "for"
    CHANGES = "with changes"
    AGAINST = "against"


class Mark(models.Model):
    """What one person says of one look on one frame; of the look as a whole where there is no frame, which is
    a note alone."""

    row = models.ForeignKey(Row, on_delete=models.CASCADE, related_name="marks")
    column = models.ForeignKey(Column, on_delete=models.CASCADE, null=True, related_name="+")
    person = models.ForeignKey(PERSON, on_delete=models.PROTECT, related_name="+")
    verdict = models.CharField(max_length=12, choices=Verdict, blank=True)
    note = models.CharField(max_length=500, blank=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["row", "column", "person"], name="one_mark_a_cell", nulls_distinct=False
            )
        ]
