"""The app of people, which notes where somebody is signed in."""

from django.apps import AppConfig
from django.contrib.auth.signals import user_logged_in, user_logged_out


class PeopleConfig(AppConfig):
    """People."""

    name = "saucer_server.people"

    def ready(self) -> None:
        """From now on a session is listed from when it begins until it ends."""
        from .seats import leave, sit

        user_logged_in.connect(sit, dispatch_uid="seats")
        user_logged_out.connect(leave, dispatch_uid="seats")
