"""The app of cuts: lists that say which frames of which clips stand where in a project."""

from django.apps import AppConfig


class CutsConfig(AppConfig):
    """Events that wait hear of clips."""

    name = "saucer_server.cuts"

    def ready(self) -> None:
        """Has them told of each clip that was looked through."""
        from ..clips.rules import LOOKED_THROUGH
        from .waiting import clip_came

        LOOKED_THROUGH.append(clip_came)
