"""Carriers damaged on purpose: each damage is named, clean ones are taken."""

import io

import numpy as np
import pytest
from numpy.testing import assert_allclose, assert_array_equal
from PIL import Image
from saucer_core.baking.bake import bake
from saucer_core.baking.capture import capture
from saucer_core.errors import CoreError
from saucer_core.formats import carrier, pictures
from saucer_core.formats.carrier import fitted_beside
from saucer_core.look import Look
from saucer_core.tables.carrier import beside, hald, picture, strip, tiles
from saucer_core.tables.health import health
from saucer_core.tables.lut import Lut, identity_grid
from saucer_core.treatment import Treatment
from scipy.ndimage import gaussian_filter

from demo.looks import LOOKS

from .carrier_cases import ARRANGEMENTS, DAMAGE, HONEST

FROM_DEMO = {d.name: d.look() for d in LOOKS}
GIVEN = {"none": Look(), **{name: FROM_DEMO[name] for name in ("Cross bath", "Faded card")}}
ARRANGED = {"hald": hald(8), "tiles": tiles(64)}


def rounded(rgb, codes=255):
    return (np.round(np.clip(rgb, 0, 1) * codes) / codes).astype(np.float32)


def grained(rgb, codes):
    return rgb + np.random.default_rng(4).normal(0, codes / 255, rgb.shape).astype(np.float32)


def vignetted(rgb, amount):
    h, w = rgb.shape[:2]
    y, x = np.mgrid[0:h, 0:w]
    away = (((x + 0.5) / w * 2 - 1) ** 2 + ((y + 0.5) / h * 2 - 1) ** 2) / 2
    return rgb * (1 - amount * away)[..., None].astype(np.float32)


def blurred(rgb, sigma):
    return np.stack([gaussian_filter(rgb[..., c], sigma) for c in range(3)], axis=-1)


def through_pillow(rgb, change):
    image = Image.fromarray((np.clip(rgb, 0, 1) * 255 + 0.5).astype(np.uint8))
    return np.asarray(change(image).convert("RGB")).astype(np.float32) / 255


def compressed(quality):
    def save(image):
        data = io.BytesIO()
        image.save(data, "JPEG", quality=quality, subsampling=0)
        return Image.open(data)

    return lambda rgb: through_pillow(rgb, save)


