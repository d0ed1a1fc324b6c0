"""What people meet beside the main job: other people, no permission, nothing there, no mouse."""

import re

import pytest
from playwright.sync_api import Page, expect

from .hands import choose_row, draft_of, kept, made, open_look

SCREENS = {
    "catalogue": ("/catalogue", ".picture img"),
    "bench": ("/bench/2", "main canvas[data-drawn]"),
    "door": ("/bench", "main a img"),
    "projects": ("/projects", "main li"),
    "project": ("/projects/1", "li img.pic"),
    "frames": ("/frames", "article img"),
    "wall": ("/projects/1/wall", "main section img"),
    "deliver": ("/projects/1/deliver", "main section .row"),
    "cuts": ("/projects/1/clip/1", "main li img"),
    "encodings": ("/frames/encodings", "table tbody tr"),
    "bake": ("/bench/2/bake", "main [role=radiogroup] p .best"),
    "carry": ("/catalogue/carry", "main a[download]"),
    "pair": ("/catalogue/pair", "main header"),
    "bring in": ("/catalogue/bring-in", "main nav a"),
    "pack": ("/catalogue/bring-in/1", "h1"),
    "inspector": ("/catalogue/inspect/look/2", "main dl dd"),
    "look": ("/catalogue/look/2", "main dl dd"),
    "map": ("/catalogue?view=map", "canvas[data-drawn]"),
    "sheet": ("/catalogue/sheet/1", "td img"),
    "sheets": ("/catalogue/sheet/all", "main li"),
    "new sheet": ("/catalogue/sheet/new", "main h2"),
    "people": ("/people", "main table tbody tr"),
    "compare": ("/catalogue/compare?look=1&look=2", "article canvas[data-drawn]"),
    "pack out": ("/catalogue/pack-out", "main h2"),
}


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
    choose_row(page, "Exposure")
    box = page.get_by_role("region", name="Control").get_by_role("textbox", name="Exposure", exact=True)
    box.fill(value)
    box.press("Enter")


def _look_of(page: Page, name: str) -> int:
    cards = page.request.get("/api/catalogue").json()["cards"]
    return next(c["id"] for c in cards if c["name"] == name)


def test_two_people_on_one_draft_lose_nothing(enter):
    ines, tomas = enter("ines"), enter("tomas")
    number = _look_of(ines, "Late straw")
    for page in (ines, tomas):
        open_look(page, number)
    # Who comes second sees who is in, and changes nothing unknowingly.
    notice = tomas.get_by_role("alert").filter(has_text="Ines Tallow is working on this draft")
    expect(notice).to_be_visible()
    expect(tomas.get_by_role("button", name="Add a step", exact=True)).to_have_count(0)
    _exposure(ines, "0.75")
    kept(ines)
    expect(ines.get_by_role("status").filter(has_text="Tomas Ferrow looks on")).to_be_visible()
    notice.get_by_role("button", name="Take over").click()
    expect(notice).to_have_count(0)
    _exposure(tomas, "0.5")
    kept(tomas)
    # Ines, who has not heard of it yet, loses nothing either: both versions are there to choose from.
    _exposure(ines, "1.25")
    late = ines.get_by_role("alert").filter(has_text="Tomas Ferrow saved this draft")
    expect(late).to_be_visible()
    late.get_by_role("button", name="Go on with mine").click()
    kept(ines)
    record = ines.request.get(f"/api/looks/{number}").json()
    assert record["draft"]["steps"][0]["stops"] == 1.25
    assert record["set_aside"] == []
    # In a few seconds she sees who has it now.
    expect(ines.get_by_role("alert").filter(has_text="Tomas Ferrow is working on this draft")).to_be_visible()


def test_the_second_person_works_on_a_variation(enter):
    ines, tomas = enter("ines"), enter("tomas")
    number = made(ines, {"id": "e", "kind": "exposure", "stops": 0.2}, name="Shared")
    open_look(tomas, number)
    tomas.get_by_role("button", name="Work on a variation").click()
    tomas.get_by_role("dialog").get_by_role("textbox", name="Name").fill("Shared, darker")
    tomas.get_by_role("button", name="Make it").click()
    tomas.wait_for_url(lambda url: f"/bench/{number}" not in url)
    tomas.locator("main canvas[data-drawn]").first.wait_for()
    _exposure(tomas, "-0.4")
    expect(tomas.get_by_text("variation of")).to_contain_text("Shared")
    tomas.get_by_text("1 difference").click()
    expect(tomas.get_by_text("Exposure: exposure 0.2 stops → -0.4 stops")).to_be_visible()
    assert draft_of(tomas).steps[0].stops == -0.4
    assert draft_of(ines).steps[0].stops == 0.2


def test_a_minute_offline_and_a_crashed_tab_lose_nothing(enter):
    page = enter("ines")
    number = made(page, {"id": "e", "kind": "exposure", "stops": 0.2}, name="Away")
    page.context.set_offline(True)
    _exposure(page, "0.9")
    expect(
        page.get_by_role("status").filter(has_text="kept in this browser, the server is away")
    ).to_be_visible()
    page.context.set_offline(False)
    kept(page)
    assert draft_of(page).steps[0].stops == 0.9
    # And the picture comes to be that of the draft, not of what was last answered.
    expect(page.locator("main canvas[data-exact=yes]")).to_have_count(1)
    # A tab that dies before anything could be saved: the browser has it.
    page.route(f"**/api/looks/{number}/draft", lambda route: route.abort())
    _exposure(page, "1.6")
    expect(page.get_by_role("status").filter(has_text="kept in this browser")).to_be_visible()
    again = page.context.new_page()
    page.close()
    open_look(again, number)
    assert draft_of(again).steps[0].stops == 1.6


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
    kept(page)


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
    page.locator("input[type=file]").first.set_input_files(
        {"name": "x.png", "mimeType": "image/png", "buffer": b"not a picture"}
    )
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
        page.get_by_role("button", name="Add a step", exact=True).click()
        page.get_by_role("searchbox", name="Find a step").fill(kind["title"])
        page.get_by_role("menuitem", name=re.compile(f"^{re.escape(kind['title'])}")).first.click()
        expect(page.get_by_role("heading", level=1, name=kind["title"], exact=True)).to_be_visible()
    kept(page)
    saved = page.request.get(f"/api/looks/{page.url.rsplit('/', 1)[1].partition('?')[0]}").json()["draft"][
        "steps"
    ]
    assert [s["kind"] for s in saved] == [k["kind"] for k in kinds]
