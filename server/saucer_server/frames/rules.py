"""Taking frames in, and their pixels as the rest of Saucer needs them."""

from collections.abc import Iterator
from contextlib import AbstractContextManager, contextmanager
from pathlib import Path
from typing import Any

from django.core.files.uploadedfile import UploadedFile
from django.db import transaction
from django.db.models import Model, Q, QuerySet
from saucer_core.arrays import F32
from saucer_core.baking.bake import table_places
from saucer_core.encodings import encoding
from saucer_core.formats import pictures
from saucer_core.look import Look
from saucer_core.screen import SCREEN, for_screen
from saucer_core.treatment import Treatment
from saucer_core.trim import Trim

from .. import storage
from ..caches import DRAWING, DRAWN_BYTES, PICTURES, READING
from ..errors import RuleError, missing
from ..fields import take
from ..framing import half_floats, jpeg
from ..front_store import forget
from ..lookup import by_id
from ..people.circles import hidden
from ..people.quotas import Holding, must_fit
from ..people.quotas import register as count
from ..people.rules import Person, is_own, must
from ..removals import rules as removals
from ..removals.kinds import Kind, register
from .looking import COUNTED, SAID, look_through
from .models import Frame
from .payloads import FramePatch, FramesPatch
from .values import SETS, Known

__all__ = [
    "BIN",
    "COUNTED",
    "NOT_YOURS",
    "REMEMBERED_WIDTH",
    "SAID",
    "Frame",
    "add",
    "address",
    "change",
    "codes",
    "every",
    "find",
    "is_ones_own",
    "jpeg",
    "let_go",
    "opened",
    "original",
    "pixels",
    "put_into_sets",
    "read_anew",
    "read_as",
    "remove",
    "remove_many",
    "replace_file",
    "seen_by",
    "small",
    "standing_for",
    "table_picture",
    "take_in",
    "twin_of",
    "version_of",
]


#: Pictures that a person may have dropped in for now.
PASSING = 3
#: Pixels that a frame in the bin is wide.
BIN_WIDTH = 320


#: Why somebody may not change a frame, in words.
NOT_YOURS = (
    "A frame is changed by who brought it, by the members of a project that has it, or by a lead. "
    "Trim your shot instead."
)


def find(frame_id: int) -> Frame:
    """The frame; raises 404."""
    return by_id(Frame.objects.all(), frame_id, "frame")


def seen_by(person: Person, frame_id: int) -> Frame:
    """The frame, if that person may see it; raises 404. One that was dropped in for now is its bringer's
    alone until a shot has it."""
    frame = find(frame_id)
    if frame.passing and frame.added_by_id != person.pk and not frame.shots.exists():
        raise missing("frame")
    return frame


def add(
    path: Path,
    file_name: str,
    *,
    name: str,
    light: str,
    encoding_key: str,
    person: Person,
    trim: Trim | None = None,
    passing: bool = False,
    of_shot: bool = False,
    clip: int | None = None,
    number: int = 0,
) -> Frame:
    """Takes a picture in, for good, in passing, or for a shot alone. Raises ``FileError`` (nothing is kept
    then).

    encoding_key: empty for what the file declares, or else what is usual for its kind. clip, number: which
    frame of a clip it is, where it stands for the clip.
    """
    known = look_through(path, file_name, encoding_key).known
    return take_in(
        known,
        name=name,
        light=light,
        person=person,
        trim=trim or Trim(),
        passing=passing,
        of_shot=of_shot,
        clip_id=clip,
        number=number,
    )


def take_in(known: Known, *, name: str, light: str, person: Person, **how: Any) -> Frame:
    """Makes a frame of a file that was looked through. how: further columns of the frame."""
    said = known.model_dump(exclude={"part_by", "part", "parts", "raw"})
    return Frame.objects.create(
        **{"part": known.part, "raw": known.raw, **said, **how},
        name=name.strip()[:120] or Path(known.file_name).stem[:120],
        light=light.strip()[:40],
        added_by=person,
    )


