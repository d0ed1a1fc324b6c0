"""Looks from pairs of pictures: shifted, scaled, compressed, and with work in them that no look can be."""

import io
from functools import cache
from pathlib import Path

import numpy as np
import pytest
from PIL import Image
from saucer_core.baking.pair import Pair, guessed, guessed_cube, pair
from saucer_core.difference import difference
from saucer_core.encodings import encoding, meet
from saucer_core.errors import CoreError
from saucer_core.formats import pictures
from saucer_core.look import Look
from saucer_core.tables.lut import identity_grid
from saucer_core.treatment import Treatment
from scipy.ndimage import gaussian_filter, zoom

from ..amount import examples

LOOK = Look.model_validate(
    {
        "steps": [
            {"kind": "balance", "temperature": 18},
            {"kind": "contrast", "amount": 1.15},
            {"kind": "saturation", "amount": 0.85},
        ]
    }
)
AT = encoding("bt709_display")


def scene(seed: int = 2, height: int = 240, width: int = 320) -> np.ndarray:
    """Soft shapes with outlines between them, each colour at many places, and a grey ramp."""
    rng = np.random.default_rng(seed)
    colours = rng.uniform(0.08, 0.85, (10, 3))
    out = np.zeros((height, width, 3))
    y, x = np.mgrid[0:height, 0:width]
    out[:] = 0.25 + 0.4 * (x / width)[..., None] * rng.uniform(0.6, 1, 3)
    for k in range(150):
        cy, cx, r = rng.uniform(0, height), rng.uniform(0, width), rng.uniform(6, 24)
        inside = (y - cy) ** 2 + (x - cx) ** 2 < r * r
        out[inside] = colours[k % len(colours)] * (0.75 + 0.25 * ((y - cy) / r)[inside])[:, None]
    out[-20:] = np.linspace(0.02, 0.95, width)[None, :, None]
    return np.clip(np.stack([gaussian_filter(out[..., c], 0.6) for c in range(3)], axis=-1), 0, 1).astype(
        np.float32
    )


BEFORE = scene()
AFTER = np.clip(Treatment(LOOK).compile()(BEFORE), 0, 1)


def found(after: np.ndarray, before: np.ndarray = BEFORE) -> Pair:
    return pair(before, np.clip(after, 0, 1).astype(np.float32), "bt709_display", "bt709_display")


@cache
def clean() -> Pair:
    """The pair without harm."""
    return found(AFTER)


def off(one: Pair) -> float:
    """Mean ΔE2000 between what the look of a pair makes of its picture and what the true one makes of it."""
    return float(
        difference(np.clip(one.made, 0, 1), np.clip(Treatment(LOOK).compile()(one.before), 0, 1), AT).mean()
    )


def far() -> np.ndarray:
    height, width = BEFORE.shape[:2]
    y, x = np.mgrid[0:height, 0:width]
    return ((x - width / 2) ** 2 + (y - height / 2) ** 2) / ((width / 2) ** 2 + (height / 2) ** 2)


def test_a_clean_pair_gives_its_look():
    one = clean()
    assert one.share > 0.93
    assert off(one) < 0.3
    assert one.findings == ()
    assert one.scale == pytest.approx(1)
    assert np.abs(one.shift).max() < 0.1


def test_a_shift_is_found_and_does_no_harm():
    one = found(np.roll(AFTER, (3, -5), (0, 1)))
    assert one.shift == pytest.approx((-5, 3), abs=0.35)
    assert off(one) < 0.4


@pytest.mark.parametrize("scale", [0.5, 1.5])
def test_another_size_is_found_and_does_no_harm(scale):
    one = found(zoom(AFTER, (scale, scale, 1), order=1))
    assert one.scale == pytest.approx(scale, rel=0.01)
    assert off(one) < 0.5


def test_lossy_compression_does_little_harm(tmp_path):
    pictures.write(tmp_path / "a.jpg", AFTER, "uint8")
    assert off(found(pictures.read(tmp_path / "a.jpg")[0])) < 0.6


def test_a_vignette_is_told_apart_and_taken_off():
    one = found(AT.encode((AT.decode(AFTER) * (1 - 0.25 * far())[..., None]).astype(np.float32)))
    (said,) = [f for f in one.findings if f.kind == "vignette"]
    assert said.amount == pytest.approx(0.25, abs=0.02)
    assert "darker" in said.words
    assert off(one) < 0.8, "the look itself is found without it"


