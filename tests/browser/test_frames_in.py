"""Bringing in many frames: from a folder on the disk to frames in a set, by pointer and by keys."""

import re

import pytest
from playwright.sync_api import expect

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
