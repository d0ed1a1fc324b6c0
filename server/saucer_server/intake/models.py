"""Files that somebody brings in as frames, until they are kept or let go."""

from django.conf import settings
from django.db import models

from ..columns import JsonColumn
from ..frames.reading_rules import ReadingRule
from ..frames.values import Known, SetName
from .values import Guessed, Said, SameFile


class Intake(models.Model):
    """Files that came in together. Nothing of them is a frame before who brought them says so."""

    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    begun_at = models.DateTimeField(auto_now_add=True)
    #: The work of reading its files.
    job = models.ForeignKey("jobs.Job", on_delete=models.SET_NULL, null=True, related_name="+")
    #: The project whose shots its files become; none where they become frames.
    project = models.ForeignKey("projects.Project", on_delete=models.CASCADE, null=True, related_name="+")
    #: The rules of that project by which its files are read.
    reading = JsonColumn(list[ReadingRule], default=list)
    #: Sets that all of its frames are put into.
    sets = JsonColumn(list[SetName], default=list)

    class Meta:
        ordering = ["-begun_at"]


class Stage(models.TextChoices):
    """How far a file is."""

    WAITING = "waiting"
    READ = "read"
    REFUSED = "refused"


class IntakeFile(models.Model):
    """A file as it was sent, what it was found to be, and what is said of it."""

    intake = models.ForeignKey(Intake, on_delete=models.CASCADE, related_name="files")
    folder = models.CharField(max_length=200, blank=True)
    name = models.CharField(max_length=200)
    #: The file as it came, by its digest, and the one that is read, where another was developed from it.
    file = models.CharField(max_length=200)
    read_file = models.CharField(max_length=200, blank=True)
    digest = models.CharField(max_length=64)
    bytes = models.PositiveBigIntegerField()
    stage = models.CharField(max_length=8, choices=Stage, default=Stage.WAITING)
    #: Why it cannot be read, in words.
    reason = models.CharField(max_length=400, blank=True)
    known: JsonColumn[Known | None, Known | None] = JsonColumn(Known, null=True)
    guess: JsonColumn[Guessed | None, Guessed | None] = JsonColumn(Guessed, null=True)
    twin: JsonColumn[SameFile | None, SameFile | None] = JsonColumn(SameFile, null=True)
    said = JsonColumn(Said, default=Said)
    chosen = models.BooleanField(default=True)

    class Meta:
        ordering = ["id"]
        constraints = [
            models.UniqueConstraint(fields=["intake", "folder", "name", "digest"], name="once_an_intake")
        ]
