"""Reading a pack: every file into what it would be kept as, measured and drawn. Done by a worker."""

import hashlib
import tempfile
import zipfile
from collections import deque
from collections.abc import Iterator
from concurrent.futures import Future, ThreadPoolExecutor
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path

from django.core.files.storage import default_storage
from django.db import connections, transaction
from saucer_core.encodings import CameraEncoding, Encoding
from saucer_core.encodings.registry import known as with_encodings
from saucer_core.errors import CoreError, FileError, LookError
from saucer_core.formats import incoming
from saucer_core.formats import pack as packed
from saucer_core.formats.incoming import Incoming
from saucer_core.look import Look as LookValue
from saucer_core.look import wearing
from saucer_core.readings.likeness import TWIN_LARGEST, TWIN_MEAN, apart, behaviour
from saucer_core.readings.traits import traits
from saucer_core.steps import Tables

from .. import storage
from ..bench import pictures
from ..caches import TABLES
from ..catalogue.likeness import Known, known
from ..encodings import rules as encodings
from ..frames.rules import Frame
from ..jobs.rules import Progress, running
from ..luts.rules import here
from .earlier import Earlier, colours_of
from .models import Pack, PackFile, PackItem, Stage
from .rules import collection_for, holds
from .values import ItemGuess, Twin

#: Pixels: width of the picture that is drawn ahead of a look on the chosen frame.
STILL = 320
#: Pixels: width of the saucer that is drawn ahead.
SAUCER = 112
#: Files that are read at once.
AT_ONCE = 2
#: Files that wait to be written down.
AHEAD = 8


@dataclass(frozen=True)
class _Read:
    """A file of a pack after reading: what it brings, or why not."""

    file: packed.PackFile
    data: bytes
    brought: list[tuple[Incoming, PackItem]]
    reason: str = ""


def team_encodings() -> list[Encoding]:
    """The team's camera encodings, for guesses."""
    return [c.encoding for c in encodings.choices() if c.own]


def read(pack_id: int) -> None:
    """Reads the files of a pack that were not read yet. May run again after a worker died: a file counts once
    all of it is read."""
    pack = Pack.objects.select_related("job", "frame").get(pk=pack_id)

    def undo() -> None:
        _half_read(pack)
        stage = Stage.READY if pack.items.exists() else Stage.GATHERING
        Pack.objects.filter(pk=pack.pk, stage=Stage.READING).update(stage=stage)

    assert pack.job_id is not None
    with running(pack.job_id, undo) as progress:
        _half_read(pack)
        catalogue, earlier, cameras = known(), Earlier(pack.pk), team_encodings()
        files = list(pack.files.filter(read=False))
        progress.total(sum(_count(f) for f in files))
        done = 0
        for file in files:
            done = _read_file(pack, file, catalogue, earlier, cameras, progress, done)
        _name_collections(pack)
        Pack.objects.filter(pk=pack.pk).update(stage=Stage.READY)


def _half_read(pack: Pack) -> None:
    """Lets go of what stands of files that were not read to their end."""
    PackItem.objects.filter(pack=pack, source__read=False).delete()


def _count(file: PackFile) -> int:
    if not file.name.lower().endswith(".zip"):
        return 1
    with default_storage.open(file.file) as f:
        try:
            return len(zipfile.ZipFile(f).infolist())
        except (zipfile.BadZipFile, OSError, ValueError):
            return 1


