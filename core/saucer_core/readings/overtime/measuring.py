"""Measures what a look does to the frames of a clip, before and after, and between neighbours.

Changes are in hundredths of OKLab (see ``encodings.oklab``), some two of which are just seen beside each
other. Where the limits and widths below have no source, they are Saucer's own.
"""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ...arrays import F64
from ...encodings import encoding
from ...look import Look
from ...program import Program
from ...screen import SCREEN, for_screen
from ...steps import Tables, no_tables
from ...treatment import Treatment
from ...trim import Trim
from ..evenness import LEAST_CHROMA, LEAST_GREY, LEAST_SKIN, lab_of, regions
from ..masks import BLACK, OUTSIDE, WHITE, masks
from .samples import Samples

#: Frames that are measured at once, which bounds the memory.
AT_ONCE = 12
#: Blocks beside each other that a light changes together.
BESIDE = 10
#: Pixels of equal codes to each side of a step that belongs to a band.
RUN = 3
#: Codes of 8 bits from one band to the next from which it is seen (common practice).
STEP = 2
#: How much of the source's range a smooth place changes in, from one end of two runs to the other: the least
#: that 8 bits can say, and a little.
SMOOTH = 1.25 / 255


@dataclass(frozen=True)
class Side:
    """A frame before the look, or after it.

    low, middle, high: lightness in per cent that 1, 50, 99 % of the picture lie below. chroma: the mean, in
    hundredths. hue, skin: mean hue of skin in degrees, and its chroma in hundredths; ``None`` where there is
    too little of it, or of its colour. grey: how far greys lean to green–red and blue–yellow, in hundredths;
    ``None`` likewise. black, white, outside: shares that are clipped or out of gamut. bands: share of smooth
    places at which one band ends and the next begins.
    """

    low: float
    middle: float
    high: float
    chroma: float
    hue: float | None
    skin: float | None
    grey: tuple[float, float] | None
    black: float
    white: float
    outside: float
    bands: float


@dataclass(frozen=True)
class Change:
    """What changes to the next frame in places that stay, in hundredths of OKLab: flicker is what whole
    blocks change by, noise what is left beside it."""

    noise: float
    flicker: float


@dataclass(frozen=True)
class FrameReading:
    """A frame of a clip under a look. share: of skin, told before the look. change: to the next frame, before
    and after, where the next one was sampled."""

    number: int
    share: float
    before: Side
    after: Side
    change: tuple[Change, Change] | None = None


@dataclass(frozen=True)
class _Shown:
    """Colours of the blocks and pieces of some frames: in OKLab, in codes of 8 bits, and what is clipped."""

    blocks: F64
    pieces: F64
    codes: NDArray[np.int16]
    marks: NDArray[np.uint8]


def measure(
    look: Look | None,
    samples: Samples,
    source: str,
    trim: Trim | None = None,
    strength: float = 1.0,
    *,
    tables: Tables = no_tables,
) -> Iterator[FrameReading]:
    """Readings of the sampled frames, one after the other. source: the clip's encoding; trim: done before the
    look, and before it is measured, too. Raises ``LookError``."""
    own = Treatment(None, source, trim)
    under = Treatment(look, source, trim, strength)
    programs = (own.compile(), source), (under.compile(tables), look.output if look else source)
    count = len(samples.numbers)
    for first in range(0, count, AT_ONCE):
        # One frame more than is told, to which the last one changes.
        part = samples.some(range(first, min(first + AT_ONCE + 1, count)))
        shown = tuple(_shown(part, program, key) for program, key in programs)
        yield from _readings(part, shown[0], shown[1], min(AT_ONCE, count - first))


def _shown(part: Samples, program: Program, key: str) -> _Shown:
    frames = len(part.numbers)
    flat = np.concatenate(
        [part.blocks.reshape(frames, -1, 3), part.pieces.reshape(frames, -1, 3)], axis=1, dtype=np.float32
    )
    rgb = program(flat)
    screen = for_screen(rgb, key)
    lab = lab_of(np.clip(screen, 0, 1), SCREEN)
    split = part.blocks.shape[1] * part.blocks.shape[2]
    codes = np.round(np.clip(screen[:, split:], 0, 1) * 255).astype(np.int16)
    return _Shown(
        lab[:, :split].reshape(*part.blocks.shape),
        lab[:, split:].reshape(*part.pieces.shape),
        codes.reshape(part.pieces.shape),
        masks(rgb, encoding(key), encoding(SCREEN)),
    )


