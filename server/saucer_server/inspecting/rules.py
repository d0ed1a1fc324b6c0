"""What a table or look does, gathered from the core for one screen."""

import base64
from dataclasses import dataclass

import numpy as np
from saucer_core.arrays import F32
from saucer_core.encodings import encoding
from saucer_core.encodings.oklab import to_oklab
from saucer_core.operations import apply
from saucer_core.readings.clipped import clipped
from saucer_core.readings.cloud import cloud, disc, slices
from saucer_core.readings.condition import condition
from saucer_core.readings.likeness import behaviour
from saucer_core.readings.masks import difference_picture
from saucer_core.readings.traits import traits
from saucer_core.screen import SCREEN, showing
from saucer_core.steps.traced import line, ramp
from saucer_core.treatment import Treatment

from ..bench import pictures
from ..catalogue import likeness
from ..frames.rules import Frame
from ..framing import jpeg, png
from .subjects import Subject, labels

#: ΔE that is drawn as white where two pictures differ.
FULL = 20.0
#: Points a side of the cloud.
SIDE = 12
#: Looks that are named as the nearest.
NEAREST = 3


@dataclass(frozen=True)
class Neighbour:
    """A look of the catalogue that does nearly the same, and the mean ΔE2000 between the two."""

    look: int
    name: str
    apart: float


@dataclass(frozen=True)
class Placed:
    """A point of the condition with its places as OKLab before and after: L, a, b, L, a, b."""

    key: str
    words: str
    value: str
    doubtful: bool
    places: list[list[float]]


@dataclass(frozen=True)
class DiscOut:
    """Hue and chroma at one lightness; an arrow is OKLab a and b before and after, and the colour that it
    ends in."""

    light: float
    turned: tuple[str, float]
    skin: float
    arrows: list[tuple[float, float, float, float, str]]


@dataclass(frozen=True)
class Inspection:
    """Everything but the cloud, the slices and pictures: ready to be drawn."""

    name: str
    origin: str
    rights: str
    words: list[str]
    said: list[tuple[str, str]]
    expects: str
    gives: str
    condition: list[Placed]
    greys: dict[str, list[float]]
    disc: DiscOut
    nearest: list[Neighbour]


def inspected(subject: Subject) -> Inspection:
    """Measures a subject. Raises ``LookError``."""
    look, tables = subject.recipe, subject.tables
    program = Treatment(look).compile(tables)
    out = program(ramp(129))
    circle = disc(look, tables=tables)
    points = condition(program, clipped(look, tables=tables), subject.table)
    colours = behaviour(look, tables=tables)
    expects, gives = labels(look)
    near = [
        Neighbour(key, name, far)
        for key, name, far in likeness.known().nearest(colours, NEAREST + 1)
        if not (subject.kind == "look" and key == subject.id)
    ]
    return Inspection(
        name=subject.name,
        origin=subject.origin,
        rights=subject.rights,
        words=traits(look, tables=tables).words(),
        said=subject.said,
        expects=expects,
        gives=gives,
        condition=[Placed(p.key, p.words, p.value, p.doubtful, _placed(subject, p.places)) for p in points],
        greys={
            "x": line(ramp(129)[:, 0]),
            **{c: line(out[:, k]) for k, c in enumerate(("red", "green", "blue"))},
        },
        disc=DiscOut(
            circle.light, circle.turned, circle.skin, [(*a.before, *a.after, a.colour) for a in circle.arrows]
        ),
        nearest=near[:NEAREST],
    )


def _on_screen(subject: Subject, rgb: F32) -> F32:
    """Colours of the look's input as the screen shows them, held to 0–1."""
    return np.clip(apply(showing(encoding(subject.recipe.input), encoding(SCREEN)), rgb), 0, 1)


def _placed(subject: Subject, places: list[tuple[float, float, float]]) -> list[list[float]]:
    """Places in the look's input as OKLab before and after: L, a, b, L, a, b."""
    if not places:
        return []
    rgb = np.array(places, np.float32)
    out = np.clip(Treatment(subject.recipe, ends="screen").compile(subject.tables)(rgb), 0, 1)
    screen = encoding(SCREEN)
    both = np.concatenate([to_oklab(_on_screen(subject, rgb), screen), to_oklab(out, screen)], axis=1)
    return [line(row) for row in both]


@dataclass(frozen=True)
class CloudLists:
    """The cube of the screen before and after: flat lists of L, a, b in OKLab, colours 0–255, ΔE2000, and
    pairs of neighbours on edges."""

    side: int
    before: list[float]
    after: list[float]
    before_rgb: list[int]
    after_rgb: list[int]
    delta: list[float]
    edges: list[int]


def cloud_of(subject: Subject, other: Subject | None) -> CloudLists:
    """The cloud, from the colours as they are or from what another subject makes of them."""
    against, their = (other.recipe, other.tables) if other else (None, subject.tables)
    found = cloud(subject.recipe, tables=subject.tables, other=against, other_tables=their, side=SIDE)
    return CloudLists(
        side=SIDE,
        before=line(found.before.reshape(-1)),
        after=line(found.after.reshape(-1)),
        before_rgb=found.before_rgb.reshape(-1).tolist(),
        after_rgb=found.after_rgb.reshape(-1).tolist(),
        delta=[round(float(d), 2) for d in found.delta],
        edges=found.edges.reshape(-1).tolist(),
    )


@dataclass(frozen=True)
class Slices:
    """Slices side by side as the address of a picture that holds its data, and the mean ΔE of each."""

    picture: str
    means: list[float]


def slices_of(subject: Subject, by: str) -> Slices:
    """Cuts through the cube."""
    rgb, means = slices(subject.recipe, by, tables=subject.tables)
    alpha = np.ones((*rgb.shape[:2], 1), np.float32)
    data = png(np.round(np.concatenate([rgb, alpha], axis=-1) * 255).astype(np.uint8))
    return Slices(f"data:image/png;base64,{base64.b64encode(data).decode()}", means)


def still(subject: Subject, frame: Frame, width: int) -> bytes:
    """A frame under the subject, JPEG."""
    return pictures.still(subject.recipe, subject.recipe.digest(), frame, width, tables=subject.tables)


def difference(one: Subject, other: Subject | None, frame: Frame, width: int) -> bytes:
    """How far apart a frame under two subjects is, or under one and none, JPEG: white from ``FULL`` on."""
    here = pictures.rendered(one.recipe, frame, width, screen=True, tables=one.tables)
    there = pictures.rendered(
        other.recipe if other else None,
        frame,
        width,
        screen=True,
        tables=other.tables if other else one.tables,
    )
    return jpeg(difference_picture(np.clip(here, 0, 1), np.clip(there, 0, 1), encoding(SCREEN), FULL))
