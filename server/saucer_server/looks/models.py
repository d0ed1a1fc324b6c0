"""Looks, their drafts and revisions, and who is at them."""

from django.conf import settings
from django.db import models
from django.db.models.fields.json import KT

from ..columns import JsonColumn
from ..people.circles import Seen
from .payloads import MeantOver

PERSON = settings.AUTH_USER_MODEL


class Status(models.TextChoices):
    """Where a revision stands."""

    DRAFT = "draft"
    IN_REVIEW = "in review"
    APPROVED = "approved"
    RETIRED = "retired"


class Look(models.Model):
    """A look under one name: a moving draft and its immutable revisions."""

    name = models.CharField(max_length=120)
    note = models.TextField(blank=True)
    origin = models.CharField(max_length=300, blank=True)
    rights = models.CharField(max_length=300, blank=True)
    maker = models.ForeignKey(PERSON, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    # Looks are read by the core, which knows how older ones were written; rows are listed without it.
    draft = models.JSONField()
    draft_version = models.PositiveIntegerField(default=1)
    draft_by = models.ForeignKey(PERSON, on_delete=models.PROTECT, related_name="+")
    draft_at = models.DateTimeField(auto_now=True)
    parent = models.ForeignKey(
        "self", on_delete=models.SET_NULL, null=True, blank=True, related_name="variations"
    )
    #: What a variation began as, so that later changes of it and of its parent can be told apart.
    base = models.JSONField(null=True)
    #: The look to use instead, where this one is retired.
    successor = models.ForeignKey(
        "self", on_delete=models.SET_NULL, null=True, blank=True, related_name="succeeds"
    )
    #: The look that this one was merged into, as a twin. It keeps its revisions and shots, and is shown as a
    #: part of that look.
    merged_into = models.ForeignKey(
        "self", on_delete=models.PROTECT, null=True, blank=True, related_name="merged"
    )

    #: What it does to clips over time on purpose.
    meant = JsonColumn(list[MeantOver], default=list)
    #: Whether other designers may change it too; else they make variations.
    shared = models.BooleanField(default=False)
    #: To whom it is kept; nobody for everybody.
    circle = models.ForeignKey("people.Circle", on_delete=models.SET_NULL, null=True, related_name="+")

    objects = Seen["Look"]()

    class Meta:
        ordering = ["name", "id"]

    def __str__(self) -> str:
        return self.name


class SetAside(models.Model):
    """A draft that came too late: somebody else had saved since it was opened. Kept, so that nothing is
    lost."""

    look = models.ForeignKey(Look, on_delete=models.CASCADE, related_name="set_aside")
    draft = models.JSONField()
    based_on = models.PositiveIntegerField()
    #: Which of the person's open pages it came from: each keeps its own.
    tab = models.CharField(max_length=40, blank=True)
    kept_by = models.ForeignKey(PERSON, on_delete=models.PROTECT, related_name="+")
    kept_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-kept_at"]


class Presence(models.Model):
    """Somebody who has a draft open. One of them holds it: the others look on until they take over."""

    look = models.ForeignKey(Look, on_delete=models.CASCADE, related_name="sittings")
    person = models.ForeignKey(PERSON, on_delete=models.CASCADE, related_name="+")
    holds = models.BooleanField(default=False)
    seen_at = models.DateTimeField()

    class Meta:
        ordering = ["id"]
        constraints = [models.UniqueConstraint(fields=["look", "person"], name="one_sitting_a_person")]


class Revision(models.Model):
    """An immutable, numbered state of a look. Only its status moves."""

    look = models.ForeignKey(Look, on_delete=models.PROTECT, related_name="revisions")
    number = models.PositiveIntegerField()
    recipe = models.JSONField()
    #: The encodings that the recipe takes and gives: what lists say of a revision without reading its steps.
    input = models.GeneratedField(
        expression=KT("recipe__input"), output_field=models.CharField(max_length=60), db_persist=True
    )
    output = models.GeneratedField(
        expression=KT("recipe__output"), output_field=models.CharField(max_length=60), db_persist=True
    )
    digest = models.CharField(max_length=64, db_index=True)
    note = models.TextField(blank=True)
    status = models.CharField(max_length=12, choices=Status, default=Status.DRAFT)
    made_by = models.ForeignKey(PERSON, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    #: Who gave it the status that it has, and when; nobody for a draft that was never asked about.
    moved_by = models.ForeignKey(PERSON, on_delete=models.PROTECT, null=True, related_name="+")
    moved_at = models.DateTimeField(null=True)

    objects = Seen["Revision"]("look__circle")

    class Meta:
        ordering = ["look", "-number"]
        constraints = [models.UniqueConstraint(fields=["look", "number"], name="one_revision_a_number")]

    def __str__(self) -> str:
        return f"{self.look.name} r{self.number}"
