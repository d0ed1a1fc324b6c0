"""Files on disk that are whole or not there, and results kept by what they are made from."""

import errno
import hashlib
import logging
import os
import shutil
import tempfile
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from pathlib import Path
from typing import Any, BinaryIO

from django.conf import settings
from django.core.files.base import ContentFile, File
from django.core.files.storage import FileSystemStorage, default_storage
from django.core.files.uploadedfile import TemporaryUploadedFile, UploadedFile
from saucer_core.errors import FileError
from saucer_core.look import canonical
from saucer_core.version import PIXELS

log = logging.getLogger("saucer.storage")


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


def away() -> tuple[type[Exception], ...]:
    """What a storage raises that cannot be reached: a disk, and a bucket where files lie in one."""
    if not settings.BUCKET:
        return (OSError,)
    from boto3.exceptions import Boto3Error
    from botocore.exceptions import BotoCoreError, ClientError

    return OSError, Boto3Error, BotoCoreError, ClientError


def put(name: str, data: bytes) -> str:
    """Keeps ``data`` under ``name``; where that name exists it stays as it is (names carry digests)."""
    if default_storage.exists(name):
        return name
    return default_storage.save(name, ContentFile(data))


def put_file(name: str, file: BinaryIO) -> str:
    """``put`` for an open file, which is never in memory as a whole."""
    if default_storage.exists(name):
        return name
    return default_storage.save(name, File(file))


@contextmanager
def on_disk(name: str) -> Iterator[Path]:
    """A kept file as one on this disk: itself where it lies here, else a copy, gone afterwards. Not to be
    changed."""
    try:
        yield Path(default_storage.path(name))
    except NotImplementedError:
        with tempfile.TemporaryDirectory() as folder, default_storage.open(name) as f:
            path = Path(folder) / Path(name).name
            with path.open("wb") as out:
                shutil.copyfileobj(f, out)
            yield path


def get(name: str) -> bytes:
    """The bytes kept under ``name``; raises ``FileNotFoundError``."""
    with default_storage.open(name) as f:
        data: bytes = f.read()
    return data


def digest_of(made_of: object) -> str:
    """SHA-256 of what a result is made of (anything that JSON can hold) and of the version of what the core
    computes, as hex."""
    return hashlib.sha256(canonical([PIXELS, made_of])).hexdigest()


def result(kind: str, made_of: object, suffix: str = "") -> str:
    """The name of a result for ``kept``. kind: the folder of results like it; made_of: all that its bytes
    depend on."""
    return f"derived/{kind}/{digest_of(made_of)}{suffix}"


def kept(name: str, make: Callable[[], bytes]) -> bytes:
    """What is kept under ``name``, made first if need be. The name must say what the bytes are made from."""
    try:
        data = get(name)
        _asked_for(name)
    except FileNotFoundError:
        data = make()
        try:
            put(name, data)
        except OSError as error:
            # It is shown all the same, and made again when it is asked for again.
            if error.errno not in (*FULL, *CLOSED):
                raise
            log.warning("%s is not kept: %s", name, error.strerror)
    return data


#: What a full disk, or a share of it that is used up, says.
FULL = (errno.ENOSPC, errno.EDQUOT)
#: What a disk says that takes nothing in.
CLOSED = (errno.EROFS, errno.EACCES, errno.EPERM)
#: Seconds after which it is noted again that a result was asked for.
NOTED = 86_400


def _asked_for(name: str) -> None:
    """Notes that a result was asked for, in the time of its file: what nobody asks for is let go one day."""
    with suppress(OSError, NotImplementedError):
        path = default_storage.path(name)
        if time.time() - os.stat(path).st_mtime > NOTED:
            os.utime(path)


def arriving() -> Path:
    """The folder where uploads lie until they are kept or refused."""
    folder = Path(settings.FILE_UPLOAD_TEMP_DIR)
    folder.mkdir(parents=True, exist_ok=True)
    return folder


@contextmanager
def uploaded(upload: "UploadedFile[Any]", limit: int, what: str) -> Iterator[tuple[Path, str]]:
    """An upload as a file on disk, gone afterwards, and its name without folders. Raises ``FileError`` beyond
    ``limit`` bytes.

    what: what it is, for the error, as "a picture".
    """
    name = Path(upload.name or "file").name
    if (upload.size or 0) > limit:
        raise FileError(name, f"larger than {limit // 2**20} MiB, the most {what} may be")
    with tempfile.TemporaryDirectory(dir=arriving()) as folder:
        path = Path(folder) / ("upload" + Path(name).suffix.lower())
        if isinstance(upload, TemporaryUploadedFile):
            # It lies beside already.
            os.link(upload.temporary_file_path(), path)
        else:
            upload.seek(0)
            path.write_bytes(upload.read())
        yield path, name


def measure(rows: Any) -> None:
    """For migrations: writes down ``bytes`` of the ``file`` of each row that has none; a file that is gone
    has none. rows: a manager."""
    for key, file in rows.filter(bytes=0).values_list("pk", "file").iterator():
        try:
            size = default_storage.size(file)
        except away():
            continue
        rows.filter(pk=key).update(bytes=size)
