"""Taking clips in, looking them through, and their frames."""

import hashlib
import json
import tempfile
from collections.abc import Callable
from contextlib import AbstractContextManager
from dataclasses import asdict, replace
from pathlib import Path
from typing import Any

from django.core.files import File
from django.core.files.storage import default_storage
from django.core.files.uploadedfile import UploadedFile
from django.db import transaction
from django.db.models import QuerySet
from saucer_core.arrays import F32
from saucer_core.encodings import encoding
from saucer_core.errors import FileError
from saucer_core.formats import clips, pictures, sequences, zips
from saucer_core.formats.clips import Begun, ClipFacts, Found
from saucer_core.screen import for_screen

from .. import storage
from ..caches import DECODED_BYTES, DRAWING
from ..errors import RuleError
from ..frames.rules import Frame, standing_for
from ..frames.rules import add as add_frame
from ..framing import jpeg
from ..jobs import rules as jobs
from ..jobs.rules import Progress, running
from ..lookup import by_id
from ..people.circles import Circle
from ..people.quotas import Holding, must_fit
from ..people.quotas import register as count
from ..people.rules import Person, is_own, must
from ..removals import rules as removals
from ..removals.kinds import Kind, register
from . import sequencing
from .models import Clip

__all__ = [
    "BIN",
    "LOOKED_THROUGH",
    "SUFFIXES",
    "Clip",
    "at",
    "change",
    "every",
    "facts_of",
    "find",
    "found",
    "look_through",
    "on_disk",
    "posters",
    "remove",
    "still",
    "take_upload",
    "whole",
]

UNSAID = "bt709_display"
#: What is told of each clip that was looked through, by its id; other apps add to it.
LOOKED_THROUGH: list[Callable[[int], None]] = []
#: Endings of the files that clips come in: a ZIP holds a numbered sequence of pictures.
SUFFIXES = (*clips.SUFFIXES, sequences.SUFFIX)
BIN = register(Kind("clip", "clip", Clip.objects, "added_by", size=lambda clip: int(clip.bytes)))
count(Holding("clip", "clips", Clip.objects.ever, "added_by", "bytes"))


def every() -> QuerySet[Clip]:
    """All clips, the newest first."""
    return Clip.objects.select_related("added_by", "job", "proxy_job")


def find(clip_id: int) -> Clip:
    """The clip; raises 404."""
    return by_id(every(), clip_id, "clip")


def whole(clip_id: int) -> Clip:
    """A clip that was looked through; raises 404 and 409."""
    clip = find(clip_id)
    facts_of(clip)
    return clip


def facts_of(clip: Clip) -> ClipFacts:
    """What a clip is; raises 409 until it was looked through."""
    if clip.facts is None:
        raise RuleError(409, f"{clip.name} is being looked through. Wait until that is done.")
    return clip.facts


def take_upload(
    upload: "UploadedFile[Any]",
    person: Person,
    encoding_key: str = "",
    circle: Circle | None = None,
    *,
    name: str = "",
    light: str = "",
    among_frames: bool = False,
    rate: str = "",
) -> Clip:
    """Keeps a clip, for a circle alone where one is named, and asks a worker to look it through. Raises
    ``FileError``.

    rate: frames a second of a numbered sequence, one of ``sequences.RATES``; empty for the usual one.
    """
    from .tasks import look

    must_fit(person, upload.size or 0)
    if encoding_key:
        encoding(encoding_key)
    with storage.uploaded(upload, clips.SIZE_LIMIT, "a clip") as (path, file_name):
        if path.suffix not in SUFFIXES:
            raise FileError(
                file_name, f"is not a clip that Saucer reads ({', '.join(s[1:] for s in SUFFIXES)})"
            )
        if path.suffix == sequences.SUFFIX:
            # What is no sequence is told at once; its pictures are read by a worker.
            with zips.opened(path, file_name, clips.SIZE_LIMIT, "a sequence") as packed:
                sequences.numbered(packed, file_name)
        with path.open("rb") as f:
            digest = hashlib.file_digest(f, "sha256").hexdigest()
        kept = f"clips/{digest[:2]}/{digest}{path.suffix}"
        if not default_storage.exists(kept):
            with path.open("rb") as f:
                kept = default_storage.save(kept, File(f))
        size = path.stat().st_size
    with transaction.atomic():
        job = jobs.order("clip", f"Looking {file_name} through", person)
        clip = Clip.objects.create(
            name=name.strip() or Path(file_name).stem[:120],
            light=light.strip(),
            digest=digest,
            file=kept,
            file_name=file_name[:200],
            bytes=size,
            encoding=encoding_key,
            rate=rate,
            job=job,
            added_by=person,
            circle=circle,
            among_frames=among_frames,
        )
        jobs.enqueue(job, look, clip_id=clip.pk)
    return clip


