"""The job across projects: stills and a clip come in, looks and trims go on, what stands out is mended, a
newer revision rolls out, and the editing room gets it.
"""

import hashlib
import io
import json
import re
import subprocess
import sys
import zipfile
from pathlib import Path
from typing import Any

import numpy as np
import PyOpenColorIO as ocio
from playwright.sync_api import Page, expect
from saucer_core.formats import clips, pictures

from .hands import tick, until

ROOT = Path(__file__).parents[2]
CLIP = ROOT / "demo" / "clips" / "from_yard_to_fire_log.mov"


def _project(page: Page, number: int) -> dict[str, Any]:
    return page.request.get(f"/api/projects/{number}").json()


def _shot(page: Page, number: int, name: str) -> dict[str, Any]:
    return next(s for s in _project(page, number)["shots"] if s["name"] == name)


def _begin(page: Page, name: str) -> int:
    page.get_by_role("button", name="New project").click()
    page.get_by_role("textbox", name="Name").fill(name)
    page.get_by_role("button", name="Start project").click()
    page.wait_for_url(re.compile(r"/projects/\d+$"))
    return int(page.url.rpartition("/")[2])


def _put_on(page: Page, look: str, *, over: bool = False, strength: str = "") -> None:
    """In the sheet that is open: a look by name, seen on the shots, then put on."""
    sheet = page.get_by_role("dialog")
    sheet.get_by_role("textbox", name="Search looks").fill(look)
    sheet.get_by_role("option", name=re.compile(look)).first.click()
    expect(sheet.get_by_role("status").filter(has_text="nothing is put on yet")).to_be_visible()
    if strength:
        box = sheet.get_by_role("textbox", name="Strength", exact=True)
        box.fill(strength)
        box.press("Enter")
    if over:
        tick_radio(page, "Over it")
    sheet.get_by_role("button", name="Stack it" if over else "Put it on").click()
    expect(page.get_by_role("dialog")).to_have_count(0)


def tick_radio(page: Page, name: str) -> None:
    page.get_by_role("radio", name=name).click()


