"""The white balance of a camera raw, told by a place that is to be grey."""

from ..errors import RuleError
from ..frames import rules as frames
from ..frames import whites
from ..frames.values import ShownPart
from . import rules
from .models import Intake, IntakeFile
from .values import Said


def balance_by(intake: Intake, file: IntakeFile, place: ShownPart) -> IntakeFile:
    """Says the white balance under which a place of the picture is grey, and has it read again.

    Raises 409 for a file that is no camera raw or was not read yet, and 422 for a place without light.
    """
    known = file.known
    if known is None or known.raw is None:
        raise RuleError(
            409, f"{file.name} is no camera raw that was read: it has no white balance to change."
        )
    rgb = frames.codes(known.file, known.file_name, whites.WIDTH)
    white = whites.white_at(rgb, place, file.file, file.name, known.raw)
    (changed,) = rules.say(intake, [file.pk], Said(white=white), None)
    return changed
