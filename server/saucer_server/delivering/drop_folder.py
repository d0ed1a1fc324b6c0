"""The drop folder: a stand-in for an editing room's shared disk.

It is a folder, and a file in it that says how it behaves: slow, nearly full, or not there. So that what
Saucer does then can be tried by anybody. A delivery comes to it under a name that begins with a dot, and gets
its own once it is whole.
"""

import errno
import hashlib
import io
import json
import shutil
import time
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import asdict, dataclass
from pathlib import Path
from typing import IO

from django.conf import settings
from django.db import connection

from ..errors import RuleError
from ..fields import safe_name
from ..jobs import rules as jobs
from ..people.rules import Person, must
from .copies import CopyState
from .models import Delivery
from .rules import entries

#: The file that names the stand-in for a storage elsewhere.
STAND_IN = ".stand-in.json"
#: The file in a folder that names the delivery it was written by.
MARK = ".delivery"
LOCKS = 0x5A0CE3
PIECE = 2**18


@dataclass(frozen=True)
class StandIn:
    """How the drop folder behaves.

    there: whether it is mounted. pace: bytes a second, 0: as quick as it goes. room: bytes it holds, 0: as
    many as the disk.
    """

    there: bool = True
    pace: int = 0
    room: int = 0


@dataclass(frozen=True)
class DropFolder:
    """What is to be seen of it: where it is, whether it is there, and how much room is left (bytes)."""

    name: str
    there: bool
    free: int
    stand_in: StandIn


def root() -> Path:
    """The folder."""
    return Path(settings.SAUCER_DROP_FOLDER)


def _behaviour() -> StandIn:
    try:
        return StandIn(**json.loads((root() / STAND_IN).read_text()))
    except (OSError, ValueError, TypeError):
        return StandIn()


def _used() -> int:
    return sum(p.stat().st_size for p in root().rglob("*") if p.is_file() and p.name != STAND_IN)


def _free(how: StandIn) -> int:
    free = shutil.disk_usage(root()).free
    return max(min(free, how.room - _used()), 0) if how.room else free


def look() -> DropFolder:
    """How it stands."""
    root().mkdir(parents=True, exist_ok=True)
    how = _behaviour()
    return DropFolder(root().name, how.there, _free(how) if how.there else 0, how)


def behave(person: Person, how: StandIn) -> DropFolder:
    """Says how the stand-in behaves from now on; leads may."""
    must(person, "project.make")
    root().mkdir(parents=True, exist_ok=True)
    part = root() / f"{STAND_IN}.part"
    part.write_text(json.dumps(asdict(how)))
    part.replace(root() / STAND_IN)
    return look()


def place(delivery: Delivery) -> str:
    """Where a delivery stands on the drop folder. The project's number ends the name of its folder: two
    projects may be called the same."""
    return f"{safe_name(delivery.project.name)} {delivery.project.pk}/{delivery.number:03d}"


def _mark(delivery: Delivery) -> str:
    """What tells a delivery's folder from anything that others put there."""
    # Marks of folders that were written before the module got its name stay good.
    return hashlib.sha256(f"shelf {delivery.pk} {settings.SECRET_KEY}".encode()).hexdigest()[:32]


def _is_of(folder: Path, delivery: Delivery) -> bool:
    try:
        return (folder / MARK).read_text() == _mark(delivery)
    except (OSError, UnicodeDecodeError):
        return False


def _write(target: Path, source: IO[bytes]) -> None:
    target.parent.mkdir(parents=True, exist_ok=True)
    with source, target.open("wb") as out:
        while piece := source.read(PIECE):
            _piece(out, piece)


def _piece(out: IO[bytes], piece: bytes) -> None:
    how = _behaviour()
    if not how.there:
        raise OSError(errno.ENODEV, "the drop folder is gone")
    if how.room and _free(how) < len(piece):
        raise OSError(errno.ENOSPC, "No space left on device")
    out.write(piece)
    if how.pace:
        time.sleep(len(piece) / how.pace)


def _why(error: OSError) -> str:
    if error.errno in (errno.ENOSPC, errno.EDQUOT):
        return "the drop folder is full: make room there, then put the delivery on it again"
    if isinstance(error, FileExistsError):
        return str(error.strerror)
    if error.errno == errno.ENODEV:
        return "the drop folder is not there: once it is mounted again, put the delivery on it again"
    return f"the drop folder cannot be written to ({error.strerror or error})"


_IN_THE_WAY = (
    "{} is there already and was not put there by this delivery: move it away, then put the "
    "delivery on the drop folder again"
)


@contextmanager
def _alone(delivery: Delivery) -> Iterator[None]:
    """One at a time puts a delivery on the drop folder."""
    with connection.cursor() as cursor:
        cursor.execute("select pg_advisory_lock(%s, %s)", [LOCKS, delivery.pk % 2**31])
        try:
            yield
        finally:
            cursor.execute("select pg_advisory_unlock(%s, %s)", [LOCKS, delivery.pk % 2**31])


def copy_out(delivery: Delivery) -> None:
    """Puts a delivery on the drop folder, whole or not at all; the delivery says what
    came of it, and stays usable."""
    with _alone(delivery):
        _put(delivery)


def _put(delivery: Delivery) -> None:
    target = root() / place(delivery)
    part, old = (target.with_name(f".{word}-{target.name}-{delivery.pk}") for word in ("part", "old"))
    _say(delivery, CopyState(state="under way"))
    try:
        if not _behaviour().there:
            raise OSError(errno.ENODEV, "the drop folder is gone")
        if target.exists() and not _is_of(target, delivery):
            raise FileExistsError(errno.EEXIST, _IN_THE_WAY.format(place(delivery)))
        shutil.rmtree(part, ignore_errors=True)
        _write(part / MARK, io.BytesIO(_mark(delivery).encode()))
        for name, source in entries(delivery):
            _write(part / name, source)
        if target.exists():
            target.replace(old)
        part.replace(target)
        shutil.rmtree(old, ignore_errors=True)
    except OSError as error:
        if _behaviour().there:
            shutil.rmtree(part, ignore_errors=True)
        _say(delivery, CopyState(state="failed", why=_why(error)))
        return
    _say(delivery, CopyState(state="there", place=place(delivery)))


def _say(delivery: Delivery, state: CopyState) -> None:
    Delivery.objects.filter(pk=delivery.pk).update(drop_folder=state)


def await_copy(delivery: Delivery) -> None:
    """Writes down that a delivery is to be put on the drop folder."""
    _say(delivery, CopyState(state="waiting"))


def put_again(delivery: Delivery) -> None:
    """Asks for a finished delivery to be put on the drop folder. Raises 409."""
    from .tasks import shelve

    if not delivery.ready or delivery.contents is None:
        raise RuleError(409, "This delivery is not finished.")
    await_copy(delivery)
    jobs.defer(shelve, delivery_id=delivery.pk)
