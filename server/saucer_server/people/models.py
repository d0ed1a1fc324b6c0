"""People and their roles, how they come in, where they are signed in, and what was done."""

from typing import Any

from django.contrib.auth.models import AbstractUser
from django.db import models

from ..columns import JsonColumn


class Role(models.TextChoices):
    """What a person does here."""

    APPLIER = "applier", "Editor or photographer"
    DESIGNER = "designer", "Look designer"
    LEAD = "lead", "Lead"


class Person(AbstractUser):
    """Somebody who signs in."""

    full_name = models.CharField(max_length=120)
    role = models.CharField(max_length=12, choices=Role, default=Role.APPLIER)
    #: Who they are at the provider of single sign-on: its address and its name for them.
    subject = models.CharField(max_length=300, unique=True, null=True, blank=True)
    #: What the studio's directory knows them by.
    external = models.CharField(max_length=300, unique=True, null=True, blank=True)

    def __str__(self) -> str:
        return self.full_name or self.username


class FailedSignIn(models.Model):
    """Wrong passwords that were tried for a name, or from an address, lately. until: nobody is asked before
    that."""

    what = models.CharField(max_length=200, unique=True)
    wrong = models.PositiveIntegerField(default=0)
    last = models.DateTimeField()
    until = models.DateTimeField(null=True)


class Link(models.Model):
    """A link that leads somebody in: an invitation, or, where it names a person, a new password for them."""

    digest = models.CharField(max_length=64, unique=True)
    for_name = models.CharField(max_length=120)
    role = models.CharField(max_length=12, choices=Role)
    person = models.ForeignKey(Person, on_delete=models.CASCADE, null=True, related_name="+")
    made_by = models.ForeignKey(Person, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    until = models.DateTimeField()
    used_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["pk"]


class UserSession(models.Model):
    """A place where somebody is signed in. session: the key of their session."""

    person = models.ForeignKey(Person, on_delete=models.CASCADE, related_name="+")
    session = models.CharField(max_length=40, unique=True)
    browser = models.CharField(max_length=80)
    at = models.DateTimeField()
    seen_at = models.DateTimeField()


class Scope(models.TextChoices):
    """What a token lets do."""

    READ = "read", "Read"
    BAKE = "bake", "Read, bake and deliver"
    ALL = "all", "Do all that its person may"


class Token(models.Model):
    """A personal token, kept as a digest. tail: its last four letters, by which it is known again."""

    person = models.ForeignKey(Person, on_delete=models.CASCADE, related_name="+")
    name = models.CharField(max_length=80)
    scope = models.CharField(max_length=8, choices=Scope)
    digest = models.CharField(max_length=64, unique=True)
    tail = models.CharField(max_length=4)
    made_at = models.DateTimeField(auto_now_add=True)
    until = models.DateTimeField(null=True)
    used_at = models.DateTimeField(null=True)


class Circle(models.Model):
    """A few people to whom something is kept, beside leads."""

    people: "models.ManyToManyField[Any, Any]" = models.ManyToManyField(Person, related_name="+", blank=True)


class Factor(models.Model):
    """A person's second factor. secret: what the codes are made from, base32. last: the half minute of the
    code used last.

    spare: digests of codes that let in once each.
    """

    person = models.OneToOneField(Person, on_delete=models.CASCADE, related_name="+")
    secret = models.CharField(max_length=64)
    confirmed = models.BooleanField(default=False)
    last = models.BigIntegerField(default=0)
    spare = JsonColumn(list[str], default=list)


class Upload(models.Model):
    """A large body that is arriving. request: the identifier of its request. until: when its sender counts as
    gone."""

    request = models.CharField(max_length=40, unique=True)
    person = models.ForeignKey(Person, on_delete=models.CASCADE, related_name="+")
    bytes = models.PositiveBigIntegerField()
    until = models.DateTimeField()


class Happening(models.TextChoices):
    """What an event is about."""

    LOOK = "looks"
    REVIEW = "reviews"
    DELIVERY = "deliveries"
    BROUGHT_IN = "brought in"
    PROJECT = "projects"
    PEOPLE = "people"


class Event(models.Model):
    """Who did what, and when. The database refuses to change or remove a row.

    by: nobody where it was done from outside, by who holds an address. said: what happened after the person's
    name, as "approved". about: what it was done to, by name as it was then. more: a second line. to: the page
    that shows it.
    """

    kind = models.CharField(max_length=12, choices=Happening)
    by = models.ForeignKey(Person, on_delete=models.PROTECT, null=True, related_name="+")
    said = models.CharField(max_length=120)
    about = models.CharField(max_length=200, blank=True)
    more = models.CharField(max_length=300, blank=True)
    to = models.CharField(max_length=200, blank=True)
    revision = models.PositiveBigIntegerField(null=True)
    at = models.DateTimeField(auto_now_add=True, db_index=True)

    class Meta:
        ordering = ["-id"]
