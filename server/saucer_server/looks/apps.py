"""What is set up when Saucer starts."""

from django.apps import AppConfig


class LooksConfig(AppConfig):
    """The activity leaves out looks that somebody may not see."""

    name = "saucer_server.looks"

    def ready(self) -> None:
        """Adds their pages."""
        from ..people.activity import KEPT_PAGES
        from ..people.circles import hidden
        from .rules import Look

        def pages() -> list[str]:
            out = hidden()
            rows = Look._base_manager.filter(circle__in=out).values_list("pk", flat=True) if out else ()
            return [f"/catalogue/look/{pk}" for pk in rows]

        KEPT_PAGES.append(pages)