def on_disk(clip: Clip) -> AbstractContextManager[Path]:
    """The clip as a file of this machine."""
    return storage.on_disk(clip.file)


def look_through(clip_id: int) -> None:
    """Finds out what a clip is and where its shots begin. Run by a worker; may run again after a worker
    died."""
    clip = Clip.objects.select_related("job").get(pk=clip_id)
    if clip.facts is not None:
        return

    def undo() -> None:
        Clip.objects.filter(pk=clip.pk).update(facts=None, cuts=[], stamps="")

    with running(clip.job_id, undo) as progress:
        made = sequencing.make(clip, progress) if sequencing.is_sequence(clip) else None
        if made is not None:
            # The row is changed with what is found of it: a worker that dies leaves the sequence to another.
            clip.file, clip.digest, clip.bytes = made.file, made.digest, made.bytes
            clip.encoding = made.taken.encoding
        _look(clip, progress, made)


def _look(clip: Clip, progress: Progress, made: sequencing.Made | None) -> None:
    with on_disk(clip) as path:
        totals = {0}

        def tell(done: int, total: int) -> None:
            if total not in totals:
                totals.add(total)
                progress.total(total)
            progress.at(done, f"frame {done}")

        def keep(begun: Begun) -> None:
            before, name = (
                clip.stamps,
                f"clips/{clip.digest[:2]}/{clip.digest}.begun-{len(begun.stamps)}.json",
            )
            clip.stamps = storage.put(name, json.dumps(asdict(begun)).encode())
            clip.save(update_fields=["stamps"])
            if before and before != clip.stamps:
                default_storage.delete(before)

        seen = clips.look_through(path, clip.file_name, tell, begun=_begun(clip), keep=keep)
        kept = storage.put(
            f"clips/{clip.digest[:2]}/{clip.digest}.stamps.json", json.dumps(seen.stamps).encode()
        )
        # A clip that was made here says nothing of its colours: the pictures did.
        facts = replace(seen.facts, doubts=made.taken.doubts) if made is not None else seen.facts
        begun = clip.stamps
        Clip.objects.filter(pk=clip.pk).update(
            facts=facts,
            cuts=list(seen.cuts),
            stamps=kept,
            encoding=clip.encoding or facts.encoding or UNSAID,
            file=clip.file,
            digest=clip.digest,
            bytes=clip.bytes,
        )
        if begun:
            default_storage.delete(begun)


def _begun(clip: Clip) -> Begun | None:
    """How far a worker came that died."""
    if not clip.stamps:
        return None
    try:
        said = json.loads(storage.get(clip.stamps))
        return Begun(tuple(said["changes"]), tuple(said["stamps"]))
    except (FileNotFoundError, ValueError, KeyError):
        return None


def found(clip: Clip) -> Found:
    """What looking it through has found, and whether its fields are to be made whole frames."""
    facts = replace(facts_of(clip), deinterlaced=clip.deinterlaced)
    return Found(facts, tuple(clip.cuts), tuple(json.loads(storage.get(clip.stamps))))