def twin_of(came: str) -> Frame | None:
    """A frame of the same file, byte for byte, that everybody sees."""
    return every().filter(came=came).first()


def read_as(frame: Frame, encoding_key: str) -> Frame:
    """The same picture taken to be encoded in another way, for a shot alone."""
    encoding(encoding_key)
    if frame.encoding == encoding_key:
        return frame
    fields = {
        f.attname: getattr(frame, f.attname)
        for f in Frame._meta.concrete_fields
        if f.attname not in ("id", "added_at")
    }
    return Frame.objects.create(
        **{
            **fields,
            "encoding": encoding_key,
            "encoding_by": SAID,
            "of_shot": True,
            "passing": False,
            "doubt": "",
        }
    )


def let_go(frame: Frame) -> None:
    """Removes a frame that was made for a shot alone, once no shot has it."""
    Frame.objects.filter(pk=frame.pk, of_shot=True, shots__isnull=True).delete()


def take_upload(
    upload: "UploadedFile[Any]",
    *,
    name: str,
    light: str,
    encoding_key: str,
    person: Person,
    passing: bool = False,
    of_shot: bool = False,
) -> Frame:
    """Takes an uploaded picture in; raises ``FileError``, and 507 where the person holds too much."""
    must_fit(person, upload.size or 0)
    with storage.uploaded(upload, pictures.SIZE_LIMIT, "a picture") as (path, file_name):
        frame = add(
            path,
            file_name,
            name=name,
            light=light,
            encoding_key=encoding_key,
            person=person,
            passing=passing,
            of_shot=of_shot,
        )
    if passing:
        earlier = Frame.objects.filter(passing=True, added_by=person, shots__isnull=True).order_by("-pk")
        Frame.objects.filter(pk__in=list(earlier.values_list("pk", flat=True)[PASSING:])).delete()
    return frame


def remove(frame: Frame, person: Person) -> None:
    """Puts a frame that nothing uses into the bin; one that was dropped in for now is gone at once."""
    must(
        person,
        "started.end",
        is_own(person, frame.added_by_id),
        "Only who brought this frame, or a lead, can remove it.",
    )
    frame_id = frame.pk
    with transaction.atomic():
        removals.put(BIN, frame, person, _in_use)
        if frame.passing:
            frame.delete()
        transaction.on_commit(lambda: forget(frames=[frame_id]))


def _in_use(users: list[Model]) -> str:
    return f"This frame is {', '.join(sorted({_used_by(x) for x in users}))}. Take it out there first."


def _used_by(user: Any) -> str:
    """What has a frame in use, in words; what is kept from whoever asks has no name."""
    return "in use in a private project" if getattr(user, "circle_id", None) in hidden() else str(user)


def every_row() -> QuerySet[Frame]:
    """All frames, those of shots and those that are here for now included."""
    return Frame.objects.all()


def every(person: Person | None = None) -> QuerySet[Frame]:
    """All frames, and with them those that a person dropped in for now."""
    rows = Frame.objects.filter(of_shot=False).select_related("added_by", "clip")
    return rows.filter(Q(passing=False) | Q(added_by=person)) if person else rows.filter(passing=False)


def is_ones_own(person: Person, frame: Frame) -> bool:
    """Whether a frame is a person's to change: they brought it, or it is in a project of theirs."""
    return is_own(person, frame.added_by_id) or frame.shots.filter(project__members=person).exists()


def change(frame_id: int, person: Person, patch: FramePatch) -> Frame:
    """Renames a frame, says its light, trims it, moves the part that is shown, or says its sets."""
    with transaction.atomic():
        frame = _ones_own(frame_id, person)
        frame.save(update_fields=take(frame, patch, "name", "light", "trim", "passing", "part", "sets"))
    return frame