def test_grain_and_work_on_a_part_are_said():
    noisy = found(AFTER + np.random.default_rng(4).normal(0, 0.015, AFTER.shape))
    assert "grain" in [f.kind for f in noisy.findings]
    part = AFTER.copy()
    part[30:130, 20:140] *= 0.75
    local = found(part)
    (said,) = [f for f in local.findings if f.kind == "local work"]
    assert "top left" in said.words
    assert np.abs(local.unexplained[50:110, 40:120]).mean() > 3 * np.abs(local.unexplained[140:, 160:]).mean()


def test_different_pictures_and_shapes_are_refused():
    with pytest.raises(CoreError, match="not the same picture"):
        found(scene(9)[::-1, ::-1])
    with pytest.raises(CoreError, match="different shapes"):
        found(AFTER[:, :160])
    with pytest.raises(CoreError, match="48 pixels"):
        found(AFTER[:40])


def test_a_picture_without_outlines_is_taken_where_light_and_dark_agree():
    y, x = np.mgrid[0:120, 0:160].astype(np.float32)
    sky = np.stack([0.3 + 0.4 * y / 120, 0.4 + 0.3 * y / 120, 0.5 + 0.3 * x / 160], axis=-1)
    one = found(Treatment(LOOK).compile()(sky), sky)
    assert off(one) < 0.8
    with pytest.raises(CoreError, match="not the same picture"):
        found(sky[::-1], sky)


def test_soft_light_that_comes_and_goes_is_taken_too():
    """Waves are no plain picture, but all that is sharp in them is rounding: no outlines can be laid over
    each other."""
    y, x = np.mgrid[0:720, 0:1280].astype(np.float32)
    soft = np.stack(
        [0.5 + 0.45 * np.sin(x / (23 + 9 * c) + c) * np.cos(y / (31 - 5 * c)) for c in range(3)], axis=-1
    )
    one = found(Treatment(LOOK).compile()(soft), soft)
    assert off(one) < 0.8
    assert one.shift == (0.0, 0.0)
    with pytest.raises(CoreError, match="not the same picture"):
        found(1 - soft, soft)


def test_where_it_guesses_is_known():
    one = clean()
    assert guessed(one, BEFORE[::4, ::4]).mean() < 0.35
    assert guessed(one, np.array([[[0.0, 1.0, 0.0], [1.0, 0.0, 1.0]]], np.float32)).min() > 0.9
    assert 0 < one.seen < 0.5


def test_where_it_guesses_in_the_cube():
    cube = guessed_cube(clean(), count=3, size=21)
    assert cube.shape == (21, 63)
    assert 0.2 < cube.mean() < 0.999
    # Pure green without blue is in no picture of these; a grey in the middle is in all.
    assert cube[0, 0] == 1
    assert cube[10, 21 + 10] < 0.5


def test_beyond_what_is_seen_it_goes_on_sensibly():
    values = clean().lut.grid
    assert values.min() > -0.3
    assert values.max() < 1.3
    grey = np.linspace(0.05, 0.95, 20, dtype=np.float32)[:, None].repeat(3, axis=1)
    assert (np.diff(clean().lut.apply(grey).mean(axis=1)) > 0).all()


def test_colours_that_are_not_seen_do_not_run_away():
    """A strong look on a picture of few colours: what is carried on stays near what the look does, and within
    what was seen."""
    strong = Look.model_validate(
        {"steps": [{"kind": "saturation", "amount": 1.8}, {"kind": "contrast", "amount": 1.3}]}
    )
    program = Treatment(strong).compile()
    # Greys and a few earths: most of the cube is not there.
    before = np.clip(
        BEFORE.mean(axis=-1, keepdims=True) + 0.12 * (BEFORE - BEFORE.mean(axis=-1, keepdims=True)), 0, 1
    )
    one = found(program(before), before)
    grid = np.ascontiguousarray(one.lut.grid.reshape(-1, 3))
    points = identity_grid(len(one.lut.grid)).reshape(-1, 3)
    unseen = one.known.reshape(-1) < 0.5
    assert unseen.mean() > 0.5
    delta = difference(np.clip(grid, 0, 1), np.clip(program(points), 0, 1), AT)[unseen]
    assert delta.mean() < 16
    # No colour is changed by more than those that are known.
    change = np.abs(grid - points)
    assert change[unseen].max() < 2.5 * change[~unseen].max()


