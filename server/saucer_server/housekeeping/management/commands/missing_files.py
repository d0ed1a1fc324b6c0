"""Names every file that a row names and that is not there, one a line."""

from typing import Any

from django.core.files.storage import default_storage
from django.core.management.base import BaseCommand

from ....delivering.rules import place_of, shas_in_use
from ...sweep import NAMED_BY, in_use


class Command(BaseCommand):
    """``manage.py missing_files``: after a restore nothing is printed."""

    help = "Names files that rows name and that are not there."

    def handle(self, *args: Any, **options: Any) -> None:
        """Prints them."""
        named = {name for folder in NAMED_BY for name in in_use(folder) if name} | {place_of(sha) for sha in shas_in_use()}
        for name in sorted(named):
            if not default_storage.exists(name):
                self.stdout.write(name)
