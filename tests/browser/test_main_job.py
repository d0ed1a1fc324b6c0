"""The main job, from an open frame to a project's files, as people do it: with mouse and keyboard."""

import io
import json
import re
import zipfile
from collections.abc import Callable
from typing import Any

import numpy as np
import PyOpenColorIO as ocio
from playwright.sync_api import Page, expect
from saucer_core.baking.bake import bake
from saucer_core.baking.fit import fit
from saucer_core.formats import cube, pictures, recipe
from saucer_core.look import Look
from saucer_core.program import Program
from saucer_core.tables.lut import Lut
from saucer_core.treatment import Treatment, evaluate
from saucer_core.trim import Trim

from .hands import add_step, draft_of, look_id, tick, type_in
from .seen import apart, computed, places, shown

NAME = "Wedge and wheel"


def _build(page: Page) -> Look:
    page.get_by_role("button", name="New look").click()
    page.get_by_role("textbox", name="Name").fill(NAME)
    comes_in = page.get_by_role("button", name="Comes in as")
    expect(comes_in).to_contain_text("BT.709 display")
    comes_in.click()
    page.get_by_role("option", name="film log", exact=True).click()
    page.get_by_role("button", name="Start", exact=True).click()
    page.wait_for_url(re.compile(r"/bench/\d+"))
    tick(page, "radio", "North shelf")

    add_step(page, "curv", "Curves")
    # By mouse: a point put into the plot, then dragged.
    plot = page.get_by_role("group", name="all curve")
    box = plot.bounding_box()
    assert box
    at = lambda x, y: (box["x"] + x * box["width"], box["y"] + (1 - y) * box["height"])  # noqa: E731
    page.mouse.click(*at(0.3, 0.3))
    page.mouse.move(*at(0.3, 0.3))
    page.mouse.down()
    page.mouse.move(*at(0.28, 0.26), steps=4)
    page.mouse.move(*at(0.3, 0.25), steps=4)
    page.mouse.up()
    # By keys: the blue end lowered; by numbers: its black lifted.
    page.get_by_role("radio", name="Blue").click()
    last = page.get_by_role("slider", name="Point 2 of the blue curve")
    last.focus()
    for _ in range(3):
        last.press("Shift+ArrowDown")
    type_in(page, "Point 1 out, 8-bit", "12")

    add_step(page, "channel", "Channel mix")
    type_in(page, "from green", "12", "New red")
    add_step(page, "zone", "Zone tint")
    page.get_by_role("radio", name="Highlights").click()
    type_in(page, "Hue", "70")
    page.get_by_role("slider", name="Tint, slider").focus()
    for _ in range(3):
        page.keyboard.press("PageUp")
    return draft_of(page)


def _check_picture(page: Page, look: Look) -> None:
    canvas = page.locator("main canvas[data-picture]")
    expect(canvas).to_have_attribute("data-exact", "yes")
    at = places(page, canvas.get_attribute("data-picture") or "")
    off = apart(shown(canvas), computed(look, at))
    assert off.max() <= 2, f"the canvas is up to {off.max()} codes from the core"


def _with_ocio(path: str, rgb: np.ndarray) -> np.ndarray:
    transform = ocio.FileTransform(path, interpolation=ocio.INTERP_TETRAHEDRAL)
    cpu = ocio.Config.CreateRaw().getProcessor(transform).getOptimizedCPUProcessor(ocio.OPTIMIZATION_NONE)
    out = np.array(rgb, dtype=np.float32, copy=True)
    cpu.applyRGB(out)
    return out


def _check_file(path: str, look: Look, stated: float, make: Callable[[Program, int], Lut] = bake) -> None:
    """OpenColorIO gives our table's pixels (1e-5), and stays within the stated error of the look."""
    rgb = np.random.default_rng(2).uniform(0, 1, (20_000, 3)).astype(np.float32)
    theirs = _with_ocio(path, rgb)
    table = make(Treatment(look).compile(), 33)
    np.testing.assert_allclose(theirs, table.apply(rgb), atol=1e-5)
    off = np.abs(np.clip(theirs, 0, 1) - np.clip(evaluate(look, rgb), 0, 1)).max() * 1023
    # The sheet measures at its own points: another sample may find a colour a little worse.
    assert off <= stated * 1.15 + 0.05