SCENES = sorted((Path(__file__).parents[2] / "demo" / "scenes").glob("*.exr"))
TREATED = {
    "warm": [
        {"kind": "balance", "temperature": 18},
        {"kind": "contrast", "amount": 1.15},
        {"kind": "saturation", "amount": 0.85},
    ],
    "strong": [{"kind": "saturation", "amount": 1.5}, {"kind": "contrast", "amount": 0.85}],
    "faded": [{"kind": "curves", "all": [[0, 0.08], [0.3, 0.3], [0.75, 0.76], [1, 0.94]]}],
    "crossed": [
        {
            "kind": "curves",
            "red": [[0, 0], [0.25, 0.17], [0.75, 0.85], [1, 1]],
            "blue": [[0, 0.1], [0.25, 0.3], [0.75, 0.68], [1, 0.85]],
        },
    ],
    "turned": [
        {
            "kind": "hue_ranges",
            "ranges": [
                {"hue": 140, "width": 50, "shift": 25, "saturation": -0.3},
                {"hue": 40, "width": 40, "shift": -12},
            ],
        }
    ],
}


@cache
def natural(k: int) -> np.ndarray:
    """A frame of the demo on a display, half its size."""
    rgb, facts = pictures.read(SCENES[k % len(SCENES)])
    shown = np.clip(meet(rgb, encoding(facts.encoding), AT), 0, 1)
    return np.clip(zoom(shown, (1 / 2, 1 / 2, 1), order=1), 0, 1).astype(np.float32)


def darkened(rgb: np.ndarray, by: float) -> np.ndarray:
    """With corners that have less light, by a part of it."""
    height, width = rgb.shape[:2]
    y, x = np.mgrid[0:height, 0:width]
    away = ((x - width / 2) ** 2 + (y - height / 2) ** 2) / ((width / 2) ** 2 + (height / 2) ** 2)
    return AT.encode((AT.decode(rgb) * (1 - by * away)[..., None]).astype(np.float32))


def compressed(rgb: np.ndarray, quality: int) -> np.ndarray:
    held = io.BytesIO()
    Image.fromarray((rgb * 255 + 0.5).astype(np.uint8)).save(held, "JPEG", quality=quality)
    return np.asarray(Image.open(held)).astype(np.float32) / 255


def part_of(rgb: np.ndarray) -> np.ndarray:
    height, width = rgb.shape[:2]
    where = np.zeros((height, width))
    where[height // 8 : height // 2, width // 8 : width // 2] = 1
    return rgb * (1 - 0.25 * gaussian_filter(where, 8))[..., None]


#: What is done to the treated picture, and what must be said of it: that, and nothing else.
HARM = {
    "none": (lambda rgb: rgb, set()),
    "JPEG 85": (lambda rgb: compressed(rgb, 85), set()),
    "JPEG 60": (lambda rgb: compressed(rgb, 60), set()),
    "moved": (lambda rgb: np.roll(rgb, (2, -3), (0, 1)), set()),
    "vignette 10": (lambda rgb: darkened(rgb, 0.1), {"vignette"}),
    "vignette 20": (lambda rgb: darkened(rgb, 0.2), {"vignette"}),
    "vignette 40": (lambda rgb: darkened(rgb, 0.4), {"vignette"}),
    "vignette 20, JPEG": (lambda rgb: compressed(darkened(rgb, 0.2), 85), {"vignette"}),
    "grain": (lambda rgb: rgb + np.random.default_rng(4).normal(0, 3 / 255, (*rgb.shape[:2], 1)), {"grain"}),
    "part": (part_of, {"local work"}),
}


@pytest.mark.parametrize("turn", range(examples(1, 4)))
@pytest.mark.parametrize("harm", HARM)
def test_natural_pictures_give_their_look_and_what_was_done_to_them_is_named(harm, turn):
    """Colours that the pair knows: mean ΔE at most 1, 99 % at most 5, but for work on a part, which says so;
    nothing else is named."""
    number = 4 * list(HARM).index(harm) + turn
    before = natural(number)
    program = Treatment(
        Look.model_validate({"steps": list(TREATED.values())[number % len(TREATED)]})
    ).compile()
    make, named = HARM[harm]
    after = np.clip(make(np.clip(program(before), 0, 1)), 0, 1).astype(np.float32)
    one = found(np.round(after * 255).astype(np.float32) / 255, before)
    assert {f.kind for f in one.findings} == named
    if "vignette" in named:
        assert one.findings[0].amount == pytest.approx(int(harm.split()[1].strip(",")) / 100, rel=0.12)
    colours = before.reshape(-1, 3)
    delta = difference(np.clip(one.lut.apply(colours), 0, 1), np.clip(program(colours), 0, 1), AT)
    seen = delta[guessed(one, colours[None])[0] < 0.5]
    assert len(seen) > 0.9 * len(colours)
    assert seen.mean() <= 1
    assert harm == "part" or np.percentile(seen, 99) <= 5
