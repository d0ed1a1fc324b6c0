"""Deliveries: what a project takes away, piece by piece, and the feeds that hand it on."""

from django.conf import settings
from django.db import models
from saucer_core.formats.delivery import Contents, DeliveredFile, Facts, Part

from ..columns import JsonColumn
from .contents import Change
from .copies import CopyState
from .pieces import Source
from .plan import Plan
from .snapshots import DeliveredShot

PERSON = settings.AUTH_USER_MODEL


class Delivery(models.Model):
    """A package of files. Once its job is done it never changes.

    plan: what was asked for; shots: what was on each shot then. contents: the list that stands in the
    package, once it is made; changes: in words, what is otherwise than in the one before; left_out: what is
    not in it, and why. drop_folder: how far its copy there is. file: the ZIP of a delivery from before pieces
    were kept.
    """

    project = models.ForeignKey("projects.Project", on_delete=models.CASCADE, related_name="deliveries")
    number = models.PositiveIntegerField()
    job = models.ForeignKey("jobs.Job", on_delete=models.PROTECT, related_name="+")
    file = models.CharField(max_length=200, blank=True)
    #: Its files were let go, long after it was made.
    gone = models.BooleanField(default=False)
    bytes = models.PositiveBigIntegerField(default=0)
    grid = models.PositiveIntegerField(default=33)
    plan = JsonColumn(Plan, default=Plan)
    #: The number of the cut that its shots followed.
    cut = models.PositiveIntegerField(null=True)
    #: Whether it holds nothing but a review clip.
    review_alone = models.BooleanField(default=False)
    shots = JsonColumn(list[DeliveredShot], default=list)
    contents: JsonColumn[Contents | None, Contents | None] = JsonColumn(Contents, null=True)
    changes = JsonColumn(list[Change], default=list)
    left_out = JsonColumn(list[str], default=list)
    drop_folder = JsonColumn(CopyState, default=CopyState)
    ready = models.BooleanField(default=False)
    made_by = models.ForeignKey(PERSON, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        db_table = "projects_delivery"
        ordering = ["-number"]
        constraints = [models.UniqueConstraint(fields=["project", "number"], name="one_delivery_a_number")]


class PieceState(models.TextChoices):
    """Where a piece stands. One that a worker has under way is still waiting: a lock of the database says
    that it is taken."""

    WAITING = "waiting"
    DONE = "done"
    DROPPED = "dropped"


class Piece(models.Model):
    """One thing to make for a delivery. source: what from; files: what was made; facts: what was measured."""

    delivery = models.ForeignKey(Delivery, on_delete=models.CASCADE, related_name="pieces")
    place = models.PositiveIntegerField()
    part: "models.CharField[Part, Part]" = models.CharField(max_length=12)
    path = models.CharField(max_length=400)
    source: JsonColumn[Source, Source] = JsonColumn(Source, db_column="spec")
    state = models.CharField(max_length=8, choices=PieceState, default=PieceState.WAITING)
    files = JsonColumn(list[DeliveredFile], default=list)
    facts = JsonColumn(Facts, default=dict)

    class Meta:
        ordering = ["place"]
        constraints = [models.UniqueConstraint(fields=["delivery", "place"], name="one_piece_a_place")]


class Feed(models.Model):
    """An address at which a project's newest delivery can be fetched by whoever has it. Kept without the
    token itself."""

    project = models.ForeignKey("projects.Project", on_delete=models.CASCADE, related_name="feeds")
    name = models.CharField(max_length=120)
    token = models.CharField(max_length=64, unique=True)
    hint = models.CharField(max_length=12)
    ends_at = models.DateTimeField(null=True)
    revoked_at = models.DateTimeField(null=True)
    made_by = models.ForeignKey(PERSON, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-id"]


class Fetch(models.Model):
    """Something that was fetched by a feed."""

    feed = models.ForeignKey(Feed, on_delete=models.CASCADE, related_name="fetches")
    what = models.CharField(max_length=400)
    delivery = models.PositiveIntegerField()
    status = models.PositiveIntegerField()
    bytes = models.PositiveBigIntegerField(default=0)
    came_from = models.CharField(max_length=60, blank=True)
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-id"]
