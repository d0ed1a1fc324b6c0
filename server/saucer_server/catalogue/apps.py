"""The app of the catalogue, which follows what happens to looks."""

from django.apps import AppConfig
from django.db.models.signals import post_migrate


class CatalogueConfig(AppConfig):
    """The catalogue."""

    name = "saucer_server.catalogue"

    def ready(self) -> None:
        """From now on a look's entry is made anew when the look changes."""
        from ..looks.rules import changed
        from .entries import follow

        changed.connect(follow, dispatch_uid="catalogue entries")
        post_migrate.connect(_catch_up, sender=self)


def _catch_up(**_: object) -> None:
    from .entries import catch_up

    catch_up()
