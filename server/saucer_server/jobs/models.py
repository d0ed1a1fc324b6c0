"""Long work and how far it is."""

from django.conf import settings
from django.db import models


class State(models.TextChoices):
    """Where a job stands."""

    WAITING = "waiting"
    RUNNING = "running"
    DONE = "done"
    FAILED = "failed"
    CANCELLED = "cancelled"


class Job(models.Model):
    """One piece of long work, as people see it. The queue itself is procrastinate's."""

    kind = models.CharField(max_length=40)
    title = models.CharField(max_length=200)
    state = models.CharField(max_length=12, choices=State, default=State.WAITING)
    done = models.PositiveIntegerField(default=0)
    total = models.PositiveIntegerField(default=0)
    doing = models.CharField(max_length=200, blank=True)
    reason = models.TextField(blank=True)
    cancel_asked = models.BooleanField(default=False)
    asked_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    asked_at = models.DateTimeField(auto_now_add=True)
    ended_at = models.DateTimeField(null=True)
    queue_id = models.BigIntegerField(null=True)

    class Meta:
        ordering = ["-asked_at"]
