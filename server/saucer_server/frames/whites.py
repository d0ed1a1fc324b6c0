"""White balances of camera raw: told by a place that is to be grey, and a frame developed once more."""

import numpy as np
from saucer_core.arrays import F32
from saucer_core.formats.developing.raw import white_by_grey
from saucer_core.formats.developing.result import Balance, Wish

from .. import storage
from ..errors import RuleError
from ..people.rules import Person, must
from . import rules
from .looking import look_through
from .models import Frame
from .values import RawSaid, ShownPart, WhiteSaid

#: Width of the picture in which the place is looked up, and pixels around it whose mean is taken.
WIDTH, AROUND = 960, 3


def white_at(rgb: F32, place: ShownPart, came: str, file_name: str, raw: RawSaid) -> WhiteSaid:
    """The white balance under which a place of a picture is grey.

    rgb: the picture as it is developed now, of ``WIDTH``. came: the file as it came. Raises 422 for a place
    without light.
    """
    high, wide = rgb.shape[:2]
    x, y = min(int(place.x * wide), wide - 1), min(int(place.y * high), high - 1)
    around = rgb[max(y - AROUND, 0) : y + AROUND + 1, max(x - AROUND, 0) : x + AROUND + 1]
    mean = np.asarray(around, np.float64).reshape(-1, 3).mean(axis=0)
    if not mean.max() > 0:
        raise RuleError(422, "There is no light at that place. Choose a brighter grey.")
    used = Balance(raw.used.kelvin, raw.used.tint)
    with storage.on_disk(came) as path:
        found = white_by_grey(path, file_name, mean, used)
    return WhiteSaid(kelvin=found.kelvin, tint=found.tint)


def _raw_of(frame: Frame, person: Person) -> RawSaid:
    """What is known of a frame as a camera raw; raises 403 for who may not change it, and 409 for a frame
    that is none."""
    must(person, "started.end", lambda: rules.is_ones_own(person, frame), rules.NOT_YOURS)
    if frame.raw is None or not frame.original or frame.clip_id is not None:
        raise RuleError(409, f"{frame.name} is no camera raw: it has no white balance to change.")
    return frame.raw


def develop_again(frame_id: int, person: Person, white: WhiteSaid) -> Frame:
    """Develops a camera raw with another white balance. All that is said of the frame stays, and so do looks
    and notes that refer to it. Raises ``FileError``; the frame stays as it was then."""
    frame = rules.find(frame_id)
    _raw_of(frame, person)
    with storage.on_disk(frame.original) as path:
        wish = Wish(balance=Balance(white.kelvin, white.tint))
        known = look_through(path, frame.file_name, wish=wish).known
    return rules.read_anew(frame_id, person, known, frame.original)


def develop_by_grey(frame_id: int, person: Person, place: ShownPart) -> Frame:
    """Develops a camera raw so that a place in it is grey."""
    frame = rules.find(frame_id)
    raw = _raw_of(frame, person)
    rgb = rules.codes(frame.file, frame.file_name, WIDTH)
    white = white_at(rgb, place, frame.original, frame.file_name, raw)
    return develop_again(frame_id, person, white)
