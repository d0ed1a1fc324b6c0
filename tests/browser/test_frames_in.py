"""Bringing in many frames: from a folder on the disk to frames in a set, by pointer and by keys."""

import re

import numpy as np
import pytest
from playwright.sync_api import expect
from saucer_core.encodings import encoding
from saucer_core.formats import pictures

from demo import kinds

from .hands import until


@pytest.fixture(scope="module")
def folder(tmp_path_factory):
    made = tmp_path_factory.mktemp("card") / "from_the_card"
    kinds.write(made)
    return made


def test_a_folder_of_every_kind_becomes_frames(enter, axe, folder):
    page = enter("ines", "/frames")
    page.get_by_role("button", name="Bring in frames").click()
    page.locator("input[type=file]").nth(1).set_input_files(folder)
    page.wait_for_url("**/frames/in/*")
    keep = page.get_by_role("button", name=re.compile(r"^Keep 14 frames$"))
    expect(keep).to_be_enabled(timeout=120_000)
    rows = page.get_by_role("grid", name="Pictures that come in")
    expect(rows.get_by_role("row").first).to_be_visible()
    page.get_by_role("radio", name=re.compile("^Not read 1")).click()
    expect(rows.get_by_role("row")).to_have_count(1)
    expect(rows.get_by_text("cannot be read", exact=True)).to_be_visible()
    page.get_by_role("radio", name=re.compile("^To look at")).click()
    expect(rows.get_by_role("row").filter(has_text="heads_window.webp")).to_be_visible()
    # What is unsure is said once for all.
    page.get_by_role("button", name=re.compile(r"^Use for \d")).click()
    expect(rows.get_by_role("row").filter(has_text="heads_window.webp")).to_have_count(0)
    page.get_by_role("radio", name=re.compile("^All 15")).click()
    assert axe(page) == []
    # By keys: a row is taken hold of, and left out.
    row = rows.get_by_role("row").filter(has_text="glaze_in_ink.jpg")
    row.focus()
    page.keyboard.press(" ")
    expect(page.get_by_role("button", name="Keep 13 frames")).to_be_visible()
    # The raw, closer: its white balance, and the part that small cards show.
    page.get_by_role("radio", name=re.compile("^To look at")).click()
    page.get_by_role("button", name="Look at yard_0417.dng").click()
    closer = page.get_by_role("region", name="yard_0417.dng, closer")
    kelvin = closer.get_by_role("textbox", name="White balance, kelvin")
    kelvin.fill("7000")
    kelvin.press("Enter")
    number = int(page.url.rpartition("/")[2])

    def file():
        files = page.request.get(f"/api/intakes/{number}").json()["files"]
        return next(f for f in files if f["name"] == "yard_0417.dng")

    until(lambda: file()["stage"] == "read" and file()["raw"]["used"]["kelvin"] == 7000, 60)
    ring = page.get_by_role("button", name=re.compile("The part that small cards show"))
    expect(ring).to_be_visible()
    ring.focus()
    before = file()["part"]["x"]
    page.keyboard.press("ArrowRight")
    until(lambda: file()["part"]["x"] > before and file()["part_by"] == "hand")
    page.get_by_role("textbox", name="Put all into a set").fill("from the card")
    page.get_by_role("textbox", name="Put all into a set").press("Enter")
    keep = page.get_by_role("button", name="Keep 13 frames")
    expect(keep).to_be_enabled(timeout=60_000)
    keep.click()
    page.wait_for_url("**/frames")
    page.get_by_role("radio", name="from the card 13").click()
    expect(page.get_by_role("article")).to_have_count(13)
    # Many at once: all of them go to the bin again.
    for box in page.get_by_role("checkbox").all():
        box.locator("xpath=ancestor::label").click()
    expect(page.get_by_role("status").filter(has_text="13 frames chosen")).to_be_visible()
    assert axe(page) == []
    page.get_by_role("button", name="Move to the bin").click()
    expect(page.get_by_role("radio", name="from the card 13")).to_have_count(0)
    kept = page.request.get("/api/frames").json()
    assert not any("from the card" in frame["sets"] for frame in kept)


