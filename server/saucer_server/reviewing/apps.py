"""The app of notes and reviews, which follows what happens to revisions."""

from django.apps import AppConfig


class ReviewingConfig(AppConfig):
    """Notes and reviews."""

    name = "saucer_server.reviewing"

    def ready(self) -> None:
        """From now on a review ends when its revision is decided on in another way."""
        from ..looks.rules import changed
        from .rules import follow

        changed.connect(follow, dispatch_uid="reviews")
