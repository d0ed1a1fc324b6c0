"""The app of the reel: a project played in order, and the notes on its moments."""

from django.apps import AppConfig


class ReelConfig(AppConfig):
    """The reel."""

    name = "saucer_server.reel"
