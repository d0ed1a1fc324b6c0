"""Files on disk that are whole or not there, and results kept by what they are made from."""

import os
import tempfile
from collections.abc import Callable
from pathlib import Path
from typing import Any

from django.core.files.base import ContentFile, File
from django.core.files.storage import FileSystemStorage, default_storage


class WholeFileStorage(FileSystemStorage):
    """Local files, written to a temporary name in the same folder and then renamed."""

    def _save(self, name: str, content: "File[Any]") -> str:
        target = Path(self.path(name))
        target.parent.mkdir(parents=True, exist_ok=True)
        handle, part = tempfile.mkstemp(dir=target.parent, prefix=".part-")
        try:
            with os.fdopen(handle, "wb") as out:
                for chunk in content.chunks():
                    out.write(chunk)
                out.flush()
                os.fsync(out.fileno())
            os.chmod(part, 0o644)
            os.replace(part, target)
        finally:
            Path(part).unlink(missing_ok=True)
        return name


def put(name: str, data: bytes) -> str:
    """Keeps ``data`` under ``name``; where that name exists it stays as it is (names carry digests)."""
    if default_storage.exists(name):
        return name
    return default_storage.save(name, ContentFile(data))


def get(name: str) -> bytes:
    """The bytes kept under ``name``; raises ``FileNotFoundError``."""
    with default_storage.open(name) as f:
        data: bytes = f.read()
    return data


def kept(name: str, make: Callable[[], bytes]) -> bytes:
    """What is kept under ``name``, made first if need be. The name must say what the bytes are made from."""
    try:
        return get(name)
    except FileNotFoundError:
        data = make()
        put(name, data)
        return data
