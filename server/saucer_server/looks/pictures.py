"""Looks made visible: the live table, stills, portraits. The core computes; this keeps what was computed."""

import hashlib
import json
import struct
import tempfile
from collections import OrderedDict
from pathlib import Path
from typing import Any

import numpy as np
from saucer_core.arrays import F32
from saucer_core.encodings import encoding
from saucer_core.finish.render import finish
from saucer_core.formats import pictures
from saucer_core.look import Look as Recipe
from saucer_core.look import PrefixCache, canonical, every_step, fetched, surroundings
from saucer_core.lut.bake import bake, grid_colours
from saucer_core.lut.interpolate import Interpolation
from saucer_core.lut.lut import identity_grid
from saucer_core.readings.masks import difference_picture
from saucer_core.readings.portrait import portrait
from saucer_core.screen import SCREEN, for_screen
from saucer_core.trim import Trim, through

from .. import storage
from ..frames.rules import Frame, address, half_floats, jpeg, pixels, trim_of
from .rules import table

#: Points a side of the live table.
LIVE_GRID = 33

_leading = PrefixCache()
_pictures = PrefixCache(192 * 2**20)


_traced: OrderedDict[tuple[str, str], str] = OrderedDict()


def _trace(step: Any, at: Any) -> str:
    """A step's trace as JSON, remembered by what it is made from; a LUT's depends on a file that may come and go."""
    key = (step.model_dump_json(), at.encoding.key)
    known = _traced.get(key) if step.kind != "lut" else None
    if known is not None:
        return known
    drawn = json.dumps(step.trace(at), separators=(",", ":"))
    mark = hashlib.sha256(drawn.encode()).hexdigest()[:12]
    found = f'{{"encoding":"{at.encoding.key}","mark":"{mark}","trace":{drawn}}}'
    _traced[key] = found
    while len(_traced) > 512:
        _traced.popitem(last=False)
    return found


def traces(look: Recipe) -> str:
    """JSON: for every step by id, the encoding it works on, what its editor draws, and a mark that changes with it."""
    around = surroundings(look, fetched(look, table))
    return "{" + ",".join(f"{json.dumps(s.id)}:{_trace(s, around[s.id])}" for s in every_step(look.steps)) + "}"


def live(look: Recipe, *, strength: float, trim: Trim | None, frame: Frame | None, traced: Recipe | None) -> bytes:
    """The look as the viewer needs it, with the traces of the whole look ``traced`` that it is a part of.

    uint32 length of the JSON that follows (padded to 4 bytes with spaces), the JSON (size, traces, end), then the
    half-float table ``size³ × 3`` for the screen, red fastest. With a trim the table takes the frame in its own
    encoding, untrimmed. Raises ``LookError``.
    """
    source = frame.encoding if trim is not None and frame is not None else look.input
    lut = bake(look, LIVE_GRID, tables=table, strength=strength, source=source, trim=trim, cache=_leading)
    assert lut.grid is not None
    drawn = traces(traced) if traced is not None else "{}"
    head = f'{{"size":{LIVE_GRID},"end":"{look.end().key}","traces":{drawn}}}'
    shown = np.clip(for_screen(lut.grid, look.output), -1, 2).astype("<f2")
    return _framed(head, shown)


def _framed(head: str, grid: np.ndarray) -> bytes:
    text = head.encode()
    text += b" " * (-len(text) % 4)
    return struct.pack("<I", len(text)) + text + grid.tobytes()


def unlooked(look_input: str) -> bytes:
    """The table that shows a picture as it comes in, without a look; framed like ``live``."""
    grid = grid_colours(look_input, identity_grid(LIVE_GRID))
    head = json.dumps({"size": LIVE_GRID, "end": look_input})
    return _framed(head, np.clip(for_screen(grid, look_input), -1, 2).astype("<f2"))


def rendered(look: Recipe, frame: Frame, width: int | None, *, strength: float = 1.0, trim: Trim | None = None) -> F32:
    """A frame under a look, every pixel computed by the look itself, in the look's output. trim replaces the frame's."""
    chosen = trim if trim is not None else trim_of(frame)
    name = f"{address(frame, chosen.model_dump_json())} {width}"
    trimmed = pixels(frame, frame.encoding, width, chosen)
    cache = _pictures if width is not None else None
    return through(look, trimmed, source=frame.encoding, strength=strength, tables=table, cache=cache, cache_key=name)


def finished(look: Recipe, frame: Frame, width: int | None, *, strength: float = 1.0, trim: Trim | None = None) -> F32:
    """A frame under a look with the look's finish."""
    rgb = rendered(look, frame, width, strength=strength, trim=trim)
    return finish(rgb, look.finish, look.output, frame.digest) if look.finish.active() else rgb


def exact(look: Recipe, frame: Frame, width: int, *, strength: float, trim: Trim | None) -> bytes:
    """A frame under a look for the viewer at rest: every pixel the look's own, finish included, in the encoding of the screen.

    Laid out like ``frames.rules.half_floats``. Raises ``LookError``.
    """
    return half_floats(for_screen(finished(look, frame, width, strength=strength, trim=trim), look.output))


def as_baked(
    look: Recipe, frame: Frame, width: int, *, strength: float, trim: Trim | None, grid: int, interpolation: Interpolation
) -> bytes:
    """A frame through the table that a bake of that size would hold, read that way; laid out like ``exact``."""
    lut = bake(look, grid, tables=table, strength=strength)
    own = pixels(frame, look.input, width, trim)
    return half_floats(for_screen(lut.apply(own, interpolation), look.output))


def apart(look: Recipe, other: Recipe | None, frame: Frame, width: int, *, strength: float, trim: Trim | None, full: float) -> bytes:
    """How far a frame under a look is from the same under another one (under none): grey, white from ΔE ``full`` on; like ``exact``."""
    here = for_screen(rendered(look, frame, width, strength=strength, trim=trim), look.output)
    if other is None:
        there = for_screen(pixels(frame, frame.encoding, width, trim), frame.encoding)
    else:
        there = for_screen(rendered(other, frame, width, trim=trim), other.output)
    return half_floats(difference_picture(here, there, encoding(SCREEN), full))


def still(look: Recipe, digest: str, frame: Frame, width: int, *, strength: float = 1.0, trim: Trim | None = None) -> bytes:
    """A frame under a look as a JPEG for the screen, kept by what it is made from."""
    chosen = trim if trim is not None else trim_of(frame)
    made_of = ["v3", digest, frame.digest, frame.encoding, chosen.model_dump(), width, round(strength, 3), SCREEN]
    name = hashlib.sha256(canonical(made_of)).hexdigest()

    def make() -> bytes:
        return jpeg(for_screen(finished(look, frame, width, strength=strength, trim=chosen), look.output))

    return storage.kept(f"derived/stills/{name}.jpg", make)


def png(rgba: np.ndarray) -> bytes:
    """RGBA uint8 as PNG."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "portrait.png"
        pictures.write(path, rgba.astype(np.float32) / 255, "uint8")
        return path.read_bytes()


def saucer(look: Recipe | None, size: int) -> bytes:
    """The saucer of a look as PNG (the neutral one for ``None``), kept by what it is made from."""
    name = look.digest() if look is not None else "neutral"
    return storage.kept(f"derived/saucers/v1-{name}-{size}.png", lambda: png(portrait(look, size, tables=table)))


def full_picture(look: Recipe, frame: Frame, trim: Trim, strength: float) -> bytes:
    """A frame at full size under a look, 16-bit PNG in the look's output."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "still.png"
        pictures.write(path, finished(look, frame, None, strength=strength, trim=trim), "uint16")
        return path.read_bytes()
