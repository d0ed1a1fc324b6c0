"""Moments: single frames of a clip, as frames that everything works on.

A moment has the trim and the encoding of the frame that stands for the clip, and the pixels of one of the
clip's frames: those of its proxy, which a player shows, or the clip's own as long as there is no proxy.
"""

import tempfile
from copy import copy
from pathlib import Path

from django.core.files.storage import default_storage
from django.db import transaction
from saucer_core.arrays import F32
from saucer_core.formats import clips as reading
from saucer_core.formats import pictures

from .. import storage
from ..errors import RuleError
from ..frames import rules as frames
from ..frames.rules import Frame
from ..people.quotas import must_fit
from ..people.rules import Person
from . import proxying
from .models import Clip
from .rules import at, facts_of, posters, whole

__all__ = ["hold", "moment", "stand", "stand_if_wanted"]

#: Bytes of a pixel in a picture that is kept, at most.
KEPT_BYTES = 6
#: Characters of a doubt that a frame can hold.
DOUBT = 300


def stand(clip: Clip, person: Person) -> Frame:
    """The frame that stands for a clip among the frames; made where there is none. It shows the middle of the
    clip. Raises 409 until the clip was looked through."""
    clip = whole(clip.pk)
    there = frames.standing_for(clip.pk).first()
    if there is not None:
        return there
    middle = facts_of(clip).frames // 2
    with transaction.atomic():
        made = posters(clip, [middle], [clip.name], person, standing=True)[0]
        made.circle, made.light, made.doubt = clip.circle, clip.light, _doubts(clip)
        made.save(update_fields=["circle", "light", "doubt"])
    return made


def _doubts(clip: Clip) -> str:
    """What is doubtful of a clip, in a sentence."""
    said = "; ".join(facts_of(clip).doubts)
    return f"It {said}."[:DOUBT] if said else ""


def stand_if_wanted(clip_id: int) -> None:
    """Makes the frame that stands for a clip, where whoever brought the clip wanted one."""
    clip = Clip.objects.select_related("added_by").filter(pk=clip_id, among_frames=True).first()
    if clip is not None and clip.facts is not None:
        stand(clip, clip.added_by)


def hold(frame: Frame, number: int, person: Person) -> Frame:
    """A moment kept as a still among the frames, with the trim of the frame it is of. Raises 404."""
    clip = _clip_of(frame, number)
    facts = facts_of(clip)
    must_fit(person, facts.width * facts.height * KEPT_BYTES)
    name = f"{frame.name[:100]}, frame {number}"
    with transaction.atomic():
        held = posters(clip, [number], [name], person, among_frames=True)[0]
        held.trim, held.light, held.circle = frame.trim, frame.light, clip.circle
        held.save(update_fields=["trim", "light", "circle"])
    return held


def moment(frame: Frame, number: int) -> Frame:
    """A frame of the clip that ``frame`` stands for, which is not kept as a row. Raises 404 where there is no
    such one."""
    clip = _clip_of(frame, number)
    name = storage.result("moments", [clip.pixels, clip.proxy, number], ".tif")
    storage.kept(name, lambda: _written(clip, number))
    if not default_storage.exists(name):
        raise RuleError(507, f"There is no room to keep frame {number} of {clip.name} while it is looked at.")
    shown = copy(frame)
    shown.file, shown.file_name = name, f"{Path(clip.file_name).stem}_{number:06d}.tif"
    shown.digest, shown.number = storage.digest_of([clip.pixels, clip.proxy, number]), number
    return shown


def _clip_of(frame: Frame, number: int) -> Clip:
    if frame.clip_id is None:
        raise RuleError(404, f"{frame.name} is a still and has no frame {number}.")
    clip = whole(frame.clip_id)
    if not 0 <= number < facts_of(clip).frames:
        raise RuleError(404, f"{clip.name} has no frame {number}.")
    return clip


def _written(clip: Clip, number: int) -> bytes:
    """The frame as TIFF in floats: codes above white stay."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "moment.tif"
        pictures.write(path, _pixels(clip, number), "float")
        return path.read_bytes()


def _pixels(clip: Clip, number: int) -> F32:
    if not clip.proxy:
        return at(clip, number, None)
    shown = proxying.index_of(clip.pk).shown
    with storage.on_disk(clip.proxy) as path:
        return reading.frames_at(path, [number], shown[:-1], clip.file_name)[number]