def _readings(part: Samples, before: _Shown, after: _Shown, count: int) -> Iterator[FrameReading]:
    frames = len(part.numbers)
    labs = [
        np.concatenate([side.blocks.reshape(frames, -1, 3), side.pieces.reshape(frames, -1, 3)], axis=1)
        for side in (before, after)
    ]
    skin, grey = regions(labs[0])
    smooth = _smooth(part)
    for k in range(count):
        sides = [
            _side(lab[k], skin[k], grey[k], side.marks[k], bands)
            for lab, side, bands in zip(
                labs, (before, after), _bands(before.codes[k], after.codes[k], smooth[k]), strict=True
            )
        ]
        neighbour = k + 1 < frames and part.numbers[k + 1] == part.numbers[k] + 1
        yield FrameReading(
            int(part.numbers[k]),
            float(skin[k].mean()),
            sides[0],
            sides[1],
            _changes(before.blocks[k : k + 2], after.blocks[k : k + 2]) if neighbour else None,
        )


def _side(lab: F64, skin: np.ndarray, grey: np.ndarray, marks: NDArray[np.uint8], bands: float) -> Side:
    low, middle, high = np.percentile(lab[:, 0], [1, 50, 99]) * 100
    hue = chroma = None
    if skin.mean() >= LEAST_SKIN:
        a, b = lab[skin, 1].mean(), lab[skin, 2].mean()
        chroma = float(np.hypot(a, b) * 100)
        hue = float(np.degrees(np.arctan2(b, a)) % 360) if chroma > LEAST_CHROMA * 100 else None
    lean = None
    if grey.mean() >= LEAST_GREY:
        lean = (float(lab[grey, 1].mean() * 100), float(lab[grey, 2].mean() * 100))
    return Side(
        low=float(low),
        middle=float(middle),
        high=float(high),
        chroma=float(np.hypot(lab[:, 1], lab[:, 2]).mean() * 100),
        hue=hue,
        skin=chroma,
        grey=lean,
        black=float((marks & BLACK > 0).mean()),
        white=float((marks & WHITE > 0).mean()),
        outside=float((marks & OUTSIDE > 0).mean()),
        bands=bands,
    )


def _changes(before: F64, after: F64) -> tuple[Change, Change]:
    """before, after: blocks of two neighbours, ``(2, blocks, pixels, 3)``.

    A place stays where its pattern does: the half of the blocks in which, before the look, least changes
    beside what the whole block changes by. So what flickers counts, and what moves does not.
    """
    found = []
    stays: np.ndarray | None = None
    for lab in (before, after):
        moved = (lab[1] - lab[0]) * 100
        whole = moved.mean(axis=1)
        beside = np.sqrt(((moved - whole[:, None]) ** 2).sum(axis=-1).mean(axis=-1))
        if stays is None:
            stays = beside <= np.median(beside)
        # The difference of two frames holds the noise of both.
        noise = np.sqrt((beside[stays] ** 2).mean() / 2)
        flicker = _together(whole, stays)
        found.append(Change(float(noise), float(flicker)))
    return found[0], found[1]


def _together(whole: F64, stays: np.ndarray) -> float:
    """What neighbouring blocks change by together, ``(blocks, 3)``: what moves through them changes them this
    way and that."""
    count = len(whole) - len(whole) % BESIDE or len(whole)
    weights = stays[:count].reshape(-1, min(BESIDE, count)).astype(np.float64)
    sums = np.einsum("gb,gbc->gc", weights, whole[:count].reshape(*weights.shape, 3))
    means = sums / np.maximum(weights.sum(axis=1), 1)[:, None]
    return float(np.sqrt(np.average((means**2).sum(axis=-1), weights=np.maximum(weights.sum(axis=1), 1e-9))))


def _smooth(part: Samples) -> np.ndarray:
    """Where the source changes so little over two runs that no step is in it, ``(n, pieces, places)``; each
    place lies between two pixels."""
    pieces = part.pieces.astype(np.float32)
    if pieces.shape[2] < 2 * RUN + 2:
        return np.zeros((*pieces.shape[:2], 0), dtype=bool)
    window = np.lib.stride_tricks.sliding_window_view(pieces, 2 * RUN + 2, axis=2)
    smooth: np.ndarray = (window.max(axis=-1) - window.min(axis=-1)).max(axis=-1) <= SMOOTH
    return smooth


def _bands(before: NDArray[np.int16], after: NDArray[np.int16], smooth: np.ndarray) -> tuple[float, float]:
    """Share of the smooth places in which a band ends, before and after. Steps that are in the picture before
    the look are not of the look."""
    count = int(smooth.sum())
    if not count:
        return 0.0, 0.0
    steps = [np.abs(np.diff(codes, axis=1)).max(axis=-1) for codes in (before, after)]
    middle = slice(RUN, steps[0].shape[1] - RUN)
    ends = []
    for step in steps:
        runs = np.lib.stride_tricks.sliding_window_view(step, 2 * RUN + 1, axis=1)
        still = (np.delete(runs, RUN, axis=-1) == 0).all(axis=-1)
        ends.append((step[:, middle] >= STEP) & still & smooth)
    own = ends[0]
    return float(own.sum() / count), float((ends[1] & ~own).sum() / count)
