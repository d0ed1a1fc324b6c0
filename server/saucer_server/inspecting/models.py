"""Tables being taken apart."""

from django.conf import settings
from django.db import models

from ..columns import JsonColumn
from .found import Unbaked


class Unbaking(models.Model):
    """Work on a table that is taken apart into steps, and what came of it.

    kind, subject: what was inspected. look: its digest. found: steps, shares, what remains after each. rest:
    file of the rest.
    """

    kind = models.CharField(max_length=12)
    subject = models.BigIntegerField()
    digest = models.CharField(max_length=64, db_index=True)
    name = models.CharField(max_length=200)
    job = models.ForeignKey("jobs.Job", on_delete=models.CASCADE, related_name="+")
    asked_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    asked_at = models.DateTimeField(auto_now_add=True)
    found: JsonColumn[Unbaked | None, Unbaked | None] = JsonColumn(Unbaked, null=True)
    rest = models.CharField(max_length=200, blank=True)
    look = models.ForeignKey("looks.Look", on_delete=models.SET_NULL, null=True, related_name="+")

    class Meta:
        ordering = ["-asked_at"]
