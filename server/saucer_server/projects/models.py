"""Projects, their scenes and shots, and the looks that are put on them."""

from typing import Any

from django.conf import settings
from django.db import models
from saucer_core.encodings import EncodingKey
from saucer_core.trim import Trim

from ..columns import JsonColumn
from ..frames.reading_rules import ReadingRule
from ..people.circles import Seen
from .payloads import Meant, NamePart
from .states import State

PERSON = settings.AUTH_USER_MODEL


class Project(models.Model):
    """Work that uses looks.

    members: who may change it beside leads; everybody where there are none. encodings: what it is delivered
    in; what its looks give where there are none. pattern: the parts of the names of its files. reading: rules
    by which pictures that come in are taken to be encoded. delivered, delivered_at: the number of the last
    finished delivery, and when it was asked for.
    """

    name = models.CharField(max_length=120)
    note = models.TextField(blank=True)
    members: "models.ManyToManyField[Any, Any]" = models.ManyToManyField(PERSON, related_name="+", blank=True)
    encodings = JsonColumn(list[EncodingKey], default=list)
    pattern = JsonColumn(list[NamePart], default=list)
    reading = JsonColumn(list[ReadingRule], default=list)
    #: The number of the cut that its shots follow, and how many events that has: the numbers of shots up to
    #: there are the cut's, those of events that wait for a clip too.
    cut_number = models.PositiveIntegerField(null=True)
    cut_events = models.PositiveIntegerField(default=0)
    delivered = models.PositiveIntegerField(null=True)
    delivered_at = models.DateTimeField(null=True)
    made_by = models.ForeignKey(PERSON, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    #: To whom it is kept; nobody for everybody.
    circle = models.ForeignKey("people.Circle", on_delete=models.SET_NULL, null=True, related_name="+")

    objects = Seen["Project"]()

    class Meta:
        ordering = ["name", "id"]

    def __str__(self) -> str:
        return self.name


class Scene(models.Model):
    """Shots that belong beside each other."""

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="scenes")
    place = models.PositiveIntegerField()
    name = models.CharField(max_length=120)

    class Meta:
        ordering = ["place", "id"]

    def __str__(self) -> str:
        return self.name


class InUse(models.Manager["Shot"]):
    """The manager of shots: those that are not laid aside."""

    def get_queryset(self) -> models.QuerySet["Shot"]:
        """The shots in use."""
        return super().get_queryset().filter(aside=False)

    def ever(self) -> models.QuerySet["Shot"]:
        """All shots, those that are laid aside too."""
        return super().get_queryset()


class Shot(models.Model):
    """A picture of a project with its trim: a still, or frames ``first`` to ``last`` of a clip for which
    ``frame`` stands.

    meant: what of it stands out of its scene on purpose (skin, grey, tone). aside: the cut does without it;
    it keeps what it has until a cut brings it back.
    """

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="shots")
    scene = models.ForeignKey(Scene, on_delete=models.SET_NULL, null=True, blank=True, related_name="shots")
    number = models.PositiveIntegerField()
    name = models.CharField(max_length=120)
    frame = models.ForeignKey("frames.Frame", on_delete=models.PROTECT, related_name="shots")
    clip = models.ForeignKey(
        "clips.Clip", on_delete=models.PROTECT, null=True, blank=True, related_name="shots"
    )
    first = models.PositiveIntegerField(default=0)
    last = models.PositiveIntegerField(default=0)
    trim = JsonColumn(Trim, default=Trim)
    meant = JsonColumn(list[Meant], default=list)
    aside = models.BooleanField(default=False)

    objects = InUse()

    class Meta:
        ordering = ["number"]
        constraints = [
            models.UniqueConstraint(
                fields=["project", "number"],
                condition=models.Q(aside=False),
                name="one_shot_in_use_a_number",
            )
        ]

    def __str__(self) -> str:
        return f"a shot of {self.project.name}"

    @property
    def circle_id(self) -> int | None:
        """To whom it is kept: to whom its project is."""
        return self.project.circle_id


class Assignment(models.Model):
    """A revision that is put on a whole project, on a scene, or on a shot, at a strength; several at one
    place are stacked in order.

    No revision: no look, whatever is put on what lies around.
    """

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="assignments")
    scene = models.ForeignKey(Scene, on_delete=models.CASCADE, null=True, related_name="assignments")
    shot = models.ForeignKey(Shot, on_delete=models.CASCADE, null=True, related_name="assignments")
    place = models.PositiveIntegerField()
    revision = models.ForeignKey(
        "looks.Revision", on_delete=models.PROTECT, null=True, related_name="assignments"
    )
    strength = models.FloatField(default=1.0)

    class Meta:
        ordering = ["place"]
        constraints = [
            models.UniqueConstraint(
                fields=["project", "scene", "shot", "place"],
                name="one_assignment_a_place",
                nulls_distinct=False,
            )
        ]


class Given(models.TextChoices):
    """Where the looks of a shot come from."""

    PROJECT = "project"
    SCENE = "scene"
    SHOT = "shot"


class Layer(models.Model):
    """A revision that is on a shot, by the nearest assignment. Made anew with every assignment, so that it
    can be asked for quickly."""

    shot = models.ForeignKey(Shot, on_delete=models.CASCADE, related_name="layers")
    place = models.PositiveIntegerField()
    revision = models.ForeignKey("looks.Revision", on_delete=models.PROTECT, related_name="layers")
    strength = models.FloatField(default=1.0)
    given_by = models.CharField(max_length=8, choices=Given)

    class Meta:
        ordering = ["place"]
        constraints = [models.UniqueConstraint(fields=["shot", "place"], name="one_layer_a_place")]


class Change(models.Model):
    """What somebody did to looks or trims of a project, so that it can be undone and is known later.

    before, after: what was put on the places it touched, and the trims of its shots. shots: ids of those it
    touched.
    """

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="changes")
    kind = models.CharField(max_length=12)
    words = models.CharField(max_length=300)
    before = JsonColumn(State, default=State)
    after = JsonColumn(State, default=State)
    shots = JsonColumn(list[int], default=list)
    undone = models.BooleanField(default=False)
    made_by = models.ForeignKey(PERSON, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-id"]
