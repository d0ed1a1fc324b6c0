"""People and their roles."""

from django.contrib.auth.models import AbstractUser
from django.db import models


class Role(models.TextChoices):
    """What a person does here."""

    APPLIER = "applier", "Editor or photographer"
    DESIGNER = "designer", "Look designer"
    LEAD = "lead", "Lead"


class Person(AbstractUser):
    """Somebody who signs in."""

    full_name = models.CharField(max_length=120)
    role = models.CharField(max_length=12, choices=Role, default=Role.APPLIER)

    def __str__(self) -> str:
        return self.full_name or self.username


class Guess(models.Model):
    """Wrong passwords that were tried for a name, or from an address, lately. until: nobody is asked before that."""

    what = models.CharField(max_length=200, unique=True)
    wrong = models.PositiveIntegerField(default=0)
    last = models.DateTimeField()
    until = models.DateTimeField(null=True)
