"""What a model has whose rows go to the bin before they are gone."""

from typing import Any, TypeVar

from django.conf import settings
from django.db import models
from django.db.models import QuerySet

from ..people.circles import Seen

M = TypeVar("M", bound="Removable")


class Removable(models.Model):
    """A row that is removed in two steps: it goes to the bin, and from there for good. removed_at: empty
    while it is in use."""

    removed_at = models.DateTimeField(null=True, editable=False, db_index=True)
    removed_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.PROTECT, null=True, editable=False, related_name="+"
    )

    class Meta:
        abstract = True


class Present(models.Manager[M]):
    """The manager of such a model: its rows are those that are not in the bin."""

    def get_queryset(self) -> QuerySet[M]:
        """The rows that are not in the bin."""
        return super().get_queryset().filter(removed_at=None)

    def ever(self) -> QuerySet[M]:
        """All rows, those in the bin too."""
        return super().get_queryset()

    def removed(self) -> QuerySet[M]:
        """The rows in the bin."""
        return self.ever().exclude(removed_at=None)


class SeenPresent(Present[M], Seen[M]):
    """``Present`` for a model whose rows may be kept to a circle: all of it among those that whoever asks may
    see."""

    def deconstruct(self) -> Any:
        """As Django writes it down."""
        return False, None, f"{type(self).__module__}.SeenPresent", (self._path,), {}
