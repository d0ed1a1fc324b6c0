"""Facts that screens need at once: declared here or in the core, and written into the front end's sources."""

from django.http import HttpRequest
from ninja import Schema
from saucer_core.beginning import USUAL, USUAL_LOG
from saucer_core.encodings import ENCODINGS
from saucer_core.formats import sequences
from saucer_core.formats.cutlists import reading
from saucer_core.formats.developing import develop
from saucer_core.formats.review_writing import STILL_SECONDS
from saucer_core.readings.masks import MASKS
from saucer_core.stack import STACK

from .carrying.rules import FULL_CODES
from .clips import rules as clips
from .delivering.plan import OFFERED, Plan


class Declared(Schema):
    """Facts for the front end.

    encodings: keys of those that every installation has. usual: what a look, a table or a carrier is in where
    nobody says otherwise; usual_log: the same of material from cameras. stack: looks over one another at
    most. pictures, clips, cut_lists: suffixes of the files that are read; sequences: of those that hold a
    numbered sequence of pictures. rates: frames a second that one is shown at, by fraction; usual_rate: the
    one where nobody says. delivered: encodings that a delivery offers at once. plan: what a delivery is where
    nobody says otherwise. still_seconds: how long a still stands when a project is played. full_codes: 8-bit
    codes of what no look explains that are drawn as white. masks: the bit of each mask in ``/api/masks``.
    """

    encodings: list[str]
    usual: str
    usual_log: str
    stack: int
    pictures: list[str]
    clips: list[str]
    cut_lists: list[str]
    sequences: list[str]
    rates: dict[str, str]
    usual_rate: str
    delivered: list[str]
    plan: Plan
    still_seconds: int
    full_codes: int
    masks: dict[str, int]


def declared() -> Declared:
    """The facts."""
    return Declared(
        encodings=list(ENCODINGS),
        usual=USUAL,
        usual_log=USUAL_LOG,
        stack=STACK,
        pictures=list(develop.SUFFIXES),
        clips=list(clips.SUFFIXES),
        cut_lists=list(reading.SUFFIXES),
        sequences=[sequences.SUFFIX],
        rates=sequences.RATES,
        usual_rate=sequences.USUAL_RATE,
        delivered=list(OFFERED),
        plan=Plan(),
        still_seconds=STILL_SECONDS,
        full_codes=FULL_CODES,
        masks=MASKS,
    )


def facts(request: HttpRequest) -> Declared:
    """Facts that screens need at once, for other programs too."""
    return declared()
