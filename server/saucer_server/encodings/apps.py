"""The app of camera encodings, which tells the core who keeps them."""

from django.apps import AppConfig


class EncodingsConfig(AppConfig):
    """Camera encodings."""

    name = "saucer_server.encodings"

    def ready(self) -> None:
        """From now on the core finds the team's encodings by key."""
        from saucer_core.encodings.registry import supplied_by

        from .rules import supply

        supplied_by(supply)