def test_from_a_clip_and_stills_to_the_editing_room(enter, tmp_path, site):
    page = enter("odile", "/projects")
    number = _begin(page, "Autumn film")

    # A rule reads what comes in by its name; a still and a clip come in at once.
    page.get_by_role("button", name="Members").click()
    page.get_by_role("button", name="Add a rule").click()
    page.get_by_role("textbox", name="fits the pattern").fill("*_log*")
    page.get_by_role("dialog").get_by_role("button", name="Keep").click()
    expect(page.get_by_role("dialog")).to_have_count(0)
    still = tmp_path / "jar_log.png"
    y, x = np.mgrid[0:90, 0:160].astype(np.float32)
    pictures.write(still, np.stack([0.3 + x / 500, 0.32 + y / 400, 0.36 + x * 0], axis=-1))
    page.get_by_role("button", name="Add shots").first.click()
    page.locator("input[type=file]").set_input_files([str(still), str(CLIP)])
    expect(page.get_by_text("a clip: look at its cuts below")).to_be_visible()
    expect(page.get_by_text("a shot now")).to_be_visible()
    # The demo's own clip of the same frames stands in the list too.
    newest = (
        page.get_by_role("list", name="Clips")
        .get_by_role("listitem")
        .filter(has_text="from_yard_to_fire_log")
        .first
    )
    expect(newest).to_contain_text("132 frames", timeout=60_000)
    newest.get_by_role("link", name="Look at its cuts").click()

    # Three shots were found; one is left behind, one is cut once more, and that is taken back.
    parts = page.get_by_role("list", name="Shots that were found")
    expect(parts.get_by_role("listitem")).to_have_count(3)
    expect(page.get_by_role("button", name="Encoded as")).to_contain_text("film log")
    page.get_by_role("button", name="Cut there").click()
    expect(parts.get_by_role("listitem")).to_have_count(4)
    parts.get_by_role("listitem", name="Part 3").get_by_role("button", name="No cut here").click()
    expect(parts.get_by_role("listitem")).to_have_count(3)
    page.get_by_role("checkbox", name="Take part 1").locator("xpath=ancestor::label").click()
    page.get_by_role("button", name="Take 2 shots").click()
    page.wait_for_url(re.compile(rf"/projects/{number}$"), timeout=60_000)
    rows = page.get_by_role("listitem", name=re.compile("from_yard|jar"))
    expect(rows).to_have_count(3)
    assert {s["frame"]["encoding"] for s in _project(page, number)["shots"]} == {"film_log"}

    # A scene with a look, one shot with a second one over it, and that taken back and done again.
    for name in ("from_yard_to_fire_log 2", "from_yard_to_fire_log 3"):
        tick(page, "checkbox", f"Choose {name}")
    page.get_by_role("button", name="Scene ▾").first.click()
    page.get_by_role("menuitem", name="New scene …").click()
    page.get_by_role("textbox", name="Name of the scene").fill("Fire and wheel")
    page.get_by_role("dialog").get_by_role("button", name="Keep").click()
    page.get_by_role("button", name=re.compile("^Scene Fire and wheel")).click()
    page.get_by_role("menuitem", name="Put a look on it").click()
    _put_on(page, "Plain print", strength="80")
    fire = page.get_by_role("listitem", name="from_yard_to_fire_log 2")
    expect(fire).to_contain_text("80 % · from the scene")
    page.get_by_role("region", name="On the whole project").get_by_role(
        "button", name="Put a look on"
    ).click()
    _put_on(page, "North window")
    jar = page.get_by_role("listitem", name="jar_log")
    expect(jar).to_contain_text("from the project")
    page.get_by_role("checkbox", name="Choose all shots").locator("xpath=ancestor::label").click()
    page.get_by_role("checkbox", name="Choose all shots").locator("xpath=ancestor::label").click()
    tick(page, "checkbox", "Choose jar_log")
    page.get_by_role("button", name="Put a look on").first.click()
    _put_on(page, "Faded card", over=True, strength="40")
    expect(jar).to_contain_text("Faded card")
    page.get_by_role("button", name=re.compile("^Undo: Faded card")).click()
    expect(jar).not_to_contain_text("Faded card")
    page.get_by_role("button", name=re.compile("^Undo: taken back: Faded card")).click()
    expect(jar).to_contain_text("Faded card")
    assert [
        (x["revision"]["look_name"], x["strength"]) for x in _shot(page, number, "jar_log")["layers"]
    ] == [
        ("North window", 1.0),
        ("Faded card", 0.4),
    ]

    # A trim with an ASC CDL, seen through the look.
    page.get_by_role("button", name=re.compile("^Trim jar_log")).click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_role("button", name="ASC CDL").click()
    box = sheet.get_by_role("textbox", name="Slope, red")
    box.fill("1.1")
    box.press("Enter")
    expect(sheet.locator("canvas[data-drawn]")).to_be_visible()
    sheet.get_by_role("button", name="Keep", exact=True).click()
    expect(jar).to_contain_text("trim CDL")

    # Two encodings, to the drop folder as well, and by a feed to a folder of the editing room.
    page.get_by_role("link", name="Deliver").click()
    tick(page, "checkbox", "BT.709 display")
    tick(page, "checkbox", "Display P3")
    page.get_by_role("checkbox", name=re.compile("Drop folder")).locator("xpath=ancestor::label").click()
    page.get_by_role("button", name="New feed").click()
    page.get_by_role("textbox", name="For whom").fill("Edit room")
    page.get_by_role("button", name="Make the address").click()
    address = page.locator("code").first.inner_text()
    assert re.match(rf"{site}/api/feed/\S+$", address)
    # A look of it must be asked for first; a lead lets it go.
    expect(page.get_by_text("1 to look at: rights")).to_be_visible()
    page.get_by_role("radio", name="deliver them all the same").locator("xpath=ancestor::label").click()
    page.get_by_role("button", name="Deliver as number 1").click()
    expect(page.get_by_role("region", name="Delivery 1 is running")).to_be_visible()
    expect(page.get_by_text(re.compile(r"in the drop folder as Autumn film \d+/001"))).to_be_visible(
        timeout=180_000
    )
    with page.expect_download() as taken:
        page.get_by_role("link", name="Fetch").click()
    _check(zipfile.ZipFile(io.BytesIO(taken.value.path().read_bytes())), page, number, tmp_path)
    _pull(address, tmp_path / "room", number=1)


def _pull(address: str, folder: Path, *, number: int) -> None:
    asked = [sys.executable, "-m", "saucer_core", "pull", address, str(folder), "--json"]
    said = json.loads(
        subprocess.run(asked, capture_output=True, text=True, check=True, cwd=ROOT / "core").stdout
    )
    assert said["delivery"] == number
    for line in (folder / "checksums.sha256").read_text().splitlines():
        sha, _, path = line.partition("  ")
        assert hashlib.sha256((folder / path).read_bytes()).hexdigest() == sha
    again = json.loads(
        subprocess.run(asked, capture_output=True, text=True, check=True, cwd=ROOT / "core").stdout
    )
    assert again["changed"] == 0


