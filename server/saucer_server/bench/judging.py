"""What is read off a frame under a look, and what is checked: asked of the core, framed for the screen."""

import json
from dataclasses import asdict, dataclass
from typing import Unpack

from ninja import Schema
from saucer_core.arrays import F32
from saucer_core.checks import Check, Kind, checks, mend
from saucer_core.encodings import EncodingKey, encoding
from saucer_core.look import Look as LookValue
from saucer_core.look import every_step
from saucer_core.readings.density import VECTOR_FULL, WAVE_FULL, density, lift
from saucer_core.readings.histogram import histogram
from saucer_core.readings.masks import masks, shares
from saucer_core.readings.probe import Spot, area, spot
from saucer_core.readings.scopes import skin_line, targets, vectorscope, waveform
from saucer_core.screen import SCREEN, for_screen
from saucer_core.steps.balance import neutralising
from saucer_core.treatment import Treatment
from saucer_core.trim import Trim

from ..frames.rules import Frame, drawing, original, pixels
from ..framing import flags, headed
from ..luts.rules import table
from .pictures import How, rendered, treatment

#: Pixels: width of the picture that is counted.
COUNTED_WIDTH = 320
#: Pixels: width of the picture that spots are read from.
PROBED_WIDTH = 1280
CHECKED_WIDTH = 80
#: Columns of a waveform.
COLUMNS = 192
#: Places a side of a vectorscope.
SCOPE = 144

Place = tuple[float, float]


@dataclass(frozen=True)
class Pair:
    """A spot before the look, in its input encoding, and under it, in its output encoding."""

    before: Spot
    after: Spot
    input: EncodingKey
    output: EncodingKey


@dataclass(frozen=True)
class Given(Spot):
    """A spot as it comes to a step, and the encoding it then has."""

    encoding: EncodingKey


@dataclass(frozen=True)
class Probe(Pair):
    """A spot, what a step is given there, and the temperature and tint that would make that grey; neither
    where no step asks."""

    given: Given | None = None
    neutral: tuple[float, float] | None = None


class Shares(Schema):
    """Parts of a picture that are clipped or out of gamut, 0–1."""

    black: float
    white: float
    outside: float


class Target(Schema):
    """A colour that the vectorscope marks, with its place, −1 to 1."""

    name: str
    x: float
    y: float


class Lifts(Schema):
    """What turns codes of density back into shares of the fullest place."""

    waves: float
    vectors: float


class ReadingsHead(Schema):
    """The head of what the scopes draw.

    histogram: of red, green, blue and luma, 256 counts each; before: without the look; given: as the chosen
    step is given it. skin: the vectorscope's line of skin. columns: of the waveforms behind the head; scope:
    places a side of the vectorscope behind them.
    """

    histogram: list[list[int]]
    before: list[list[int]]
    given: list[list[int]] | None
    shares: Shares
    spots: list[Pair]
    skin: tuple[float, float]
    targets: list[Target]
    columns: int
    scope: int
    lifts: Lifts


def given(look: LookValue, frame: Frame, step: str, trim: Trim | None) -> list[list[int]] | None:
    """The histogram of a frame as it comes to a step, in the encoding it then has; nothing where the step is
    gone."""
    if step not in {s.id for s in every_step(look.steps)}:
        return None
    there = treatment(look, frame, trim).compile(table).before(step)(original(frame, COUNTED_WIDTH))
    found: list[list[int]] = histogram(there).tolist()
    return found


