"""Makes the first lead of an installation, or gives one a new password."""

import getpass
import sys
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from ....errors import RuleError
from ...inviting import choose_password
from ...naming import by_name, sign_in_name
from ...rules import Person, Role


class Command(BaseCommand):
    """``./saucer lead NAME``: the password is asked for, or read as one line where nobody types."""

    help = "Makes a lead, or gives one a new password."

    def add_arguments(self, parser: CommandParser) -> None:
        """Who it is."""
        parser.add_argument("username")
        parser.add_argument("--called", default="", help="the name others see")

    def handle(self, *args: Any, **options: Any) -> None:
        """Makes or changes the person; they are a lead afterwards, and let in."""
        typed = sys.stdin.isatty()
        password = (
            getpass.getpass("Password, ten characters or more: ")
            if typed
            else sys.stdin.readline().rstrip("\n")
        )
        if typed and getpass.getpass("The same again: ") != password:
            raise CommandError("The two are not the same. Nothing was changed.")
        try:
            person = by_name(options["username"]) or Person(username=sign_in_name(options["username"]))
        except RuleError as error:
            raise CommandError(error.message) from None
        person.role, person.is_active = Role.LEAD, True
        person.full_name = options["called"] or person.full_name or options["username"]
        try:
            choose_password(person, password)
        except RuleError as error:
            raise CommandError(error.message) from None
        person.save()
        self.stdout.write(f"{person} is a lead and signs in as {person.username}.")
