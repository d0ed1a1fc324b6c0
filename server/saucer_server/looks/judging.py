"""What is read off a frame under a look, and what is checked: asked of the core, framed for the screen."""

import json
import struct
from dataclasses import asdict
from typing import Any

import numpy as np
from saucer_core.arrays import F32
from saucer_core.checks import Kind, checks, mend
from saucer_core.encodings import encoding
from saucer_core.look import Look as Recipe
from saucer_core.look import every_step
from saucer_core.readings.histogram import histogram
from saucer_core.readings.masks import masks, shares
from saucer_core.readings.probe import area, spot
from saucer_core.readings.scopes import skin_line, targets, vectorscope, waveform
from saucer_core.screen import SCREEN, for_screen
from saucer_core.steps.balance import neutralising
from saucer_core.treatment import Treatment
from saucer_core.trim import Trim

from ..frames.rules import Frame, original, pixels
from .pictures import rendered, treatment
from .rules import table

#: Width of the picture that is counted, and of the one that spots are read from.
COUNTED_WIDTH, PROBED_WIDTH = 320, 1280
CHECKED_WIDTH = 80
COLUMNS, SCOPE = 192, 144

Place = tuple[float, float]


def given(look: Recipe, frame: Frame, step: str, trim: Trim | None) -> list[list[int]] | None:
    """The histogram of a frame as it comes to a step, in the encoding it then has; nothing where the step is gone."""
    if step not in {s.id for s in every_step(look.steps)}:
        return None
    there = treatment(look, frame, trim).compile(table).before(step)(original(frame, COUNTED_WIDTH))
    found: list[list[int]] = histogram(there).tolist()
    return found


def readings(
    look: Recipe | None, frame: Frame, *, trim: Trim | None, spots: list[Place], given: list[list[int]] | None, **how: Any
) -> bytes:
    """What the scopes draw, of a frame under a look in its output encoding (for the screen where there is no look).

    uint32 length of the JSON that follows (padded to 4 bytes), the JSON (histograms after, before and ``given``, what part of the
    picture is clipped or out of gamut, the spots, the scope's skin line and targets, the sizes), then bytes: counts of the parade and
    waveform ``4 × columns × 256`` and of the vectorscope ``size × size``, each cut at 255. Raises ``LookError``.
    """
    if look is None:
        at, after = encoding(SCREEN), rendered(None, frame, COUNTED_WIDTH, trim=trim, screen=True)
        before = shown = after
    else:
        at, after = encoding(look.output), rendered(look, frame, COUNTED_WIDTH, trim=trim, **how)
        before, shown = pixels(frame, look.input, COUNTED_WIDTH, trim), for_screen(after, look.output)
    head = {
        "histogram": histogram(after).tolist(),
        "before": histogram(before).tolist(),
        "given": given,
        "shares": shares(masks(shown, encoding(SCREEN))),
        "spots": [_two(look, frame, s, trim=trim, **how) for s in spots] if look is not None else [],
        "skin": skin_line(at),
        "targets": [{"name": name, "x": x, "y": y} for name, x, y in targets(at)],
        "columns": COLUMNS,
        "scope": SCOPE,
    }
    waves, vectors = waveform(after, COLUMNS), vectorscope(after, at, size=SCOPE)
    text = json.dumps(head, separators=(",", ":")).encode()
    text += b" " * (-len(text) % 4)
    counts = [np.minimum(c, 255).astype(np.uint8).tobytes() for c in (waves, vectors)]
    return b"".join([struct.pack("<I", len(text)), text, *counts])


def _at(frame: Frame, place: Place, target: str, trim: Trim | None) -> F32:
    return area(pixels(frame, target, PROBED_WIDTH, trim), *place)


def _two(look: Recipe, frame: Frame, place: Place, *, strength: float, trim: Trim | None, only: str | None) -> dict[str, Any]:
    own = _at(frame, place, frame.encoding, trim)
    program = Treatment(look, frame.encoding, strength=strength).compile(table)
    after = (program.only(only) if only else program)(own[None])[0]
    before = _at(frame, place, look.input, trim)
    return {
        "before": spot(before, encoding(look.input)).as_dict(),
        "after": spot(after, encoding(look.output)).as_dict(),
        "input": look.input, "output": look.output,
    }  # fmt: skip


def probe(look: Recipe, frame: Frame, place: Place, *, trim: Trim | None, step: str | None, **how: Any) -> dict[str, Any]:
    """A spot before and under a look; with a step also what that step is given there, and the balance that makes it grey."""
    found = _two(look, frame, place, trim=trim, **how)
    if step is None:
        return found
    before = Treatment(look).compile(table).before(step)
    given, at = before(_at(frame, place, look.input, trim)[None]), before.end
    try:
        neutral = neutralising(given[0], at)
    except ValueError:
        neutral = None
    return {**found, "given": {**spot(given[0], at).as_dict(), "encoding": at.key}, "neutral": neutral}


def masked(look: Recipe, frame: Frame, width: int, **how: Any) -> bytes:
    """The masks of a frame under a look as the screen shows it: two uint32 (width, height), then a byte a pixel."""
    found = masks(rendered(look, frame, width, screen=True, **how), encoding(SCREEN), encoding(SCREEN))
    return struct.pack("<II", found.shape[1], found.shape[0]) + found.tobytes()


def checked(look: Recipe, frames: list[Frame]) -> list[dict[str, Any]]:
    """What the core finds, with the frame where it shows most."""
    shown = [pixels(f, look.input, CHECKED_WIDTH) for f in frames]
    found = checks(look, shown, tables=table)
    return [{**asdict(c), "frame": frames[c.picture].pk if c.picture >= 0 else None} for c in found]


def mended(look: Recipe, kind: Kind, step: str, frames: list[Frame]) -> Recipe:
    """The look with a check's action done; raises ``LookError`` where there is no such check (any more)."""
    return mend(look, kind, step, [pixels(f, look.input, CHECKED_WIDTH) for f in frames], tables=table)
