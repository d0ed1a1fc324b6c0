"""Presets."""

from django.conf import settings
from django.db import models

from ..removals.models import Present, Removable

PERSON = settings.AUTH_USER_MODEL


class Preset(Removable):
    """A step, or a group of steps, kept to start from again: somebody's own until it is shared with the
    team."""

    kind = models.CharField(max_length=40, db_index=True)
    name = models.CharField(max_length=80)
    note = models.CharField(max_length=300, blank=True)
    # The core reads it (``step_of``): it knows the kinds of step and how older ones were written.
    content = models.JSONField()
    owner = models.ForeignKey(PERSON, on_delete=models.CASCADE, related_name="+")
    shared = models.BooleanField(default=False)
    made_at = models.DateTimeField(auto_now_add=True)

    objects = Present["Preset"]()

    class Meta:
        db_table = "looks_preset"
        ordering = ["name", "id"]

    def __str__(self) -> str:
        return self.name