def readings(
    look: LookValue | None,
    frame: Frame,
    *,
    spots: list[Place],
    given: list[list[int]] | None,
    **how: Unpack[How],
) -> bytes:
    """What the scopes draw, of a frame under a look in its output encoding (for the screen where there is no
    look).

    uint32 length of the JSON that follows (padded to 4 bytes), the JSON (histograms after, before and
    ``given``, what part of the picture is clipped or out of gamut, the spots, the scope's skin line and
    targets, the sizes, and what turns a density's code back), then bytes, the core's codes of density, rows
    from the top: of red, green, blue and luma ``4 × 256 × columns``, and of the vectorscope ``size × size``.
    Raises ``LookError``.
    """
    trim = how.get("trim")
    if look is None:
        at, after = encoding(SCREEN), rendered(None, frame, COUNTED_WIDTH, trim=trim, screen=True)
        before = shown = after
    else:
        at, after = encoding(look.output), rendered(look, frame, COUNTED_WIDTH, **how)
        before, shown = pixels(frame, look.input, COUNTED_WIDTH, trim), for_screen(after, look.output)
    head = {
        "histogram": histogram(after).tolist(),
        "before": histogram(before).tolist(),
        "given": given,
        "shares": shares(masks(shown, encoding(SCREEN))),
        "spots": [asdict(_two(look, frame, s, **how)) for s in spots] if look is not None else [],
        "skin": skin_line(at),
        "targets": [{"name": name, "x": x, "y": y} for name, x, y in targets(at)],
        "columns": COLUMNS,
        "scope": SCOPE,
        "lifts": {"waves": lift(WAVE_FULL), "vectors": lift(VECTOR_FULL)},
    }
    waves = density(waveform(after, COLUMNS), WAVE_FULL)[:, :, ::-1].swapaxes(1, 2)
    vectors = density(vectorscope(after, at, size=SCOPE)[None], VECTOR_FULL)
    return headed(json.dumps(head, separators=(",", ":")), waves.tobytes(), vectors.tobytes())


def _at(frame: Frame, place: Place, target: str, trim: Trim | None) -> F32:
    return area(pixels(frame, target, PROBED_WIDTH, trim), *place)


def _two(look: LookValue, frame: Frame, place: Place, **how: Unpack[How]) -> Pair:
    trim, only, strength = how.get("trim"), how.get("only"), how.get("strength", 1.0)
    own = _at(frame, place, frame.encoding, trim)
    program = Treatment(look, frame.encoding, strength=strength).compile(table)
    after = (program.only(only) if only else program)(own[None])[0]
    before = _at(frame, place, look.input, trim)
    return Pair(
        spot(before, encoding(look.input)), spot(after, encoding(look.output)), look.input, look.output
    )


def probe(look: LookValue, frame: Frame, place: Place, *, step: str | None, **how: Unpack[How]) -> Probe:
    """A spot before and under a look; with a step also what that step is given there, and the balance that
    makes it grey."""
    two = vars(_two(look, frame, place, **how))
    if step is None:
        return Probe(**two)
    before = Treatment(look).compile(table).before(step)
    given, at = before(_at(frame, place, look.input, how.get("trim"))[None]), before.end
    try:
        neutral = neutralising(given[0], at)
    except ValueError:
        neutral = None
    return Probe(**two, given=Given(**vars(spot(given[0], at)), encoding=at.key), neutral=neutral)


def masked(look: LookValue, frame: Frame, width: int, **how: Unpack[How]) -> bytes:
    """The masks of a frame under a look as the screen shows it: two uint32 (width, height), then a byte a
    pixel."""
    with drawing(frame, width):
        return flags(
            masks(rendered(look, frame, width, screen=True, **how), encoding(SCREEN), encoding(SCREEN))
        )


@dataclass(frozen=True)
class FoundCheck(Check):
    """A check that found something. frame: the number of the frame where it shows most."""

    frame: int | None = None


def checked(look: LookValue, frames: list[Frame]) -> list[FoundCheck]:
    """What the core finds, with the frame where it shows most."""
    shown = [pixels(f, look.input, CHECKED_WIDTH) for f in frames]
    found = checks(look, shown, tables=table)
    return [FoundCheck(**vars(c), frame=frames[c.picture].pk if c.picture >= 0 else None) for c in found]


def mended(look: LookValue, kind: Kind, step: str, frames: list[Frame]) -> LookValue:
    """The look with a check's action done; raises ``LookError`` where there is no such check (any more)."""
    return mend(look, kind, step, [pixels(f, look.input, CHECKED_WIDTH) for f in frames], tables=table)
