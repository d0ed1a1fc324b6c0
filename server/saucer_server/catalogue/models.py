"""Tags and collections: how looks are found again; likenesses: how they are compared."""

from django.conf import settings
from django.db import models


class Tag(models.Model):
    """A word on looks: mood, light, use."""

    name = models.CharField(max_length=40, unique=True)
    looks = models.ManyToManyField("looks.Look", related_name="tags")

    class Meta:
        ordering = ["name"]


class Collection(models.Model):
    """Looks that belong together, under one name."""

    name = models.CharField(max_length=80, unique=True)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    looks = models.ManyToManyField("looks.Look", related_name="collections")

    class Meta:
        ordering = ["name"]


class Likeness(models.Model):
    """What a look makes of the core's fixed colours, by the digest of the look: float32, CIELAB.

    Where the core chooses other colours, a migration empties this table; it fills itself again.
    """

    digest = models.CharField(max_length=64, unique=True)
    colours = models.BinaryField()
