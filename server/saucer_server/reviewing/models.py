"""What people say of looks to each other: notes on a spot of a frame, and reviews that are asked for and
answered."""

from django.conf import settings
from django.db import models

from ..people.circles import Seen
from .remarks import Remark

PERSON = settings.AUTH_USER_MODEL


class Note(Remark):
    """A remark on a look, pinned to a spot of a frame where it has one, or a reply to such a remark.

    x, y: from 0 to 1, from the left and the top. revision: the one that was looked at.
    """

    look = models.ForeignKey("looks.Look", on_delete=models.CASCADE, related_name="notes")
    revision = models.ForeignKey("looks.Revision", on_delete=models.CASCADE, related_name="+")
    frame = models.ForeignKey("frames.Frame", on_delete=models.PROTECT, null=True, related_name="+")
    x = models.FloatField(null=True)
    y = models.FloatField(null=True)

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return f"under a note on “{self.look.name}”"

    @property
    def circle_id(self) -> int | None:
        """To whom it is kept: to whom its look is."""
        return self.look.circle_id


class Stand(models.TextChoices):
    """Where a review stands."""

    OPEN = "open"
    APPROVED = "approved"
    SENT_BACK = "sent back"
    WITHDRAWN = "withdrawn"


class Review(models.Model):
    """One person asks another to decide on a revision, by a day if it is said."""

    revision = models.ForeignKey("looks.Revision", on_delete=models.CASCADE, related_name="reviews")
    asked_by = models.ForeignKey(PERSON, on_delete=models.PROTECT, related_name="+")
    asked_of = models.ForeignKey(PERSON, on_delete=models.PROTECT, related_name="+")
    asked_at = models.DateTimeField(auto_now_add=True)
    due = models.DateField(null=True)
    words = models.TextField(blank=True)
    stand = models.CharField(max_length=12, choices=Stand, default=Stand.OPEN)
    answer = models.TextField(blank=True)
    answered_by = models.ForeignKey(PERSON, on_delete=models.PROTECT, null=True, related_name="+")
    answered_at = models.DateTimeField(null=True)
    seen = models.BooleanField(default=False)

    objects = Seen["Review"]("revision__look__circle")

    class Meta:
        ordering = ["-asked_at", "-id"]
        constraints = [
            models.UniqueConstraint(
                fields=["revision", "asked_of"],
                condition=models.Q(stand="open"),
                name="one_open_review_a_person",
            )
        ]
