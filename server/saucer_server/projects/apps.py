"""What is set up when Saucer starts."""

from django.apps import AppConfig


class ProjectsConfig(AppConfig):
    """The activity leaves out projects that somebody may not see."""

    name = "saucer_server.projects"

    def ready(self) -> None:
        """Adds their pages."""
        from ..people.activity import KEPT_PAGES
        from ..people.circles import pages_of
        from .rules import Project

        KEPT_PAGES.append(pages_of(Project, "/projects/"))