def _check(z: zipfile.ZipFile, page: Page, number: int, folder: Path) -> None:
    """Clips are whole in both encodings; OpenColorIO takes the jar's picture through table and configuration
    to the still's pixels."""
    z.extractall(folder / "out")
    made = [n for n in z.namelist() if n.startswith("clips/")]
    assert len(made) == 4
    for name in made:
        facts = clips.look_through(folder / "out" / name).facts
        assert (facts.frames, facts.depth, facts.sound) == (44, 10, "aac")
        assert facts.tags == ((1, 1, 1) if "709" in name else (12, 13, 1))
    source, _ = pictures.read(folder / "jar_log.png")
    shot = _shot(page, number, "jar_log")
    base = f"{shot['number']:03d}_jar_log_BT.709 display"
    still, _ = pictures.read(folder / "out" / "stills" / f"{base}.png")
    by_table = np.array(source, copy=True)
    how = ocio.FileTransform(
        str(folder / "out" / "luts" / "shots" / f"{base}.cube"), interpolation=ocio.INTERP_TETRAHEDRAL
    )
    ocio.Config.CreateRaw().getProcessor(how).getDefaultCPUProcessor().applyRGB(by_table)
    assert np.abs(np.clip(by_table, 0, 1) - still).mean() * 1023 < 1
    config = ocio.Config.CreateFromFile(
        str(folder / "out" / "opencolorio" / "BT.709 display" / "config.ocio")
    )
    look = next(n for n in config.getLookNames() if n.startswith(f"{shot['number']:03d}"))
    by_look = np.array(source, copy=True)
    to = ocio.LookTransform(src=config.getLook(look).getProcessSpace(), dst="BT.709 display", looks=look)
    config.getProcessor(to).getDefaultCPUProcessor().applyRGB(by_look)
    assert np.abs(np.clip(by_look, 0, 1) - still).mean() * 1023 < 2


def test_what_stands_out_is_mended_and_a_newer_revision_rolls_out(enter):
    page = enter("tomas", "/projects/1/wall")
    expect(page.get_by_text(re.compile(r"^\d to look at$"))).to_be_visible()
    middle = _shot(page, 1, "The middle one")
    page.get_by_role("button", name=re.compile("The middle one: ")).click()
    closer = page.get_by_role("region", name=re.compile("The middle one, closer"))
    expect(closer.get_by_role("img", name="The middle one with the suggested trim")).to_be_visible()
    assert _shot(page, 1, "The middle one")["trim"] == middle["trim"]
    closer.get_by_role("button", name="Use this trim").click()
    expect(page.get_by_role("button", name=re.compile(r"The middle one$"))).to_be_visible()
    assert _shot(page, 1, "The middle one")["trim"]["temperature"] < middle["trim"]["temperature"] - 10

    page.get_by_role("link", name=re.compile("Look at the")).click()
    aside = page.get_by_role("complementary", name="Another revision")
    rows = aside.get_by_role("list", name="What would change").get_by_role("listitem")
    expect(rows.first).to_contain_text("up to")
    count = rows.count()
    rows.first.get_by_role("checkbox").locator("xpath=ancestor::label").click()
    aside.get_by_role("button", name=f"Accept {count - 1} of {count}").click()
    expect(page.get_by_role("link", name="Look at the 1")).to_be_visible()
    changes = _project(page, 1)["changes"]
    assert changes[0]["kind"] == "roll out"
    assert f"on {count - 1} shots" in changes[0]["words"]


def test_two_people_on_one_shot(enter):
    vera, ines = enter("vera", "/projects/1"), enter("ines", "/projects/1")
    for page in (vera, ines):
        expect(page.get_by_role("listitem", name="White jars")).to_be_visible()
    for page, look in ((vera, "Ash"), (ines, "Oxide")):
        tick(page, "checkbox", "Choose White jars")
        page.get_by_role("button", name="Put a look on").first.click()
        _put_on(page, look)
    expect(ines.get_by_role("alert")).to_contain_text("Vera Quillon was quicker: Ash")
    until(lambda: _shot(ines, 1, "White jars")["layers"][0]["revision"]["look_name"] == "Ash")
    expect(ines.get_by_role("listitem", name="White jars")).to_contain_text("Ash")
    vera.get_by_role("button", name=re.compile("^Undo: Ash")).first.click()
    expect(vera.get_by_role("listitem", name="White jars")).to_contain_text("North window")


def test_by_keys_alone(enter):
    """A shot is reached, opened, trimmed and kept without a mouse."""
    page = enter("ines", "/projects/1")
    button = page.get_by_role("button", name=re.compile("^Trim Blue bottle"))
    button.focus()
    page.keyboard.press("Enter")
    sheet = page.get_by_role("dialog")
    slider = sheet.get_by_role("slider", name="Exposure, slider")
    slider.focus()
    page.keyboard.press("ArrowRight")
    page.keyboard.press("ArrowRight")
    keep = sheet.get_by_role("button", name="Keep", exact=True)
    keep.focus()
    page.keyboard.press("Enter")
    expect(page.get_by_role("dialog")).to_have_count(0)
    expect(page.get_by_role("listitem", name="Blue bottle")).to_contain_text("+0.5 stops")