def _ones_own(frame_id: int, person: Person) -> Frame:
    """A frame that the person may change, held until the transaction ends; raises 404, 403."""
    frame = by_id(Frame.objects.select_for_update(), frame_id, "frame")
    must(person, "started.end", lambda: is_ones_own(person, frame), NOT_YOURS)
    return frame


def put_into_sets(patch: FramesPatch, person: Person) -> list[Frame]:
    """Puts frames into a set, or takes them out of one: all of them or none. Raises 404, 403, and 422 where
    one is in too many."""
    with transaction.atomic():
        rows = [_ones_own(key, person) for key in sorted(set(patch.ids))]
        for frame in rows:
            sets = {*frame.sets, *([patch.into] if patch.into else [])} - {patch.out_of}
            if len(sets) > SETS:
                raise RuleError(422, f"{frame.name} is in {SETS} sets, the most. Take it out of one first.")
            frame.sets = sorted(name for name in sets if name is not None)
            frame.save(update_fields=["sets"])
    return rows


def remove_many(ids: list[int], person: Person) -> dict[int, str]:
    """Removes frames; gives why some are still there, by their key."""
    kept: dict[int, str] = {}
    for key in dict.fromkeys(ids):
        try:
            remove(seen_by(person, key), person)
        except RuleError as error:
            kept[key] = str(error)
    return kept


def replace_file(frame_id: int, upload: "UploadedFile[Any]", person: Person) -> Frame:
    """Gives a frame a better file; its name, light, trim and sets stay, and so do looks and notes that refer
    to it. Raises ``FileError``; the frame stays as it was then."""
    frame = find(frame_id)
    must(person, "started.end", lambda: is_ones_own(person, frame), NOT_YOURS)
    if frame.clip_id is not None:
        raise RuleError(409, f"{frame.name} stands for a clip: its pictures are those of the clip.")
    must_fit(person, upload.size or 0)
    with storage.uploaded(upload, pictures.SIZE_LIMIT, "a picture") as (path, file_name):
        known = look_through(path, file_name).known
    return read_anew(frame_id, person, known, frame.original)


def read_anew(frame_id: int, person: Person, known: Known, came: str) -> Frame:
    """Gives a frame another picture; what is said of it stays.

    came: the file that the frame had come as when its new picture was made. Raises 409 where that has changed
    since.
    """
    with transaction.atomic():
        row = _ones_own(frame_id, person)
        if row.original != came:
            raise RuleError(409, f"Somebody gave {row.name} another file meanwhile. Look at it once more.")
        said = known.model_dump(exclude={"part_by", "part", "parts", "raw"})
        # The part that somebody has chosen stays where it is the same file.
        part = row.part if known.came == row.came else known.part
        for name, value in {**said, "part": part, "raw": known.raw}.items():
            setattr(row, name, value)
        row.save(update_fields=[*said, "part", "raw"])
        transaction.on_commit(lambda: forget(frames=[frame_id]))
    return row


def standing_for(clip: int) -> QuerySet[Frame]:
    """The frames that stand for a clip."""
    return Frame.objects.filter(clip_id=clip, of_shot=False)


def opened(frame: Frame) -> AbstractContextManager[pictures.Source]:
    """The frame's own file, to be read band by band."""
    return _opened(frame.file, frame.file_name)


@contextmanager
def _opened(file: str, file_name: str) -> Iterator[pictures.Source]:
    # What was developed from another file is of another kind than that.
    developed = Path(file).suffix != Path(file_name).suffix.lower()
    name = Path(file).name if developed else file_name
    with storage.on_disk(file) as path, pictures.opened(path, name) as source:
        yield source


def _read(file: str, file_name: str, width: int) -> F32:
    with _opened(file, file_name) as source, READING.take(source.bytes_at(width)):
        return source.picture_for(width).rgb


_decoded = PICTURES.remembers(_read)

#: Up to this width a scaled picture is remembered; a wider one would push too many others out. No picture is
#: read smaller than that.
REMEMBERED_WIDTH = 2048


