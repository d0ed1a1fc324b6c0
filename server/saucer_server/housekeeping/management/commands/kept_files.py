"""The files that rows name: which are missing, out of the storage into a folder, and back."""

import shutil
from pathlib import Path
from typing import Any

from django.core.files.storage import default_storage
from django.core.management.base import BaseCommand, CommandParser

from ....delivering.rules import place_of, shas_in_use
from ....storage import on_disk, put_file
from ...sweep import NAMED_BY, in_use


def _named() -> list[str]:
    return sorted(
        {name for folder in NAMED_BY for name in in_use(folder) if name}
        | {place_of(sha) for sha in shas_in_use()}
    )


class Command(BaseCommand):
    """``manage.py kept_files missing``, ``fetch FOLDER`` or ``send FOLDER``."""

    help = (
        "Files that rows name: names those that are missing, copies all into a folder, or keeps all of "
        "a folder."
    )

    def add_arguments(self, parser: CommandParser) -> None:
        """What is to be done, and the folder it is done with."""
        does = parser.add_subparsers(dest="does", required=True)
        does.add_parser("missing")
        for name in ("fetch", "send"):
            does.add_parser(name).add_argument("folder", type=Path)

    def handle(self, *args: Any, **options: Any) -> None:
        """Does it; ``missing`` prints a name a line."""
        getattr(self, f"_{options['does']}")(options.get("folder"))

    def _missing(self, _: None) -> None:
        for name in _named():
            if not default_storage.exists(name):
                self.stdout.write(name)

    def _fetch(self, folder: Path) -> None:
        for name in _named():
            target = folder / name
            target.parent.mkdir(parents=True, exist_ok=True)
            try:
                with on_disk(name) as path:
                    shutil.copyfile(path, target)
            except FileNotFoundError:
                self.stderr.write(f"{name} is not there")

    def _send(self, folder: Path) -> None:
        for path in sorted(p for p in folder.rglob("*") if p.is_file()):
            with path.open("rb") as file:
                put_file(f"{path.relative_to(folder)}", file)
