"""Looks that come in: the demo pack read, judged and kept; a table inspected and made editable; a look from a
pair."""

import io
import re
import zipfile

import numpy as np
from playwright.sync_api import expect
from saucer_core.baking.bake import bake
from saucer_core.formats import cube, pictures
from saucer_core.look import Look
from saucer_core.treatment import Treatment

from tests.core.test_pair import AFTER, BEFORE

from .hands import look_id, row

WARM = Look.model_validate(
    {
        "steps": [
            {"kind": "balance", "temperature": 12},
            {"kind": "curves", "all": [[0, 0.05], [0.5, 0.5], [1, 0.95]]},
        ]
    }
)


def _pack() -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as z:
        z.writestr("wheel room/warm_wheel.cube", cube.write_text(bake(Treatment(WARM).compile(), 17)))
        z.writestr("wheel room/broken.cube", "LUT_3D_SIZE 2\n0 0 0\n")
    return out.getvalue()


def test_the_demo_pack_is_read_judged_and_kept(enter, axe):
    page = enter("ines", "/catalogue/bring-in")
    page.get_by_role("link", name=re.compile("kiln_yard_pack.zip")).click()
    page.get_by_role("button", name="Read it").click()
    expect(page.get_by_text("10 of 14 will be kept")).to_be_visible()
    expect(page.get_by_role("row", name="whitewash_noon")).to_contain_text("line 812")
    expect(page.get_by_role("row", name="Straw, late hour")).to_contain_text("twin of Late straw")
    assert axe(page) == []
    wood = page.get_by_role("row", name="Wood ash")
    expect(wood).to_contain_text("100 %, written in it")
    expect(page.get_by_role("textbox", name=re.compile("^Licence text, found in LICENCE.txt"))).to_have_value(
        re.compile("sold on")
    )
    # By keyboard: a row is left out with the space bar, its encodings open with E.
    wood.focus()
    page.keyboard.press("Space")
    expect(page.get_by_text("9 of 14 will be kept")).to_be_visible()
    page.get_by_role("row", name="Kiln dusk").focus()
    page.keyboard.press("e")
    expect(page.get_by_role("dialog", name="Encodings of Kiln dusk")).to_be_visible()
    page.keyboard.press("Escape")
    page.get_by_role("textbox", name="Collection for fired").fill("Kiln series")
    page.keyboard.press("Enter")
    page.get_by_role("textbox", name="Where it comes from").fill("Ines Tallow, autumn")
    page.get_by_text("inside the studio").click()
    page.get_by_role("button", name="Keep 9 looks").click()
    page.get_by_role("button", name="Open the catalogue").click()
    page.get_by_role("radio", name=re.compile(r"^Kiln series \d")).click()
    expect(page.get_by_role("status").filter(has_text="6 of")).to_be_visible()
    expect(page.get_by_text("Copper red")).to_be_visible()


def test_a_zip_is_inspected_and_becomes_editable_steps(enter, axe):
    page = enter("ines", "/catalogue/bring-in")
    file = {"name": "wheel.zip", "mimeType": "application/zip", "buffer": _pack()}
    page.locator("input[type=file]").first.set_input_files(file)
    expect(page.get_by_text("1 of 2 will be kept")).to_be_visible()
    page.get_by_role("link", name="warm wheel").click()
    expect(page.get_by_role("heading", level=1, name="warm wheel")).to_be_visible()
    expect(page.get_by_text("from wheel.zip, not kept yet")).to_be_visible()
    # The cloud is drawn, and turns by the arrow keys.
    cloud = page.get_by_role("application", name=re.compile("^Cloud of colours"))
    before = cloud.get_attribute("aria-label")
    assert np.std(pictures_of(cloud.screenshot())) > 8
    cloud.press("ArrowLeft")
    expect(cloud).not_to_have_attribute("aria-label", before or "")
    page.get_by_role("radio", name="by lightness").click()
    expect(page.get_by_alt_text("Six slices of the cube by lightness")).to_be_visible()
    page.get_by_role("button", name="Find the steps").click()
    expect(page.get_by_role("button", name="Open on the bench")).to_be_visible()
    assert axe(page) == []
    page.get_by_role("button", name="Open on the bench").click()
    page.wait_for_url(re.compile(r"/bench/\d+"))
    expect(row(page, "Rest")).to_be_visible()
    look = page.evaluate("(id) => fetch(`/api/looks/${id}`).then((r) => r.json())", look_id(page))
    found = Look.model_validate(look["draft"])
    assert len(found.steps) >= 2
    bare = found.model_copy(update={"steps": [s for s in found.steps if s.kind != "lut"]})
    rgb = np.random.default_rng(5).uniform(0, 1, (300, 3)).astype(np.float32)
    assert np.abs(Treatment(bare).compile()(rgb) - Treatment(WARM).compile()(rgb)).mean() < 0.01


def pictures_of(png: bytes) -> np.ndarray:
    from PIL import Image

    return np.asarray(Image.open(io.BytesIO(png)).convert("RGB"))


def test_a_look_from_a_pair(enter, tmp_path):
    page = enter("ines", "/catalogue/pair")
    for name, rgb in (("before.png", BEFORE), ("after.png", AFTER)):
        pictures.write(tmp_path / name, rgb, "uint8")
    inputs = page.locator("input[type=file]")
    inputs.nth(0).set_input_files(tmp_path / "before.png")
    inputs.nth(1).set_input_files(tmp_path / "after.png")
    expect(page.get_by_role("heading", name=re.compile(r"A look explains 9\d %"))).to_be_visible()
    page.get_by_role("textbox", name="Where it comes from").fill("a test")
    page.get_by_role("button", name="Make a look of it").click()
    page.wait_for_url(re.compile(r"/bench/\d+"))
    look = page.evaluate("(id) => fetch(`/api/looks/${id}`).then((r) => r.json())", look_id(page))
    assert (look["name"], look["draft"]["steps"][0]["kind"], look["trouble"]) == ("after", "lut", "")
