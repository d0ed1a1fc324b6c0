"""A treatment: everything that is done to a picture's colours, from the way it is encoded to where it is
wanted."""

from dataclasses import dataclass
from functools import partial
from typing import Literal

from .arrays import F32
from .encodings import SDR_WHITE, Encoding, SdrWhite, conversion, encoding, meeting
from .encodings.primaries import between
from .look import Look, check
from .operations import Operation
from .program import Program, Row, bridge, rows_of, rows_of_look
from .screen import SCREEN, showing
from .steps import Surroundings, Tables, no_tables
from .steps.encode import Encode as EncodeStep
from .trim import Trim

#: Share of one primary in another below which it is none.
NEGLIGIBLE = 1e-4


@dataclass(frozen=True)
class Treatment:
    """A look as it is put on a picture, with all that goes with it.

    look: ``None`` for the picture as it is. source: the picture's encoding; the look's input where it is
    empty. trim: done before the look, in ``source``. strength: over the look's own. goes_out: an encoding
    that what the look gives is delivered in; its own where it is empty; sdr_white: cd/m² at which PQ and HLG
    then show the white of a standard display. ends: there (without a look: in ``source``), or in the
    screen's.
    """

    look: Look | None
    source: str = ""
    trim: Trim | None = None
    strength: float = 1.0
    ends: Literal["look", "screen"] = "look"
    goes_out: str = ""
    sdr_white: SdrWhite = SDR_WHITE

    def compile(self, tables: Tables = no_tables) -> Program:
        """As a program. Raises ``LookError`` where the look's steps do not end in its output; ``ValueError``
        without look and source."""
        if self.look is not None:
            check(self.look)
        key = self.source or (self.look.input if self.look is not None else "")
        if not key:
            raise ValueError("without a look the picture's encoding must be given")
        source = encoding(key)
        lead = rows_of(self.trim.steps(), source, tables) if self.trim is not None else ()
        rows: tuple[Row, ...] = ()
        end = source
        if self.look is not None:
            wanted, end = encoding(self.look.input), encoding(self.look.output)
            if wanted != source:
                lead = (*lead, bridge(source, wanted, meeting))
            rows = rows_of_look(
                self.look.model_copy(update={"strength": self.strength * self.look.strength}), tables
            )
        if self.goes_out and encoding(self.goes_out) != end:
            rows = (*rows, bridge(end, encoding(self.goes_out), partial(delivering, white=self.sdr_white)))
            end = encoding(self.goes_out)
        screen = encoding(SCREEN)
        tail = (bridge(end, screen, showing),) if self.ends == "screen" and end != screen else ()
        return Program(source, lead, rows, tail)


def delivering(source: Encoding, target: Encoding, white: SdrWhite = SDR_WHITE) -> list[Operation]:
    """The way to the encoding of a delivery.

    Primaries that hold all colours of the source's keep every colour as it is; others get those that they
    cannot show taken back toward grey, hue kept. Light of a scene is rendered for a display on the way
    (``encodings.meeting``). Light of a display goes into HLG by way of the display that HLG is shown on, and
    the white of a standard display goes to ``white`` cd/m².
    """
    if source.referred != target.referred and not (source.referred == "display" and target.hdr):
        return meeting(source, target)
    if (between(source.primaries, target.primaries) > -NEGLIGIBLE).all():
        return conversion(source, target, white=white)
    return EncodeStep(to=target.key, fit=True, sdr_white=white).operations(Surroundings(source))


def way_out(look: Look, out: str, white: SdrWhite = SDR_WHITE) -> list[Operation]:
    """What brings the colours that a look gives to the encoding of a delivery, by its key."""
    return [] if out == look.output else delivering(encoding(look.output), encoding(out), white)


def evaluate(look: Look, rgb: F32, *, tables: Tables = no_tables) -> F32:
    """Colours ``(..., 3)`` in the look's input encoding through the look, float32, in its output. Raises
    ``LookError``."""
    return Treatment(look).compile(tables)(rgb)
