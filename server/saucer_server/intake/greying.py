"""The white balance of a camera raw, told by a place that is to be grey."""

import numpy as np
from saucer_core.formats.developing.raw import white_by_grey
from saucer_core.formats.developing.result import Balance

from .. import storage
from ..errors import RuleError
from ..frames import rules as frames
from ..frames.values import ShownPart, WhiteSaid
from . import rules
from .models import Intake, IntakeFile
from .values import Said

#: Width of the picture in which the place is looked up, and pixels around it whose mean is taken.
WIDTH, AROUND = 960, 3


def balance_by(intake: Intake, file: IntakeFile, place: ShownPart) -> IntakeFile:
    """Says the white balance under which a place of the picture is grey, and has it read again.

    Raises 409 for a file that is no camera raw or was not read yet, and 422 for a place without light.
    """
    known = file.known
    if known is None or known.raw is None:
        raise RuleError(
            409, f"{file.name} is no camera raw that was read: it has no white balance to change."
        )
    rgb = frames.codes(known.file, known.file_name, WIDTH)
    high, wide = rgb.shape[:2]
    x, y = min(int(place.x * wide), wide - 1), min(int(place.y * high), high - 1)
    around = rgb[max(y - AROUND, 0) : y + AROUND + 1, max(x - AROUND, 0) : x + AROUND + 1]
    mean = np.asarray(around, np.float64).reshape(-1, 3).mean(axis=0)
    if not mean.max() > 0:
        raise RuleError(422, "There is no light at that place. Choose a brighter grey.")
    used = Balance(known.raw.used.kelvin, known.raw.used.tint)
    with storage.on_disk(file.file) as path:
        found = white_by_grey(path, file.name, mean, used)
    white = WhiteSaid(kelvin=found.kelvin, tint=found.tint)
    (changed,) = rules.say(intake, [file.pk], Said(white=white), None)
    return changed