def change(
    clip_id: int,
    person: Person,
    *,
    cuts: list[int] | None = None,
    encoding_key: str = "",
    name: str = "",
    deinterlaced: bool | None = None,
) -> Clip:
    """Renames a clip, says how it is encoded and whether it is deinterlaced, or corrects where it is cut.

    Raises 422 for a cut that lies outside, and for a clip whose frames have no fields. What was made of it by
    its fields, its proxy and its samples, is let go.
    """
    if encoding_key:
        encoding(encoding_key)
    with transaction.atomic():
        clip = by_id(Clip.objects.select_for_update(), clip_id, "clip")
        must(
            person,
            "started.end",
            lambda: is_own(person, clip.added_by_id) or clip.shots.filter(project__members=person).exists(),
            "A clip is changed by who brought it, by the members of a project that has it, or by a lead.",
        )
        if cuts is not None:
            frames = clip.facts.frames if clip.facts else 0
            wanted = sorted({0, *cuts})
            if any(not 0 <= cut < frames for cut in wanted):
                raise RuleError(422, f"{clip.name} has frames 0 to {frames - 1}; a cut must lie there.")
            clip.cuts = wanted
        if deinterlaced is not None and deinterlaced != clip.deinterlaced:
            if deinterlaced and not (clip.facts and clip.facts.interlaced):
                raise RuleError(422, f"{clip.name} is not interlaced: its frames are whole already.")
            clip.deinterlaced = deinterlaced
            clip.proxy = clip.proxy_index = clip.samples = ""
        clip.encoding = encoding_key or clip.encoding
        clip.name = name.strip() or clip.name
        clip.save(
            update_fields=[
                *("cuts", "encoding", "name"),
                *("deinterlaced", "proxy", "proxy_index", "samples"),
            ]
        )
        standing_for(clip.pk).update(encoding=clip.encoding)
    return clip


def remove(clip: Clip, person: Person) -> None:
    """Puts a clip that no shot is cut from into the bin."""
    must(
        person,
        "started.end",
        is_own(person, clip.added_by_id),
        "Only who brought this clip, or a lead, can remove it.",
    )
    removals.put(
        BIN,
        clip,
        person,
        lambda users: f"Shots are cut from {clip.name}. Take them out of their projects first.",
    )


def at(clip: Clip, number: int, width: int | None = None) -> F32:
    """A frame of the clip; reduced by a whole number where it is needed less wide."""
    facts = facts_of(clip)
    with on_disk(clip) as path, DRAWING.take(facts.width * facts.height * DECODED_BYTES):
        seen = found(clip)
        whole_frames = seen.facts.deinterlaced
        return clips.frames_at(path, [number], seen.stamps, clip.file_name, width, deinterlaced=whole_frames)[
            number
        ]


def still(clip: Clip, number: int, width: int) -> bytes:
    """A frame of the clip, JPEG for the screen; kept. Raises 404 for one it does not have."""
    if not 0 <= number < facts_of(clip).frames:
        raise RuleError(404, f"{clip.name} has no frame {number}.")
    name = storage.result("clips", [clip.pixels, clip.encoding, number, width], ".jpg")
    return storage.kept(
        name,
        lambda: jpeg(for_screen(pictures.fit(at(clip, number, width), width, 100 * width), clip.encoding)),
    )


def posters(
    clip: Clip,
    numbers: list[int],
    names: list[str],
    person: Person,
    *,
    among_frames: bool = False,
    standing: bool = False,
) -> list[Frame]:
    """Frames of the clip as pictures, 16 bit, in the clip's own encoding: for shots, which play, or among the
    frames: as stills, or standing for the clip."""
    made: list[Frame] = []
    with tempfile.TemporaryDirectory() as folder:
        for number, name in zip(numbers, names, strict=True):
            path = Path(folder) / f"{number}.png"
            pictures.write(path, at(clip, number), "uint16")
            made.append(
                add_frame(
                    path,
                    f"{Path(clip.file_name).stem}_{number:06d}.png",
                    name=name,
                    light="",
                    encoding_key=clip.encoding,
                    person=person,
                    of_shot=not (among_frames or standing),
                    clip=None if among_frames else clip.pk,
                    number=number,
                )
            )
            path.unlink()
    return made
