"""The app of people, which notes where somebody is signed in."""

from django.apps import AppConfig
from django.contrib.auth.signals import user_logged_in, user_logged_out


class PeopleConfig(AppConfig):
    """People."""

    name = "saucer_server.people"

    def ready(self) -> None:
        """From now on a session is listed from when it begins until it ends."""
        from .sessions import leave, signed_in

        user_logged_in.connect(signed_in, dispatch_uid="sessions")
        user_logged_out.connect(leave, dispatch_uid="sessions")
