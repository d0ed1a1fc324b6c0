"""Tags: how looks are found again."""

from django.db import models


class Tag(models.Model):
    """A word on looks: mood, light, use."""

    name = models.CharField(max_length=40, unique=True)
    looks = models.ManyToManyField("looks.Look", related_name="tags")

    class Meta:
        ordering = ["name"]
