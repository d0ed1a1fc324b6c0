"""What all notes have in common, of looks and of projects: words, who wrote them, replies, and whether
anything is left to do."""

from django.conf import settings
from django.db import models

from ..errors import forbidden
from ..people.rules import Person, is_own, must

__all__ = ["Remark", "settle", "take_away", "write_anew"]

PERSON = settings.AUTH_USER_MODEL


class Remark(models.Model):
    """A note, or a reply to one. settled_by: who said that nothing is left to do."""

    text = models.TextField()
    reply_to = models.ForeignKey("self", on_delete=models.CASCADE, null=True, related_name="replies")
    by = models.ForeignKey(PERSON, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)
    settled_by = models.ForeignKey(PERSON, on_delete=models.PROTECT, null=True, related_name="+")

    class Meta:
        abstract = True


def settle(remark: Remark, person: Person, settled: bool) -> None:
    """Says that nothing is left to do about a note, or that there is again. Its row is locked by who asks."""
    remark.settled_by = person if settled else None
    remark.save(update_fields=["settled_by"])


def write_anew(remark: Remark, person: Person, text: str) -> None:
    """Changes the words of one's own note. Raises 403."""
    if remark.by_id != person.pk:
        raise forbidden("Notes are changed by who wrote them.")
    remark.text = text.strip()
    remark.save(update_fields=["text"])


def take_away(remark: Remark, person: Person) -> None:
    """Takes a note away with its replies: one's own, or any as a lead. Raises 403."""
    must(
        person,
        "started.end",
        is_own(person, remark.by_id),
        "Notes are taken away by who wrote them, or by a lead.",
    )
    remark.delete()