def shrunk(rgb):
    h, w = rgb.shape[:2]
    return through_pillow(
        rgb,
        lambda i: i.resize((w // 2, h // 2), Image.Resampling.BICUBIC).resize(
            (w, h), Image.Resampling.BICUBIC
        ),
    )


#: What a kind of damage may be called. Neighbours that are mixed and light that follows the place look alike
#: where either is small.
NAMES = {
    "vignette": {"shading"},
    "light from one side": {"gradient"},
    "light from above": {"gradient"},
    "glow": {"glow"},
    "softening": {"softening", "filtering"},
    "sharpening": {"sharpening", "filtering", "local", "glow", "gradient"},
    "resized there and back": {"softening", "filtering", "glow", "mark"},
    "lossy compression": {"compression", "softening", "filtering", "noise"},
    "grain": {"noise"},
    "local tone mapping": {"local", "gradient", "glow", "shading"},
    "median filter": {"softening", "filtering", "glow"},
    "shifted": {"shifted"},
    "watermark": {"mark"},
    "palette": {"palette"},
}
#: What is done, the depth that the file has then, what it is to be called, and the verdict.
DAMAGES = {
    "16 bit": (lambda x: rounded(x, 65535), "16 bit", None, "accept"),
    "8 bit": (rounded, "8 bit", None, "accept"),
    "8-bit rounding": (rounded, "16 bit", "rounding", "accept"),
    "light grain": (lambda x: rounded(grained(x, 1), 65535), "16 bit", "noise", "smooth"),
    "grain": (lambda x: rounded(grained(x, 3)), "8 bit", "noise", "smooth"),
    "heavy grain": (lambda x: rounded(grained(x, 8)), "8 bit", "noise", "refuse"),
    "JPEG 95": (compressed(95), "8 bit", "compression", None),
    "JPEG 60": (compressed(60), "8 bit", "compression", None),
    "JPEG 60, saved as PNG": (compressed(60), "8 bit", "compression", None),
    "vignette": (lambda x: rounded(vignetted(x, 0.1), 65535), "16 bit", "shading", "refuse"),
    "strong vignette": (lambda x: rounded(vignetted(x, 0.3)), "8 bit", "shading", "refuse"),
    "blur": (lambda x: rounded(blurred(x, 0.6), 65535), "16 bit", "softening", "refuse"),
    "strong blur": (lambda x: rounded(blurred(x, 1.2)), "8 bit", "softening", "refuse"),
    "sharpening": (lambda x: rounded(x + 0.6 * (x - blurred(x, 1)), 65535), "16 bit", "sharpening", "refuse"),
    "there and back in size": (lambda x: rounded(shrunk(x)), "8 bit", "softening", "refuse"),
}


@pytest.mark.parametrize(
    ("damage", "layout"),
    [(d, k) for d in DAMAGES for k in ARRANGED if k == "hald" or "strong" in d or "bit" in d],
)
def test_damage_is_named(damage, layout):
    change, depth, named, verdict = DAMAGES[damage]
    for name, look in GIVEN.items():
        arrangement = ARRANGED[layout]
        if name == "none" and damage in ("JPEG 60, saved as PNG", "sharpening"):
            # Blocks of eight even shades lose nothing by compression, and black and white are not pushed
            # beyond their ends.
            continue
        rgb = picture(arrangement, bake(Treatment(look).compile(), arrangement.grid).grid)
        kind = "JPEG" if damage in ("JPEG 95", "JPEG 60") else "PNG"
        found = capture(change(rgb).astype(np.float32), depth=depth, kind=kind)
        kinds = {f.kind for f in found.findings}
        assert found.arrangement == arrangement
        assert (
            (kinds & {named, *(NAMES["sharpening"] if named == "sharpening" else ())}) if named else not kinds
        ), (name, found.findings)
        if verdict:
            assert found.verdict == verdict, (name, found.findings)
        if found.verdict == "smooth":
            assert 0 < found.change[0] < 3
            assert found.smoothed is not None
        assert all(f.words for f in found.findings)


DARK = {"x²·0.6": (2, 0.6), "x³·0.6": (3, 0.6), "x⁴·0.6": (4, 0.6), "half": (1, 0.5), "lifted": (0.45, 1)}


@pytest.mark.parametrize("layout", ARRANGED)
@pytest.mark.parametrize("bent", DARK)
def test_clean_carriers_of_dark_looks_are_taken(bent, layout):
    power, share = DARK[bent]
    grid = (identity_grid(64) ** np.float32(power) * np.float32(share)).astype(np.float32)
    found = capture(rounded(picture(ARRANGED[layout], grid), 65535))
    assert (found.verdict, found.findings) == ("accept", ())


@pytest.mark.parametrize("layout", ARRANGED)
@pytest.mark.parametrize("name", ["Cross bath", "Faded card", "Oxide"])
def test_a_broad_glow_is_found_out(name, layout):
    """Screened over the picture; at its strongest it adds about 16 of 255."""
    rgb = picture(ARRANGED[layout], bake(Treatment(FROM_DEMO[name]).compile(), 64).grid)
    glowing = 1 - (1 - rgb) * (1 - np.float32(0.1) * blurred(rgb, 0.08 * len(rgb)))
    found = capture(rounded(glowing, 65535))
    assert (found.verdict, [f.kind for f in found.findings]) == ("refuse", ["glow"])


@pytest.mark.parametrize("layout", ["square 64", "tiles 33", "strip 33"])
def test_posterising_may_be_meant(layout):
    """It is said, asked about, and taken."""
    given = (np.round(picture(ARRANGEMENTS[layout]) * 5) / np.float32(5)).astype(np.float32)
    found = capture(given)
    assert found.verdict == "ask"
    assert "posterising" in {f.kind for f in found.findings}
    assert "6 / 6 / 6 steps" in found.reasons()[0]
    assert_array_equal(picture(ARRANGEMENTS[layout], found.lut.grid), given)


#: Layouts on which every look is tried, and those on which a few are: large ones take a second each.
EVERY = ("square 25", "square 36", "strip 17", "strip 33", "tiles 17", "tiles 32", "tiles 33")
LARGE = ("square 64", "strip 64", "tiles 64", "tiles 65")


@pytest.mark.parametrize(
    ("layout", "name"),
    [(k, name) for k in EVERY for name in HONEST]
    + [
        (k, name)
        for k in LARGE
        for name in ("nothing", "ACEScct to display", "saturation 2", "two-colour ramp")
    ],
)
def test_looks_are_taken(layout, name):
    """The table of looks in docs/colour.md: taken on every layout, 16 and 8 bits deep, and right on the
    points."""
    arrangement = ARRANGEMENTS[layout]
    wanted = np.clip(HONEST[name](identity_grid(arrangement.grid).astype(np.float64)), 0, 1)
    for codes, depth in ((65535, "16 bit"), (255, "8 bit")):
        found = capture(rounded(picture(arrangement, wanted), codes), depth=depth)
        assert found.verdict == "accept", found.findings
        assert {f.kind for f in found.findings} <= {"untold"}
        assert found.arrangement == arrangement
        assert np.abs(found.lut.grid - wanted).max() <= max(1e-4, 0.51 / codes)


#: What is not told, and why: docs/colour.md says it.
UNTOLD = {
    ("strip 33", name)
    for name in (
        "vignette",
        "light from one side",
        "light from above",
        "glow",
        "local tone mapping",
        "watermark",
    )
}


@pytest.mark.parametrize("name", ["S-curve", "faded"])
@pytest.mark.parametrize("layout", ["square 36", "tiles 33", "strip 33"])
@pytest.mark.parametrize("damage", DAMAGE)
def test_damage_is_not_taken_for_a_look(damage, layout, name):
    """The table of damage in docs/colour.md: each at three strengths is named, and nothing damaged counts as
    sound."""
    arrangement = ARRANGEMENTS[layout]
    change, strengths = DAMAGE[damage]
    clean = picture(
        arrangement, np.clip(HONEST[name](identity_grid(arrangement.grid).astype(np.float64)), 0, 1)
    ).astype(np.float64)
    for strength in strengths:
        found = capture(rounded(change(clean, strength), 65535))
        if (layout, damage) in UNTOLD:
            assert "untold" in {f.kind for f in found.findings} or found.verdict == "refuse"
            continue
        if layout == "strip 33" and name == "S-curve" and damage in ("sharpening", "median filter"):
            # Where black and white are at the ends of every line, nothing is pushed beyond them, and a median
            # leaves them.
            continue
        assert found.verdict in ("refuse", "smooth"), strength
        assert any(f.kind in NAMES[damage] for f in found.findings), (strength, found.findings)


@pytest.mark.parametrize("layout", ARRANGED)
def test_a_vignette_with_grain_is_called_both(layout):
    rgb = picture(ARRANGED[layout], bake(Treatment(FROM_DEMO["Faded card"]).compile(), 64).grid)
    for depth, codes in (("16 bit", 65535), ("8 bit", 255)):
        found = capture(rounded(grained(vignetted(rgb, 0.2), 2), codes), depth=depth)
        assert {f.kind for f in found.findings} == {"shading", "noise"}


def test_smoothing_comes_nearer_to_the_look():
    look = GIVEN["Faded card"]
    clean = bake(Treatment(look).compile(), 64).grid
    found = capture(rounded(grained(picture(hald(8), clean), 3)))
    grids = [np.asarray(lut.grid) for lut in (found.lut, found.smoothed)]
    off = [np.abs(np.clip(grid, 0, 1) - np.clip(clean, 0, 1)).mean() for grid in grids]
    assert off[1] < off[0] / 3


def test_what_is_no_carrier():
    assert capture(np.zeros((500, 500, 3), np.float32)).findings[0].kind == "size"
    scene = np.random.default_rng(1).uniform(0, 1, (512, 512, 3)).astype(np.float32)
    assert capture(scene).findings[0].kind == "not a carrier"
    few = through_pillow(picture(hald(8)), lambda i: i.quantize(256))
    assert capture(few, depth="8 bit").findings[0].kind == "palette"


def test_a_profile_in_the_file_is_named(tmp_path):
    """A PNG with an embedded profile, made by Pillow's ImageCms (LittleCMS)."""
    from PIL import ImageCms

    path = tmp_path / "carrier.png"
    rgb = picture(hald(4))
    profile = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
    Image.fromarray((rgb * 255 + 0.5).astype(np.uint8)).save(path, icc_profile=profile)
    found = carrier.read(path)
    assert "profile" in {f.kind for f in found.findings}
    assert pictures.read(path)[1].profile


@pytest.mark.parametrize("arrangement", [strip(32), hald(6)], ids=str)
def test_other_layouts_come_back_clean(arrangement):
    for look in GIVEN.values():
        lut = bake(Treatment(look).compile(), arrangement.grid)
        found = capture(rounded(picture(arrangement, lut.grid), 65535))
        assert (found.verdict, found.arrangement) == ("accept", arrangement), found.findings
        assert np.abs(found.lut.grid - np.clip(lut.grid, 0, 1)).max() < 1e-4


def test_health_tells_sound_tables_from_spoiled_ones():
    sound = health(bake(Treatment(FROM_DEMO["Oxide"]).compile(), 33))
    assert sound.findings() == []
    assert health(Lut(identity_grid(17))).from_identity == pytest.approx((0, 0), abs=1e-6)

    grid = identity_grid(33)
    assert "rough from point to point" in " ".join(health(Lut(rounded(grained(grid, 4)))).findings())
    turned = np.ascontiguousarray(np.where(grid > 0.6, 1.2 - grid, grid))
    spoiled = health(Lut(turned))
    assert spoiled.reversals > 10
    assert spoiled.folds > 0.05
    assert any("turn back" in words for words in spoiled.findings())
    posterised = health(Lut(np.ascontiguousarray(np.round(np.sqrt(grid) * 12) / 12)))
    assert posterised.grey_steps < 256
    assert posterised.flats > 0.1
    steep = health(Lut(np.ascontiguousarray(np.clip((grid - 0.45) * 12, 0, 1))))
    assert steep.steepest == pytest.approx(12, abs=0.5)
    assert steep.clipped > 0.5


@pytest.mark.parametrize("layout", ["hald", "tiles"])
def test_a_carrier_beside_a_picture_is_found_in_it(layout):
    """The other program changed both; the carrier alone becomes the table."""
    arranged = ARRANGED[layout]
    scene = (
        np.random.default_rng(2)
        .uniform(0, 1, (2 * arranged.height, 3 * arranged.height, 3))
        .astype(np.float32)
    )
    both = beside(picture(arranged), fitted_beside(scene, arranged))
    assert both.shape[0] == arranged.height
    changed = rounded(both**1.2, 65535)
    found = capture(changed)
    assert found.verdict == "accept"
    assert found.arrangement == arranged
    assert found.picture is not None
    assert_array_equal(found.picture, changed[:, -arranged.width :])
    assert found.lut is not None
    assert_allclose(found.lut.grid, identity_grid(arranged.grid) ** 1.2, atol=2e-5)


def test_what_cannot_stand_beside_a_carrier():
    with pytest.raises(CoreError, match="at least 512 pixels high"):
        fitted_beside(np.zeros((100, 100, 3), np.float32), hald(8))
    with pytest.raises(CoreError, match="as high as that"):
        beside(picture(hald(4)), np.zeros((10, 10, 3), np.float32))


def test_what_no_look_explains_is_drawn_where_it_is():
    rgb = picture(hald(8))
    rgb[100:140, 200:240] = np.clip(
        rgb[100:140, 200:240] + 0.05 * np.random.default_rng(1).standard_normal((40, 40, 3)), 0, 1
    )
    found = capture(rounded(rgb, 65535))
    assert found.unexplained is not None
    off = np.abs(found.unexplained).max(axis=-1)
    assert off[100:140, 200:240].mean() > 10 * off[300:, 300:].mean()
