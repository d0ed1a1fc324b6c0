"""The app of the catalogue, which follows what happens to looks."""

from django.apps import AppConfig
from django.db import connections
from django.db.migrations.executor import MigrationExecutor
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


def _catch_up(using: str, **_: object) -> None:
    from .entries import catch_up

    executor = MigrationExecutor(connections[using])
    # On the way to the newest state the tables are not what the code takes them for.
    if not executor.migration_plan(executor.loader.graph.leaf_nodes()):
        catch_up()
