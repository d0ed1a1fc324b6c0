"""Packs: folders and ZIP files of looks, taken apart without trusting a byte of them."""

from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from ..errors import FileError
from .zips import NotTaken, files_of, name_of, opened, place, take

#: Files that a pack may hold.
COUNT_LIMIT = 10_000
#: Bytes of one of them.
FILE_LIMIT = 256 * 2**20
#: Bytes of all of them.
WHOLE_LIMIT = 8 * 2**30
#: Bytes of the ZIP itself.
ZIP_LIMIT = 2 * 2**30
_LICENCES = ("licence", "license", "copying", "rights", "terms", "readme")
_LICENCE_LIMIT = 20_000
#: The list in a pack of Saucer that tells what it carries.
CONTENTS = "saucer-contents.json"
#: The folder of files that were made of the looks, and are no looks themselves.
BESIDE = "beside"


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


def unpack(path: Path, name: str, into: Path) -> Iterator[PackFile]:
    """The files of a ZIP, each unpacked to ``into`` under a number as it is asked for. The one who asks
    removes it when done with it.

    Raises ``FileError`` where the ZIP as a whole cannot be used.
    """
    with opened(path, name, ZIP_LIMIT, "a pack") as packed:
        entries = files_of(packed)
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
                where = place(name_of(entry))
                if where is None:
                    continue
            except FileError as error:
                yield PackFile("", error.name, None, error.reason)
                continue
            try:
                target = into / str(number)
                whole += take(packed, entry, target, min(FILE_LIMIT, WHOLE_LIMIT - whole))
            except NotTaken as error:
                target.unlink(missing_ok=True)
                yield PackFile(*where, None, str(error))
                continue
            yield PackFile(*where, target)


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
