"""What is set up when Saucer starts."""

from django.apps import AppConfig


class ProjectsConfig(AppConfig):
    """The activity leaves out projects that somebody may not see."""

    name = "saucer_server.projects"

    def ready(self) -> None:
        """Adds their pages."""
        from ..people.activity import KEPT_PAGES
        from ..people.circles import hidden
        from .rules import Project

        def pages() -> list[str]:
            out = hidden()
            rows = Project._base_manager.filter(circle__in=out).values_list("pk", flat=True) if out else ()
            return [f"/projects/{pk}" for pk in rows]

        KEPT_PAGES.append(pages)
