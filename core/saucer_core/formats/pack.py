"""Packs: folders and ZIP files of looks, taken apart without trusting a byte of them.

Names in a ZIP are only read, never used as a place on the disk; what comes out is counted while it is
unpacked, whatever the ZIP says of its sizes.
"""

import stat
import zipfile
import zlib
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path, PurePosixPath

from ..errors import FileError

#: Files that a pack may hold.
COUNT_LIMIT = 10_000
#: Bytes of one of them.
FILE_LIMIT = 256 * 2**20
#: Bytes of all of them.
WHOLE_LIMIT = 8 * 2**30
#: Bytes of the ZIP itself.
ZIP_LIMIT = 2 * 2**30
#: How many times larger than its place in the ZIP a file may become; a table of one repeated line comes to
#: some 300.
RATIO_LIMIT = 1_000
_CHUNK = 1 << 20
_LICENCES = ("licence", "license", "copying", "rights", "terms", "readme")
_LICENCE_LIMIT = 20_000
#: The list in a pack of Saucer that tells what it carries.
CONTENTS = "saucer-contents.json"
#: The folder of files that were made of the looks, and are no looks themselves.
BESIDE = "beside"
#: What systems leave in folders for themselves.
_LEFT_BEHIND = {"__macosx", "thumbs.db", "desktop.ini"}


@dataclass(frozen=True)
class PackFile:
    """A file of a pack.

    folder: where in the pack, empty for its top. path: its bytes on the disk, ``None`` where ``reason`` says
    why not.
    """

    folder: str
    name: str
    path: Path | None
    reason: str = ""


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


def walk(folder: Path) -> Iterator[PackFile]:
    """The files of a folder and of those in it, in order of their names; links are not followed. Raises
    ``FileError`` for too many."""
    count = 0
    for path in sorted(folder.rglob("*")):
        where = place(path.relative_to(folder).as_posix())
        if where is None or not path.is_file():
            continue
        count += 1
        if count > COUNT_LIMIT:
            raise FileError(
                folder.name,
                f"holds more than {COUNT_LIMIT:,} files. Bring its folders in one after the other",
            )
        if path.is_symlink():
            yield PackFile(*where, None, "is a link to somewhere else: left out")
        else:
            yield PackFile(*where, path)


def _name(entry: zipfile.ZipInfo) -> str:
    """The name of an entry; old packers write UTF-8 without saying so."""
    if entry.flag_bits & 0x800:
        return entry.filename
    try:
        return entry.filename.encode("cp437").decode("utf-8")
    except UnicodeError:
        return entry.filename


def unpack(path: Path, name: str, into: Path) -> Iterator[PackFile]:
    """The files of a ZIP, each unpacked to ``into`` under a number as it is asked for. The one who asks
    removes it when done with it.

    Raises ``FileError`` where the ZIP as a whole cannot be used.
    """
    if path.stat().st_size > ZIP_LIMIT:
        raise FileError(
            name, f"larger than {ZIP_LIMIT // 2**30} GiB, the most a pack may be. Bring it in as several"
        )
    try:
        packed = zipfile.ZipFile(path)
    except (zipfile.BadZipFile, OSError, ValueError, NotImplementedError):
        raise FileError(
            name, "is not a ZIP that can be read: it is damaged or cut short. Pack it again"
        ) from None
    with packed:
        entries = [e for e in packed.infolist() if not e.is_dir()]
        if any(e.filename == CONTENTS for e in entries):
            entries = [
                e for e in entries if e.filename != CONTENTS and not e.filename.startswith(f"{BESIDE}/")
            ]
        if len(entries) > COUNT_LIMIT:
            raise FileError(
                name, f"holds {len(entries):,} files; a pack may hold {COUNT_LIMIT:,}. Bring it in as several"
            )
        whole = 0
        for number, entry in enumerate(entries):
            try:
                where = place(_name(entry))
                if where is None:
                    continue
            except FileError as error:
                yield PackFile("", error.name, None, error.reason)
                continue
            try:
                target = into / str(number)
                whole += _copy(packed, entry, target, WHOLE_LIMIT - whole)
            except _Refused as error:
                target.unlink(missing_ok=True)
                yield PackFile(*where, None, str(error))
                continue
            yield PackFile(*where, target)


class _Refused(Exception):
    """A file of a ZIP cannot be taken; says why."""


def _copy(packed: zipfile.ZipFile, entry: zipfile.ZipInfo, target: Path, room: int) -> int:
    """Unpacks one entry; gives its bytes."""
    if stat.S_ISLNK(entry.external_attr >> 16):
        raise _Refused("is a link to somewhere else: left out")
    if entry.flag_bits & 0x1:
        raise _Refused("is locked with a password. Unpack it yourself, then bring the files in")
    limit = min(FILE_LIMIT, room, max(entry.compress_size, 1) * RATIO_LIMIT)
    size = 0
    try:
        with packed.open(entry) as source, target.open("wb") as out:
            while chunk := source.read(_CHUNK):
                size += len(chunk)
                if size > limit:
                    raise _Refused("unpacks to more than a file of looks holds: left out")
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
        raise _Refused("is damaged inside the ZIP") from None
    return size


def licence(file: PackFile) -> str | None:
    """The text of a file that says who may do what with the pack; ``None`` where it is no such file."""
    stem = Path(file.name).stem.lower()
    if (
        file.path is None
        or not stem.startswith(_LICENCES)
        or Path(file.name).suffix.lower() not in ("", ".txt", ".md")
    ):
        return None
    text = file.path.read_bytes()[:_LICENCE_LIMIT].decode("utf-8", "replace").replace("\0", "")
    return text.strip() or None