def _fitted(file: str, file_name: str, width: int) -> F32:
    fit = _scaled if width <= REMEMBERED_WIDTH else _scale
    return fit(file, file_name, width)


def _scale(file: str, file_name: str, width: int) -> F32:
    read = _decoded if width <= REMEMBERED_WIDTH else _read
    return pictures.fit(read(file, file_name, max(width, REMEMBERED_WIDTH)), width, 100 * width)


_scaled = PICTURES.remembers(_scale)


def original(frame: Frame, width: int) -> F32:
    """The frame's pixels in its own encoding, at most ``width`` wide. Shared: do not change it."""
    return codes(frame.file, frame.file_name, width)


def small(file: str, file_name: str) -> F32:
    """A picture that is kept, as its codes lie in it, at most ``COUNTED`` a side."""
    with _opened(file, file_name) as source, READING.take(source.bytes_at(COUNTED)):
        return source.within(COUNTED)


def codes(file: str, file_name: str, width: int) -> F32:
    """Pixels of a file that is kept, as they lie in it, at most ``width`` wide. Shared: do not change it."""
    return _fitted(file, file_name, width)


@PICTURES.remembers
def _trimmed(file: str, file_name: str, source: str, trim_json: bytes, target: str, width: int) -> F32:
    # A look that does nothing brings the trimmed picture to its input.
    there = Treatment(Look(input=target, output=target), source, Trim.model_validate_json(trim_json))
    return there.compile()(_fitted(file, file_name, width))


def pixels(frame: Frame, target: str, width: int, trim: Trim | None = None) -> F32:
    """The trimmed frame in the encoding ``target``, float32 ``(height, width, 3)``; shared, do not change it.

    trim replaces the frame's own.
    """
    chosen = trim if trim is not None else frame.trim
    return _trimmed(
        frame.file, frame.file_name, frame.encoding, chosen.model_dump_json().encode(), target, width
    )


def address(frame: Frame, *parts: object) -> str:
    """A name for what is made from a frame as it is now and ``parts``."""
    return storage.digest_of([frame.digest, frame.encoding, frame.trim.model_dump(), *map(str, parts)])


def version_of(frame: Frame) -> str:
    """A mark that changes with the frame's pictures."""
    return address(frame)[:12]


def drawing(frame: Frame, width: int) -> AbstractContextManager[None]:
    """Holds the bytes that drawing the frame at most ``width`` wide takes."""
    wide = min(width, frame.width)
    return DRAWING.take(wide * max(1, round(frame.height * wide / max(frame.width, 1))) * DRAWN_BYTES)


def table_picture(frame: Frame, look_input: str, width: int, trimmed: bool) -> bytes:
    """The frame as places in a look's table, for the viewer; laid out like ``framing.half_floats``."""
    trim = None if trimmed else Trim()

    def make() -> bytes:
        with drawing(frame, width):
            return half_floats(table_places(encoding(look_input), pixels(frame, look_input, width, trim)))

    return storage.kept(f"derived/places/{address(frame, look_input, width, trimmed)}", make)


def still(frame: Frame, width: int, trimmed: bool) -> bytes:
    """The frame without a look, as a JPEG for the screen."""
    trim = None if trimmed else Trim()

    def make() -> bytes:
        with drawing(frame, width):
            return jpeg(for_screen(pixels(frame, frame.encoding, width, trim), frame.encoding))

    return storage.kept(f"derived/stills/{address(frame, SCREEN, width, trimmed)}.jpg", make)


BIN = register(
    Kind(
        "frame",
        "frame",
        Frame.objects,
        "added_by",
        size=lambda frame: int(frame.bytes),
        still=lambda frame: still(frame, BIN_WIDTH, True),
    )
)
count(Holding("frame", "frames", lambda: Frame.objects.ever().filter(of_shot=False), "added_by", "bytes"))
