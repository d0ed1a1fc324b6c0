"""What render rooms have made in a folder: a record a shot, and a lock so that no two work at one shot."""

import fcntl
import os
import shutil
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from pydantic import BaseModel, ConfigDict, ValidationError

from ..errors import FileError
from ..formats.files import whole_text
from .feed import sha256_of

#: The folder, beside what is made, in which a render room keeps its own files.
OWN = ".saucer-render"


class MadeFile(BaseModel):
    """A file that was made: its path in the folder, checksum, size in bytes, and when it was written, in
    nanoseconds."""

    model_config = ConfigDict(frozen=True)

    path: str
    sha256: str
    bytes: int
    at: int


class Record(BaseModel):
    """What was made of a shot. key: what from. label: its number and name; source: the footage; first, last:
    of its frames, with handles; encoding: that it went out in; doubts: what is not as it was looked at, or
    was left out, in words."""

    model_config = ConfigDict(frozen=True)

    key: str
    number: int
    label: str
    source: str
    first: int
    last: int
    encoding: str
    files: tuple[MadeFile, ...]
    doubts: tuple[str, ...] = ()


class Records:
    """The records of a folder."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self._made, self._locks, self._parts = (folder / OWN / name for name in ("made", "locks", "parts"))
        for place in (self._made, self._locks, self._parts):
            place.mkdir(parents=True, exist_ok=True)

    @property
    def fetched(self) -> Path:
        """Where files of the delivery are kept."""
        return self.folder / OWN / "delivery"

    def parts(self, key: str) -> Path:
        """Where what is half made of that key lies, to go on with."""
        return self._parts / key

    @contextmanager
    def lock(self, name: str, wait: bool = False) -> Iterator[bool]:
        """A lock of all render rooms on this folder; gives whether it was free. It ends with the process that
        has it, also where that is killed."""
        with (self._locks / name).open("w") as held:
            try:
                fcntl.flock(held, fcntl.LOCK_EX | (0 if wait else fcntl.LOCK_NB))
            except BlockingIOError:
                yield False
                return
            except OSError as error:
                raise FileError(
                    str(self.folder), f"its disk keeps no locks ({os.strerror(error.errno or 0)})"
                ) from None
            yield True

    def all(self) -> dict[str, Record]:
        """What was made, by what from. Damaged records count for nothing: what they were of is made anew."""
        names = [path.stem for path in sorted(self._made.glob("*.json"))]
        return {name: record for name in names if (record := self.of(name)) is not None}

    def of(self, name: str) -> Record | None:
        """What was made under that name; nothing where no record can be read."""
        try:
            return Record.model_validate_json((self._made / f"{name}.json").read_bytes())
        except (ValidationError, OSError):
            return None

    def keep(self, name: str, record: Record) -> None:
        """Writes down what was made."""
        whole_text(self._made / f"{name}.json", record.model_dump_json(indent=1))

    def forget(self, name: str) -> None:
        """Removes a record."""
        (self._made / f"{name}.json").unlink(missing_ok=True)

    def put(self, made: Path, target: Path, record: Record) -> None:
        """Gives what is made its name, in place of what a render room had made under it.

        Wherever this is broken off, what is there has the record that it was made by, or there is nothing
        under the name: no file of a render room's own is ever taken for somebody else's.
        """
        if target.is_dir():
            shutil.rmtree(target)
        target.unlink(missing_ok=True)
        self.keep(target.name, record)
        os.replace(made, target)

    def is_there(self, record: Record, verify: bool) -> bool:
        """Whether all files of a record are as they were made; verify: by their checksums, else by size and
        time."""
        return all(self._is_whole(file, verify) for file in record.files)

    def _is_whole(self, file: MadeFile, verify: bool) -> bool:
        try:
            found = (self.folder / file.path).stat()
        except OSError:
            return False
        if found.st_size != file.bytes:
            return False
        if not verify and found.st_mtime_ns == file.at:
            return True
        return sha256_of(self.folder / file.path) == file.sha256

    def measured(self, made: Path, target: Path) -> tuple[MadeFile, ...]:
        """The files of what is made, a file or a folder of files, as they are once it has its name."""
        paths = sorted(made.iterdir()) if made.is_dir() else [made]
        where = target.relative_to(self.folder)
        return tuple(_measured(path, where / path.name if made.is_dir() else where) for path in paths)


def _measured(path: Path, where: Path) -> MadeFile:
    found = path.stat()
    return MadeFile(path=where.as_posix(), sha256=sha256_of(path), bytes=found.st_size, at=found.st_mtime_ns)
