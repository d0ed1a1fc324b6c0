"""What is read off a frame under a look, and what is checked: asked of the core, framed for the screen."""

import json
import struct
from dataclasses import asdict
from typing import Any

import numpy as np
from saucer_core.arrays import F32
from saucer_core.encodings import encoding
from saucer_core.errors import LookError
from saucer_core.look import Look as Recipe
from saucer_core.look import every_step, fetched, given_to
from saucer_core.readings.checks import Check, checks, mend
from saucer_core.readings.histogram import histogram
from saucer_core.readings.masks import masks, shares
from saucer_core.readings.probe import area, spot
from saucer_core.readings.scopes import skin_line, targets, vectorscope, waveform
from saucer_core.screen import SCREEN, for_screen
from saucer_core.steps.balance import neutralising
from saucer_core.trim import Trim, through

from ..frames.rules import Frame, pixels
from .pictures import rendered
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
    there, _ = given_to(look, step, pixels(frame, look.input, COUNTED_WIDTH, trim), tables=fetched(look, table))
    found: list[list[int]] = histogram(there).tolist()
    return found


def readings(
    look: Recipe | None, frame: Frame, *, strength: float, trim: Trim | None, spots: list[Place], given: list[list[int]] | None
) -> bytes:
    """What the scopes draw, of a frame under a look in its output encoding (for the screen where there is no look).

    uint32 length of the JSON that follows (padded to 4 bytes), the JSON (histograms after, before and ``given``, what part of the
    picture is clipped or out of gamut, the spots, the scope's skin line and targets, the sizes), then bytes: counts of the parade and
    waveform ``4 × columns × 256`` and of the vectorscope ``size × size``, each cut at 255. Raises ``LookError``.
    """
    if look is None:
        at, after = encoding(SCREEN), for_screen(pixels(frame, frame.encoding, COUNTED_WIDTH, trim), frame.encoding)
        before = after
    else:
        at, after = encoding(look.output), rendered(look, frame, COUNTED_WIDTH, strength=strength, trim=trim)
        before = pixels(frame, look.input, COUNTED_WIDTH, trim)
    head = {
        "histogram": histogram(after).tolist(),
        "before": histogram(before).tolist(),
        "given": given,
        "shares": shares(masks(after if look is None else for_screen(after, look.output), encoding(SCREEN))),
        "spots": [_two(look, frame, s, strength=strength, trim=trim) for s in spots] if look is not None else [],
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


def _two(look: Recipe, frame: Frame, place: Place, *, strength: float, trim: Trim | None) -> dict[str, Any]:
    own = _at(frame, place, frame.encoding, trim)
    after = through(look, own[None], source=frame.encoding, strength=strength, tables=table)[0]
    before = _at(frame, place, look.input, trim)
    return {
        "before": spot(before, encoding(look.input)).as_dict(),
        "after": spot(after, encoding(look.output)).as_dict(),
        "input": look.input, "output": look.output,
    }  # fmt: skip


def probe(look: Recipe, frame: Frame, place: Place, *, strength: float, trim: Trim | None, step: str | None) -> dict[str, Any]:
    """A spot before and under a look; with a step also what that step is given there, and the balance that makes it grey."""
    found = _two(look, frame, place, strength=strength, trim=trim)
    if step is None:
        return found
    given, at = given_to(look, step, _at(frame, place, look.input, trim)[None], tables=fetched(look, table))
    try:
        neutral = neutralising(given[0], at)
    except ValueError:
        neutral = None
    return {**found, "given": {**spot(given[0], at).as_dict(), "encoding": at.key}, "neutral": neutral}


def masked(look: Recipe, frame: Frame, width: int, *, strength: float, trim: Trim | None) -> bytes:
    """The masks of a frame under a look as the screen shows it: two uint32 (width, height), then a byte a pixel."""
    shown = for_screen(rendered(look, frame, width, strength=strength, trim=trim), look.output)
    found = masks(shown, encoding(SCREEN), encoding(SCREEN))
    return struct.pack("<II", found.shape[1], found.shape[0]) + found.tobytes()


def checked(look: Recipe, frames: list[Frame]) -> list[dict[str, Any]]:
    """What the core finds, with the frame where it shows most."""
    shown = [pixels(f, look.input, CHECKED_WIDTH) for f in frames]
    found = checks(look, shown, tables=fetched(look, table))
    return [{**asdict(c), "frame": frames[c.picture].pk if c.picture >= 0 else None} for c in found]


def mended(look: Recipe, about: dict[str, Any]) -> Recipe:
    """The look with the check's action done; raises ``LookError`` where the step it is about is not there (any more)."""
    try:
        return mend(look, Check(**about), tables=fetched(look, table))
    except StopIteration:
        raise LookError("The step that this is about is not there any more.") from None
