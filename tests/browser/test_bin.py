"""The bin in a real browser: a frame goes there, is seen there, and comes back."""

from PIL import Image
from playwright.sync_api import expect


def test_a_frame_goes_to_the_bin_and_comes_back(enter, axe, tmp_path):
    Image.linear_gradient("L").resize((640, 360)).convert("RGB").save(tmp_path / "ramp.png")
    page = enter("odile", "/frames")
    page.get_by_role("button", name="Add frame").click()
    dialog = page.get_by_role("dialog")
    dialog.locator("input[type=file]").first.set_input_files(tmp_path / "ramp.png")
    dialog.get_by_label("Name").fill("A frame too many")
    dialog.get_by_role("button", name="Add frame").click()
    page.get_by_role("button", name="Open A frame too many").click()
    page.get_by_role("button", name="Move frame to the bin").click()
    expect(page.get_by_role("button", name="Open A frame too many")).to_have_count(0)

    page.get_by_role("button", name="Bin", exact=True).click()
    row = page.get_by_role("listitem", name="frame A frame too many")
    expect(row.get_by_text("removed by Odile")).to_be_visible()
    assert (
        row.locator("img").evaluate("async (img) => { await img.decode(); return img.naturalWidth }") == 320
    )
    assert axe(page) == []
    row.get_by_role("button", name="Put back").click()
    expect(page.get_by_role("listitem", name="frame A frame too many")).to_have_count(0)
    page.get_by_role("link", name="Frames").click()
    page.get_by_role("button", name="Open A frame too many").click()
    page.get_by_role("button", name="Move frame to the bin").click()
    page.get_by_role("button", name="Bin", exact=True).click()
    row.get_by_role("button", name="Delete for good").click()
    page.get_by_role("dialog").get_by_role("button", name="Delete for good").click()
    expect(row).to_have_count(0)


def test_a_frame_in_use_says_where(enter):
    page = enter("odile", "/frames")
    page.get_by_role("button", name="Open Kiln mouth").first.click()
    page.get_by_role("button", name="Move frame to the bin").click()
    expect(page.get_by_role("alert")).to_contain_text("This frame is")


def test_who_holds_how_much_is_seen(enter, axe):
    page = enter("odile", "/people")
    held = page.get_by_role("region", name="Room taken")
    expect(held.get_by_text("frames").first).to_be_visible()
    expect(held.get_by_text("kB").or_(held.get_by_text("MB")).first).to_be_visible()
    assert axe(page) == []
