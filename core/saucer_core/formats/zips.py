"""ZIP files, read without trusting a byte of them.

Names in a ZIP are only read, never used as a place on the disk; what comes out is counted while it is
unpacked, whatever the ZIP says of its sizes.
"""

import stat
import zipfile
import zlib
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path, PurePosixPath

from ..errors import FileError

__all__ = ["NotTaken", "files_of", "name_of", "opened", "place", "take"]

#: How many times larger than its place in the ZIP a file may become; a table of one repeated line comes to
#: some 300.
RATIO_LIMIT = 1_000
_CHUNK = 1 << 20
#: What systems leave in folders for themselves.
_LEFT_BEHIND = {"__macosx", "thumbs.db", "desktop.ini"}


class NotTaken(Exception):
    """A file of a ZIP cannot be taken; says why."""


@contextmanager
def opened(path: Path, name: str, limit: int, what: str) -> Iterator[zipfile.ZipFile]:
    """An open ZIP. Raises ``FileError`` for one that is damaged, or larger than ``limit`` bytes.

    what: what it may be, for the error, as "a pack".
    """
    if path.stat().st_size > limit:
        raise FileError(
            name, f"larger than {limit // 2**30} GiB, the most {what} may be. Bring it in as several"
        )
    try:
        packed = zipfile.ZipFile(path)
    except (zipfile.BadZipFile, OSError, ValueError, NotImplementedError):
        raise FileError(
            name, "is not a ZIP that can be read: it is damaged or cut short. Pack it again"
        ) from None
    with packed:
        yield packed


def files_of(packed: zipfile.ZipFile) -> list[zipfile.ZipInfo]:
    """The entries that are no folders."""
    return [entry for entry in packed.infolist() if not entry.is_dir()]


def name_of(entry: zipfile.ZipInfo) -> str:
    """The name of an entry; old packers write UTF-8 without saying so."""
    if entry.flag_bits & 0x800:
        return entry.filename
    try:
        return entry.filename.encode("cp437").decode("utf-8")
    except UnicodeError:
        return entry.filename


def place(said: str) -> tuple[str, str] | None:
    """Folder and name of a path inside a pack, ``None`` for what a system left behind. Raises ``FileError``
    for one that climbs out."""
    parts = PurePosixPath(said.replace("\\", "/")).parts
    if not parts or ".." in parts or parts[0] == "/" or ":" in parts[0] or "\0" in said:
        raise FileError(
            said[-120:].replace("\0", "�") or "a file", "its path leads out of the pack: left out"
        )
    if any(p.lower() in _LEFT_BEHIND or p.startswith(".") for p in parts):
        return None
    return "/".join(parts[:-1])[-200:], parts[-1][-200:]


def take(packed: zipfile.ZipFile, entry: zipfile.ZipInfo, target: Path, limit: int) -> int:
    """Unpacks one entry, of ``limit`` bytes at most; gives its bytes. Raises ``NotTaken``."""
    if stat.S_ISLNK(entry.external_attr >> 16):
        raise NotTaken("is a link to somewhere else: left out")
    if entry.flag_bits & 0x1:
        raise NotTaken("is locked with a password. Unpack it yourself, then bring the files in")
    limit = min(limit, max(entry.compress_size, 1) * RATIO_LIMIT)
    size = 0
    try:
        with packed.open(entry) as source, target.open("wb") as out:
            while chunk := source.read(_CHUNK):
                size += len(chunk)
                if size > limit:
                    raise NotTaken("unpacks to more than a file of its kind holds: left out")
                out.write(chunk)
    except (
        zipfile.BadZipFile,
        zlib.error,
        EOFError,
        NotImplementedError,
        RuntimeError,
        OSError,
        ValueError,
    ) as error:
        if isinstance(error, OSError) and error.errno:
            raise
        raise NotTaken("is damaged inside the ZIP") from None
    return size
