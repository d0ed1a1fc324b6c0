"""ICC profiles against Little CMS, as Pillow brings it."""

import io

import numpy as np
import pytest
from PIL import Image, ImageCms
from saucer_core.encodings import ENCODINGS, convert, encoding
from saucer_core.formats import pictures
from saucer_core.formats.icc import profile

DISPLAYS = [key for key, e in ENCODINGS.items() if e.response == "display"]
SRGB = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB"))


@pytest.mark.parametrize("key", DISPLAYS)
def test_little_cms_converts_as_the_core_does(key):
    """Pillow with Little CMS 2, relative colorimetric: to sRGB and back, where the core adapts whites with
    Bradford as ICC does."""
    e = encoding(key)
    ours = ImageCms.ImageCmsProfile(io.BytesIO(profile(e)))
    assert ImageCms.getProfileDescription(ours).strip() == e.label
    code = np.random.default_rng(4).integers(40, 216, (40, 50, 3)).astype(np.uint8)
    to = ImageCms.buildTransform(ours, SRGB, "RGB", "RGB", ImageCms.Intent.RELATIVE_COLORIMETRIC)
    theirs = np.asarray(ImageCms.applyTransform(Image.fromarray(code), to)).astype(float)
    wanted = convert(code.astype(np.float32) / 255, e, encoding("srgb"), "bradford") * 255
    inside = ((wanted > 1) & (wanted < 254)).all(axis=-1)
    assert inside.mean() > 0.5
    assert np.abs(theirs - wanted)[inside].max() < 2


def test_what_no_matrix_and_curves_describe_has_none():
    assert {key for key in ENCODINGS if not profile(encoding(key))} == set(ENCODINGS) - set(DISPLAYS)


@pytest.mark.parametrize("suffix", [".jpg", ".png", ".tif"])
def test_pictures_carry_it(suffix, tmp_path):
    path = tmp_path / f"pot{suffix}"
    pictures.write(path, np.full((8, 8, 3), 0.4, np.float32), at=encoding("display_p3"))
    with Image.open(path) as picture:
        assert picture.info["icc_profile"] == profile(encoding("display_p3"))
    assert pictures.load(path).facts.profile == "Display P3"
