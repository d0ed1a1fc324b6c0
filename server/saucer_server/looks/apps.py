"""What is set up when Saucer starts."""

from django.apps import AppConfig


class LooksConfig(AppConfig):
    """The activity leaves out looks that somebody may not see."""

    name = "saucer_server.looks"

    def ready(self) -> None:
        """Adds their pages."""
        from ..people.activity import KEPT_PAGES
        from ..people.circles import pages_of
        from .rules import Look

        KEPT_PAGES.append(pages_of(Look, "/catalogue/look/"))