@contextmanager
def on_disk(name: str) -> Iterator[Path]:
    """A stored file as a file on disk, gone afterwards."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / ("file" + Path(name).suffix)
        with default_storage.open(name) as source, path.open("wb") as out:
            for chunk in source.chunks():
                out.write(chunk)
        yield path


def _parts(file: PackFile, path: Path, folder: Path) -> Iterator[packed.PackFile]:
    if not file.name.lower().endswith(".zip"):
        yield packed.PackFile(file.folder, file.name, path)
        return
    try:
        for part in packed.unpack(path, file.name, folder):
            inside = "/".join(p for p in (file.folder, part.folder) if p)
            yield packed.PackFile(inside[-200:], part.name, part.path, part.reason)
    except FileError as error:
        yield packed.PackFile(file.folder, file.name, None, error.reason)


def _read_file(
    pack: Pack,
    file: PackFile,
    catalogue: Known,
    earlier: Earlier,
    cameras: list[Encoding],
    progress: Progress,
    done: int,
) -> int:
    """Reads one file as it was sent, which may hold many; gives how many files were read so far."""
    waiting: deque[Future[_Read]] = deque()

    def settle() -> None:
        nonlocal done
        found = waiting.popleft().result()
        _keep_read(pack, file, found, catalogue, earlier)
        done += 1
        progress.at(done, found.file.name)

    with (
        on_disk(file.file) as path,
        tempfile.TemporaryDirectory() as folder,
        ThreadPoolExecutor(AT_ONCE, "pack") as pool,
    ):
        try:
            for part in _parts(file, path, Path(folder)):
                text = packed.licence(part)
                if text is not None:
                    Pack.objects.filter(pk=pack.pk, licence="").update(
                        licence=text, licence_file=part.name[:200]
                    )
                    done += 1
                    continue
                waiting.append(pool.submit(_read_part, part, pack.frame, cameras))
                # What is read is shown at once, while the rest is still being unpacked.
                while waiting and (len(waiting) >= AHEAD or waiting[0].done()):
                    settle()
            while waiting:
                settle()
        finally:
            for future in waiting:
                future.cancel()
    PackFile.objects.filter(pk=file.pk).update(read=True)
    return done


def _read_part(part: packed.PackFile, frame: Frame | None, cameras: list[Encoding]) -> _Read:
    """Reads one file: the long work, done on several threads. Its bytes leave the disk."""
    try:
        if part.path is None:
            return _Read(part, b"", [], part.reason)
        if not holds(part.name):
            return _Read(part, b"", [], "is not a kind of file that holds a look")
        brought = incoming.read(part.path, part.name, cameras)
        items = []
        for place, one in enumerate(brought):
            with with_encodings(one.encodings):
                items.append((one, _measured(one, place, frame)))
        return _Read(part, part.path.read_bytes(), items)
    except FileError as error:
        return _Read(
            part, b"", [], f"line {error.line}: {error.reason}" if error.line is not None else error.reason
        )
    except CoreError as error:
        return _Read(part, b"", [], str(error))
    finally:
        if part.path is not None:
            part.path.unlink(missing_ok=True)
        connections.close_all()


def _measured(one: Incoming, place: int, frame: Frame | None) -> PackItem:
    look = one.look
    item = PackItem(
        place=place,
        kind=one.kind,
        form=one.form[:60],
        name=one.name,
        expects=look.input,
        gives=look.output,
        guess=ItemGuess.of(one.guess) if one.guess else None,
        findings=list(one.findings),
        serious=one.serious,
        table=one.table.digest() if one.table else "",
    )
    try:
        _measure(item, look, one)
        pictures.saucer(look, SAUCER, one.tables)
        if frame is not None:
            pictures.still(look, look.digest(), frame, STILL, tables=one.tables)
    except LookError as error:
        item.findings, item.serious = [str(error), *item.findings], True
    return item


def _measure(item: PackItem, look: LookValue, one: Incoming) -> None:
    """What the look does, in words, and to the fixed colours. Raises ``LookError``."""
    item.words = traits(look, tables=one.tables).words()
    colours = behaviour(look, tables=one.tables)
    item.far = apart(colours, behaviour(None))[0]
    item.colours = colours.astype("<f4").tobytes()


def _keep_read(pack: Pack, source: PackFile, found: _Read, catalogue: Known, earlier: Earlier) -> None:
    """Writes down what a file brings: all of it or nothing."""
    common = {"pack": pack, "source": source, "folder": found.file.folder, "file_name": found.file.name}
    if found.reason or not found.brought:
        PackItem.objects.create(
            **common, name=found.file.name[:120], reason=found.reason[:400] or "holds no look", chosen=False
        )
        return
    suffix = "".join(Path(found.file.name).suffixes[-2:]).lower()[-20:]
    file = storage.put(f"packs/{pack.pk}/{hashlib.sha256(found.data).hexdigest()}{suffix}", found.data)
    with transaction.atomic():
        for _, item in found.brought:
            for name, value in common.items():
                setattr(item, name, value)
            item.file = file
            item.twin = _twin(item, catalogue, earlier)
            item.chosen = item.twin is None
            item.save()
            if item.twin is None and item.kind != "preset":
                earlier.add(item)


def _twin(item: PackItem, catalogue: Known, earlier: Earlier) -> Twin | None:
    """The look of the catalogue, or an earlier one of the pack, that an eye cannot tell this one from."""
    colours = colours_of(item)
    if item.kind == "preset" or colours is None:
        return None
    for look_id, name, far in catalogue.nearest(colours, 3):
        if (
            far <= TWIN_MEAN
            and apart(colours, catalogue.colours[catalogue.ids.index(look_id)])[1] <= TWIN_LARGEST
        ):
            return Twin(look=look_id, name=name, apart=far, same=False)
    lut = here(item.table) if item.table else None
    if lut is not None and (lut.expects, lut.gives) == (item.expects, item.gives):
        return Twin(lut=lut.pk, name=lut.name, apart=0.0, same=True)
    return earlier.twin_of(item, colours)


def _name_collections(pack: Pack) -> None:
    """Proposes a collection for every folder that has none yet."""
    folders = set(pack.items.exclude(folder="").values_list("folder", flat=True))
    with transaction.atomic():
        row = Pack.objects.select_for_update().get(pk=pack.pk)
        row.collections = {**{f: collection_for(f) for f in folders}, **row.collections}
        row.save(update_fields=["collections"])


def incoming_of(item: PackItem) -> Incoming:
    """What an item's file brings, with the encodings and the name that were chosen. Raises ``FileError``."""
    one = _brought(item.file, item.file_name, item.place)
    return one.renamed(item.name).read_as(item.expects, item.gives)


@TABLES.remembers
def _brought(file: str, file_name: str, place: int) -> Incoming:
    with on_disk(file) as path:
        return incoming.read(path, file_name, judged=False)[place]


def drawn(item: PackItem) -> tuple[LookValue, Tables, tuple[CameraEncoding, ...]]:
    """An item's look with its tables and encodings, to draw it. The file is read only where something was not
    drawn yet."""
    if item.kind in ("table", "carrier"):
        return (
            wearing(item.table, item.name, item.expects, item.gives),
            lambda digest: incoming_of(item).tables(digest),
            (),
        )
    one = incoming_of(item)
    return one.look, one.tables, one.encodings


def measure_again(items: list[PackItem]) -> None:
    """Measures items anew after their encodings were corrected: a person is sure."""
    if not items:
        return
    catalogue, earlier = known(), Earlier(items[0].pack_id)
    for item in items:
        one = incoming_of(item)
        with with_encodings(one.encodings):
            _measure(item, one.look, one)
        if item.guess is not None:
            item.guess = item.guess.chosen(item.far)
        item.twin = _twin(item, catalogue, earlier)
