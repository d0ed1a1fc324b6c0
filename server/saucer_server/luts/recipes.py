"""Recipe files that come in: what they borrow is kept first, so that the look or step in them can be computed
here."""

from collections.abc import Callable
from pathlib import Path
from typing import Any, TypeVar

from django.core.files.uploadedfile import UploadedFile
from django.db import transaction
from saucer_core.encodings import CameraEncoding
from saucer_core.encodings.registry import forget
from saucer_core.errors import FileError
from saucer_core.formats import recipe
from saucer_core.look import Look
from saucer_core.steps.lut_step import LutStep
from saucer_core.tables.lut import Table

from ..encodings import rules as encodings
from ..people.rules import Person, must
from ..storage import uploaded
from . import rules

#: What is written down where a recipe does not say who may pass its tables on.
UNKNOWN_RIGHTS = "ask first"
T = TypeVar("T")


def bring_in(
    upload: "UploadedFile[Any]", person: Person, keep: Callable[[recipe.RecipeFile], T]
) -> tuple[T, list[str]]:
    """Reads a recipe, keeps the encodings and tables that it brings, then lets ``keep`` keep what it is
    about: all of it or nothing.

    Gives what ``keep`` gave, and in words what else came along. Raises ``FileError``.
    """
    must(person, "bring_in")
    with uploaded(upload, recipe.SIZE_LIMIT, "a recipe") as (path, name):
        found = _read(path, name)
    try:
        with transaction.atomic():
            said = [*_upgraded(found), *keep_borrowed(found.look, found.luts, found.encodings, name, person)]
            return keep(found), said
    finally:
        # From here on the database is asked, so that an encoding has the name that it has here.
        for camera in found.encodings:
            forget(camera)


def _read(path: Path, name: str) -> recipe.RecipeFile:
    try:
        return recipe.loads(path.read_text(encoding="utf-8"), name)
    except UnicodeDecodeError:
        raise FileError(name, "is not text in UTF-8") from None


def _upgraded(found: recipe.RecipeFile) -> list[str]:
    if found.version == recipe.VERSION:
        return []
    return [
        f"It was of version {found.version} and was brought up to version {recipe.VERSION}: the colours are "
        "the same."
    ]


def keep_borrowed(
    look: Look,
    tables: dict[str, Table],
    cameras: tuple[CameraEncoding, ...],
    file_name: str,
    person: Person,
    rights: str = UNKNOWN_RIGHTS,
) -> list[str]:
    """Keeps the encodings and tables that a file brings for a look, and says in words what they are and what
    is missing."""
    adopted = [row.name for camera in cameras if (row := encodings.adopt(camera, person))]
    said = [f"It brought the camera encoding “{name}”." for name in adopted]
    steps: dict[str, LutStep] = {}
    for step in look.lut_steps():
        steps.setdefault(step.table, step)
    about = {"rights": rights, "origin": f"the recipe {file_name}"[:300]}
    for digest, step in steps.items():
        embedded = tables.get(digest)
        kept = (
            rules.adopt(embedded, person, expects=step.expects, gives=step.gives, **about)
            if embedded
            else None
        )
        if kept is not None:
            said.append(f"It brought the LUT “{kept.name}”: ask whoever made the look who may pass it on.")
    missing = [
        step.name or "unnamed" for digest, step in steps.items() if digest and rules.table(digest) is None
    ]
    return said + [
        f"The LUT “{name}” that it borrows was not in the file and is not here: bring it in as well."
        for name in missing
    ]
