"""What people meet beside the main job: other people, no permission, nothing there, no mouse."""

import re

import pytest
from playwright.sync_api import Page, expect

SCREENS = {
    "catalogue": ("/catalogue", "article img"), "bench": ("/bench/2", "main canvas[data-drawn]"), "door": ("/bench", "li button"),
    "projects": ("/projects", "main li"), "project": ("/projects/1", "li img.pic"), "frames": ("/frames", "article img"),
}  # fmt: skip


@pytest.mark.parametrize("screen", SCREENS)
def test_axe_finds_nothing(enter, axe, screen):
    """axe-core 4, all its rules, on every screen."""
    path, ready = SCREENS[screen]
    page = enter("ines", path)
    page.goto(path)
    page.locator(ready).first.wait_for()
    page.wait_for_timeout(400)
    assert axe(page) == []


def _exposure(page: Page, value: str) -> None:
    page.get_by_role("row", name="Exposure").first.click()
    box = page.get_by_role("region", name="Control").get_by_role("textbox", name="Exposure", exact=True)
    box.fill(value)
    box.press("Enter")


def _kept(page: Page) -> None:
    expect(page.get_by_role("status").filter(has_text=re.compile("· kept"))).to_be_visible()


def _look_of(page: Page, name: str) -> int:
    cards = page.request.get("/api/catalogue").json()["cards"]
    return next(c["id"] for c in cards if c["name"] == name)


def test_two_people_on_one_draft_lose_nothing(enter):
    ines, tomas = enter("ines"), enter("tomas")
    path = f"/bench/{_look_of(ines, 'Late straw')}"
    for page in (ines, tomas):
        page.goto(path)
        page.locator("main canvas[data-drawn]").first.wait_for()
    _exposure(tomas, "0.5")
    _kept(tomas)
    ines.wait_for_timeout(200)
    _exposure(ines, "1.25")
    notice = ines.get_by_role("alert").filter(has_text="Tomas Ferrow saved this draft")
    expect(notice).to_be_visible()
    notice.get_by_role("button", name="Go on with mine").click()
    _kept(ines)
    record = ines.request.get(f"/api{path.replace('bench', 'looks')}").json()
    assert record["draft"]["steps"][0]["stops"] == 1.25
    assert record["set_aside"] == []


def test_undo_and_redo_by_keys(enter):
    page = enter("ines")
    page.goto(f"/bench/{_look_of(page, 'Night slip')}")
    page.locator("main canvas[data-drawn]").first.wait_for()
    _exposure(page, "-1")
    box = page.get_by_role("region", name="Control").get_by_role("textbox", name="Exposure", exact=True)
    expect(box).to_have_value(re.compile("1"))
    page.get_by_role("row", name="Exposure").first.focus()
    page.keyboard.press("Control+z")
    expect(box).to_have_value(re.compile(r"1\.7"))
    page.keyboard.press("Control+Shift+z")
    expect(box).not_to_have_value(re.compile(r"1\.7"))
    page.keyboard.press("Control+z")
    _kept(page)


def test_an_applier_looks_and_changes_nothing(enter):
    page = enter("vera", "/bench/2")
    page.locator("main canvas[data-drawn]").first.wait_for()
    expect(page.get_by_role("alert").filter(has_text="for look designers")).to_be_visible()
    expect(page.get_by_role("button", name="Add a step")).to_have_count(0)
    expect(page.get_by_role("button", name="Keep revision")).to_be_disabled()


def test_a_stranger_signs_in_and_arrives(site, browser):
    page = browser.new_page(base_url=site)
    page.goto("/projects/1")
    page.wait_for_url(re.compile("sign-in"))
    page.get_by_label("Name").fill("vera")
    page.get_by_label("Password").fill("wrong")
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_role("alert")).to_contain_text("do not belong together")
    page.get_by_label("Password").fill("slip-and-glaze")
    page.get_by_role("button", name="Sign in").click()
    page.wait_for_url(re.compile("/projects/1"))
    page.close()


def test_what_is_not_there_says_so(enter):
    page = enter("ines", "/bench/99999")
    expect(page.get_by_role("heading", name="Not here")).to_be_visible()
    page.goto("/nowhere")
    expect(page.get_by_role("heading", name="Nothing at this address")).to_be_visible()
    page.goto("/catalogue?q=zzzz")
    expect(page.get_by_role("heading", name="No look fits")).to_be_visible()
    page.goto("/frames")
    page.get_by_role("button", name="Add frame").click()
    page.locator("input[type=file]").set_input_files({"name": "x.png", "mimeType": "image/png", "buffer": b"not a picture"})
    page.get_by_role("dialog").get_by_role("button", name="Add frame").click()
    expect(page.get_by_role("alert")).to_contain_text("not a picture Saucer reads")


def test_every_kind_of_step_has_an_editor(enter):
    page = enter("ines", "/catalogue")
    page.get_by_role("button", name="New look").click()
    page.get_by_role("textbox", name="Name").fill("Every kind")
    expect(page.get_by_role("button", name="Comes in as")).to_contain_text("BT.709 display")
    page.get_by_role("button", name="Start", exact=True).click()
    page.wait_for_url(re.compile(r"/bench/\d+"))
    kinds = page.request.get("/api/steps").json()
    for kind in kinds:
        page.get_by_role("button", name="Add a step").click()
        page.get_by_role("searchbox", name="Find a step").fill(kind["title"])
        page.get_by_role("menuitem", name=re.compile(f"^{re.escape(kind['title'])}")).first.click()
        expect(page.get_by_role("heading", level=1, name=kind["title"], exact=True)).to_be_visible()
    _kept(page)
    saved = page.request.get(f"/api/looks/{page.url.rsplit('/', 1)[1].partition('?')[0]}").json()["draft"]["steps"]
    assert [s["kind"] for s in saved] == [k["kind"] for k in kinds]
