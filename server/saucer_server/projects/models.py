"""Projects, their shots, and what they take away."""

from django.conf import settings
from django.db import models


class Project(models.Model):
    """Work that uses looks."""

    name = models.CharField(max_length=120)
    note = models.TextField(blank=True)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["name", "id"]

    def __str__(self) -> str:
        return self.name


class Shot(models.Model):
    """A frame of a project, its trim, and the revision that is put on it at a strength."""

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="shots")
    number = models.PositiveIntegerField()
    name = models.CharField(max_length=120)
    frame = models.ForeignKey("frames.Frame", on_delete=models.PROTECT, related_name="shots")
    trim = models.JSONField(default=dict)
    revision = models.ForeignKey("looks.Revision", on_delete=models.PROTECT, null=True, related_name="shots")
    strength = models.FloatField(default=1.0)

    class Meta:
        ordering = ["number"]
        constraints = [models.UniqueConstraint(fields=["project", "number"], name="one_shot_a_number")]

    def __str__(self) -> str:
        return f"a shot of {self.project.name}"


class Delivery(models.Model):
    """A package of files. It has a file once its job is done, and never changes after."""

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="deliveries")
    number = models.PositiveIntegerField()
    job = models.ForeignKey("jobs.Job", on_delete=models.PROTECT, related_name="+")
    file = models.CharField(max_length=200, blank=True)
    bytes = models.PositiveBigIntegerField(default=0)
    grid = models.PositiveIntegerField(default=33)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-number"]
        constraints = [models.UniqueConstraint(fields=["project", "number"], name="one_delivery_a_number")]
