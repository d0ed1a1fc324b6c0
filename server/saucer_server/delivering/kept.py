"""What pieces of deliveries gave, kept by what they were made from."""

import hashlib
import tempfile
from collections.abc import Sequence
from contextlib import suppress
from pathlib import Path

from django.core.files import File
from django.core.files.storage import default_storage
from pydantic import BaseModel
from saucer_core.formats.delivery import Facts

from .. import storage
from .rules import place_of


class KeptFile(BaseModel):
    """A file that is kept: what is appended to the piece's path, its checksum and size in bytes."""

    suffix: str
    sha256: str
    bytes: int


class Kept(BaseModel):
    """What a piece gave, kept by what it was made from."""

    files: list[KeptFile]
    facts: Facts


def _note(key: str) -> str:
    return f"delivered/by/{key[:2]}/{key}.json"


def known(key: str) -> Kept | None:
    """What was made from the same before, where all of its files are still there."""
    try:
        found = Kept.model_validate_json(storage.get(_note(key)))
    except FileNotFoundError:
        return None
    return found if all(default_storage.exists(place_of(f.sha256)) for f in found.files) else None


def keep(key: str, made: Sequence[tuple[str, Path]], facts: Facts) -> Kept:
    """Keeps files, each with what is appended to the path of its piece, and what was measured."""
    note = _note(key)
    files = []
    for suffix, path in made:
        with path.open("rb") as f:
            sha = hashlib.file_digest(f, "sha256").hexdigest()
        if not default_storage.exists(place_of(sha)):
            with path.open("rb") as f:
                default_storage.save(place_of(sha), File(f))
        files.append(KeptFile(suffix=suffix, sha256=sha, bytes=path.stat().st_size))
    found = Kept(files=files, facts=facts)
    if default_storage.exists(note):
        default_storage.delete(note)
    storage.put(note, found.model_dump_json().encode())
    return found


def lengths(key: str) -> Path:
    """A folder of this machine for the lengths of a clip: it outlives a worker that dies, so that the next
    one goes on from there."""
    with suppress(NotImplementedError):
        return Path(default_storage.path(f"delivered/lengths/{key}"))
    return Path(tempfile.gettempdir()) / f"saucer-lengths-{key[:32]}"