def test_many_stills_of_a_project_are_shown_before_they_are_shots(enter, tmp_path):
    page = enter("odile", "/projects")
    page.get_by_role("button", name="New project").click()
    page.get_by_role("textbox", name="Name").fill("Stills of a morning")
    page.get_by_role("button", name="Start project").click()
    page.wait_for_url(re.compile(r"/projects/\d+$"))
    number = int(page.url.rpartition("/")[2])
    paths = []
    for k in range(3):
        paths.append(tmp_path / f"morning_{k}.png")
        pictures.write(paths[-1], np.full((90, 160, 3), 0.2 + 0.2 * k, np.float32))
    page.get_by_role("button", name="Add shots").first.click()
    page.locator("input[type=file]").set_input_files([str(path) for path in paths])
    page.wait_for_url(re.compile(r"/frames/in/\d+$"))
    expect(page.get_by_role("heading", name="Bring in shots")).to_be_visible()
    page.get_by_role("button", name="Keep 3 shots").click(timeout=60_000)
    page.wait_for_url(re.compile(rf"/projects/{number}$"))
    expect(page.get_by_role("listitem", name=re.compile("morning"))).to_have_count(3)
    # They are shots of the project, and no frames among the others.
    assert not any("morning" in f["name"] for f in page.request.get("/api/frames").json())


def test_pictures_dropped_on_the_row_of_the_bench_come_back_to_it(enter, tmp_path):
    page = enter("ines", "/bench")
    page.get_by_role("button", name="New look").click()
    page.get_by_role("textbox", name="Name").fill("For what is dropped")
    page.get_by_role("button", name="Start", exact=True).click()
    page.wait_for_url(re.compile(r"/bench/\d+$"))
    bench = page.url
    row = page.get_by_role("radiogroup", name="Frames")
    expect(row).to_be_visible()
    path = tmp_path / "dropped_here.png"
    pictures.write(path, np.full((90, 160, 3), 0.4, np.float32), at=encoding("srgb"))
    # The browser's own dragging of a file from a folder of the system.
    box = row.bounding_box()
    assert box is not None
    session = page.context.new_cdp_session(page)
    data = {"items": [], "files": [str(path)], "dragOperationsMask": 1}
    place = {"x": box["x"] + 60, "y": box["y"] + 40}
    for kind in ("dragEnter", "dragOver"):
        session.send("Input.dispatchDragEvent", {"type": kind, **place, "data": data})
    expect(page.get_by_text("Drop to bring in as frames")).to_be_visible()
    session.send("Input.dispatchDragEvent", {"type": "drop", **place, "data": data})
    page.wait_for_url("**/frames/in/*")
    page.get_by_role("button", name="Keep 1 frame").click(timeout=60_000)
    page.wait_for_url(bench)
    expect(page.get_by_role("radio", name="dropped_here")).to_be_visible()


def test_a_kept_raw_gets_another_white_balance(enter, folder):
    page = enter("ines", "/frames/in")
    page.locator("input[type=file]").first.set_input_files(str(folder / "yard_0417.dng"))
    page.wait_for_url("**/frames/in/*")
    page.get_by_role("button", name="Keep 1 frame").click(timeout=60_000)
    page.wait_for_url("**/frames")
    number = max(f["id"] for f in page.request.get("/api/frames").json() if f["raw"])
    page.get_by_role("button", name="Open yard_0417").last.click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_text("Name, sets, file").click()
    kelvin = sheet.get_by_role("textbox", name="White balance, kelvin")
    kelvin.fill("7200")
    kelvin.press("Enter")

    def used():
        frames = page.request.get("/api/frames").json()
        return next(f for f in frames if f["id"] == number)["raw"]["used"]["kelvin"]

    until(lambda: used() == 7200, 60)
    expect(kelvin).to_be_focused()
    sheet.get_by_role("button", name="By a grey in the picture").click()
    sheet.get_by_role("img", name="yard_0417", exact=True).click(position={"x": 100, "y": 60})
    until(lambda: used() != 7200, 60)
