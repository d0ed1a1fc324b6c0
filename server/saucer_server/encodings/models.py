"""Camera encodings that the team typed in."""

from django.conf import settings
from django.db import models
from django.db.models.functions import Lower


class TeamEncoding(models.Model):
    """A maker's published numbers under a name. The numbers never change; the key is made from them."""

    key = models.CharField(max_length=40, unique=True)
    name = models.CharField(max_length=60)
    # The core's ``CameraEncoding`` but for its name, which may change; ``rules.camera`` joins the two.
    definition = models.JSONField()
    #: Whether it can be chosen. What was made with it goes on either way.
    offered = models.BooleanField(default=True)
    added_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    added_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["name", "id"]
        constraints = [models.UniqueConstraint(Lower("name"), name="one_encoding_a_name")]