def test_from_a_frame_to_the_files_of_a_project(enter, tmp_path):
    page = enter("ines", "/catalogue")
    look = _build(page)
    kinds = [s.kind for s in look.steps]
    assert kinds == ["scene_to_display", "curves", "channel_mix", "zone_tint"]
    curves, mix, tint = look.steps[1:]
    assert len(curves.all) == 3
    assert np.allclose(curves.all[1], (0.3, 0.25), atol=0.006)
    assert np.allclose([curves.blue[0][1], curves.blue[1][1]], [12 / 255, 1 - 30 / 255], atol=1e-4)
    assert mix.red.green == 0.12
    assert (tint.highlights.hue, tint.highlights.amount) == (70, 0.3)
    _check_picture(page, look)

    page.keyboard.press("Escape")
    page.get_by_role("button", name="Keep revision").click()
    page.get_by_role("textbox", name="What is new in it").fill("first that holds")
    page.get_by_role("button", name="Keep and bake").click()
    page.wait_for_url("**/bake?revision=*")
    expect(page.get_by_text("nothing an eye would catch")).to_be_visible(timeout=60_000)
    tick(page, "radio", "inside the project")
    tick(page, "radio", "33, fitted")
    page.get_by_text("every step, still adjustable").click()
    page.get_by_role("button", name="Bake 2 files").click()
    with page.expect_download() as taken:
        page.get_by_role("link", name=f"Fetch {NAME}_r1_BT.709 display_33.cube").click()
    assert taken.value.suggested_filename == f"{NAME}_r1_BT.709 display_33.cube"
    path = tmp_path / taken.value.suggested_filename
    taken.value.save_as(path)
    made = {row["format"]: row for row in page.request.get(f"/api/looks/{look_id(page)}/bakes").json()}
    _check_file(str(path), look, made["cube"]["deviation"]["largest"], fit)
    assert made["cube"]["method"] == "fitted"
    assert "Rights: inside the project" in cube.read(path).comments
    back = recipe.loads(page.request.get(f"/api/bakes/{made['recipe']['id']}/file").text(), "recipe")
    assert (back.look, back.name) == (look, NAME)

    page.get_by_role("link", name="Catalogue").click()
    page.get_by_role("textbox", name="Search").fill("wedge wheel")
    expect(page.get_by_role("status").filter(has_text=re.compile(r"^1 of \d+ looks"))).to_be_visible()
    page.get_by_role("button", name=f"Try {NAME}").click()
    expect(page.get_by_role("dialog", name=NAME)).to_be_visible()
    page.keyboard.press("Escape")

    _deliver(page, look)


def _deliver(page: Page, look: Look) -> None:
    page.get_by_role("link", name="Projects").click()
    page.get_by_role("link", name=re.compile("Glaze catalogue")).click()
    for shot in ("Glaze tests", "Heads, bisque"):
        tick(page, "checkbox", f"Choose {shot}")
    page.get_by_role("button", name="Put a look on").first.click()
    page.get_by_role("textbox", name="Search looks").fill("wedge")
    page.get_by_role("option", name=NAME).click()
    expect(page.get_by_role("img", name=f"Heads, bisque under {NAME}")).to_be_visible()
    page.get_by_role("button", name="Put it on").click()
    expect(page.get_by_role("listitem", name="Heads, bisque")).to_contain_text(NAME)

    page.get_by_role("button", name="Trim Heads, bisque").click()
    _type_in(page.get_by_role("dialog"), "Exposure", "1.2")
    page.get_by_role("dialog").get_by_role("button", name="Keep", exact=True).click()
    expect(page.get_by_role("listitem", name="Heads, bisque")).to_contain_text("+1.2 stops")

    page.get_by_role("link", name="Deliver").click()
    page.get_by_role("button", name="Deliver as number 1").click()
    # The look that was baked *inside the project* has no rights of its own; nothing stops it.
    with page.expect_download(timeout=120_000) as taken:
        page.get_by_role("link", name="Fetch").click(timeout=110_000)
    project = page.request.get("/api/projects").json()
    number = next(p["id"] for p in project if p["name"].startswith("Glaze"))
    shots = page.request.get(f"/api/projects/{number}").json()["shots"]
    _check_package(taken.value.path().read_bytes(), look, shots)


def _type_in(place, label: str, value: str) -> None:
    box = place.get_by_role("textbox", name=label, exact=True)
    box.fill(value)
    box.press("Enter")


def _check_package(data: bytes, look: Look, shots: list[dict[str, Any]]) -> None:
    package = zipfile.ZipFile(io.BytesIO(data))
    contents = json.loads(package.read("contents.json"))
    listed = {f["path"] for f in contents["files"]}
    assert set(package.namelist()) == listed | {"contents.json", "contents.txt", "checksums.sha256"}
    assert {n for n in listed if n.startswith("looks/")} == {
        f"looks/{NAME}_r1.saucer.json",
        "looks/Celadon wash_r1.saucer.json",
    }
    assert recipe.loads(package.read(f"looks/{NAME}_r1.saucer.json").decode(), "r").look == look

    heads = next(s for s in contents["shots"] if s["name"] == "Heads, bisque")
    trim = Trim.model_validate(heads["trim"])
    assert trim.exposure == 1.2
    name = next(n for n in listed if n.startswith(f"luts/shots/{heads['number']:03d}"))
    own = cube.read_text(package.read(name).decode(), name)
    rgb = np.random.default_rng(3).uniform(0, 1, (500, 3)).astype(np.float32)
    np.testing.assert_allclose(
        own.apply(rgb), bake(Treatment(look, "film_log", trim).compile(), 33).apply(rgb), atol=1e-5
    )
    assert len(shots) == len(contents["shots"]) == 3
    still = next(n for n in listed if n.startswith(f"stills/{heads['number']:03d}"))
    assert _png_size(io.BytesIO(package.read(still))) == (1280, 720)


def _png_size(data: io.BytesIO) -> tuple[int, int]:
    import tempfile
    from pathlib import Path

    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "still.png"
        path.write_bytes(data.getvalue())
        _, facts = pictures.read(path)
    assert facts.depth == "16 bit"
    return facts.width, facts.height
