"""Borrowed tables."""

from django.conf import settings
from django.db import models

from ..removals.models import Present, Removable

PERSON = settings.AUTH_USER_MODEL


class BorrowedLut(Removable):
    """A table brought in from a file, by the digest of its numbers."""

    digest = models.CharField(max_length=64, unique=True)
    name = models.CharField(max_length=200)
    file = models.CharField(max_length=200)
    file_name = models.CharField(max_length=200)
    size = models.PositiveIntegerField()
    bytes = models.PositiveBigIntegerField(default=0)
    expects = models.CharField(max_length=40)
    gives = models.CharField(max_length=40)
    rights = models.CharField(max_length=300)
    origin = models.CharField(max_length=300)
    added_by = models.ForeignKey(PERSON, on_delete=models.PROTECT, related_name="+")
    added_at = models.DateTimeField(auto_now_add=True)

    objects = Present["BorrowedLut"]()

    class Meta:
        db_table = "looks_borrowedlut"
        ordering = ["name", "id"]
