"""Bakes."""

from django.conf import settings
from django.db import models

PERSON = settings.AUTH_USER_MODEL


class Bake(models.Model):
    """A file made from a revision, and how far it is from the look."""

    revision = models.ForeignKey("looks.Revision", on_delete=models.PROTECT, related_name="bakes")
    format = models.CharField(max_length=12)
    grid = models.PositiveIntegerField()
    title = models.CharField(max_length=200, blank=True)
    rights = models.CharField(max_length=300, blank=True)
    deviation = models.JSONField()
    file = models.CharField(max_length=200)
    bytes = models.PositiveBigIntegerField()
    made_by = models.ForeignKey(PERSON, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        db_table = "looks_bake"
        ordering = ["-made_at"]
