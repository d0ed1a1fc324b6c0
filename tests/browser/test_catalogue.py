"""The catalogue's job in a real browser: a look is found, judged, chosen by several, decided on, and passed
on whole."""

import os
import re
import subprocess
import zipfile

import psycopg
import pytest
from playwright.sync_api import Page, expect

from launch.places import ROOT, python
from launch.postgres import free_port
from launch.serving import Application

from .hands import until

SEARCH = "Search"
LEAD = """
from saucer_server.people.rules import Person, Role
Person.objects.create_user("mira", password="clay-and-water", full_name="Mira Sand", role=Role.LEAD)
"""


def shown(page: Page) -> list[str]:
    """Names on the cards in sight."""
    return [
        name.removeprefix("Try ")
        for name in page.locator(".picture .open").evaluate_all("all => all.map(b => b.ariaLabel)")
    ]


def test_a_look_is_found_by_words_by_traits_and_by_what_it_is_like(enter, axe):
    page = enter("tomas", "/catalogue")
    expect(page.get_by_role("button", name="Try Ember & Tide")).to_be_visible()
    assert axe(page) == []
    # By words for what it does, one of them misspelt.
    page.get_by_role("textbox", name=SEARCH).fill("cool windwo")
    until(lambda: shown(page) == ["North window"])
    page.get_by_role("button", name="Show all").click()
    # By a trait, with keys alone.
    thumb = page.get_by_role("slider", name="Saturation, to")
    thumb.focus()
    for _ in range(8):
        page.keyboard.press("PageDown")
    until(lambda: shown(page) == ["Ash"])
    expect(page).to_have_url(re.compile("range=saturation"))
    page.reload()
    until(lambda: shown(page) == ["Ash"])
    page.get_by_role("button", name="Show all").click()
    # By likeness, from the look's own page, and by how it should differ.
    page.get_by_role("link", name="Late straw").click()
    similar = page.get_by_role("region", name="Similar looks")
    expect(similar.get_by_role("link").first).to_be_visible()
    similar.get_by_role("button", name="cooler", exact=True).click()
    # Of the demo's looks only those that are plainly cooler stay.
    until(lambda: "Oxide" not in similar.inner_text() and similar.get_by_role("link").count() > 0)
    assert axe(page) == []


def test_the_map_is_walked_and_opened_by_keys(enter, axe):
    page = enter("tomas", "/catalogue?view=map")
    field = page.get_by_role("application", name=re.compile("^Map of looks"))
    field.focus()
    page.keyboard.press("ArrowRight")
    said = page.get_by_role("status").filter(has_text=re.compile("approved|draft|in review"))
    expect(said).to_be_attached()
    first = said.inner_text()
    until(lambda: (page.keyboard.press("ArrowLeft"), said.inner_text() != first)[1])
    assert axe(page) == []
    page.keyboard.press("t")
    expect(page.get_by_role("region", name="Tray")).to_be_visible()
    page.keyboard.press("Enter")
    expect(page).to_have_url(re.compile(r"/catalogue/look/\d+"))


def test_looks_drawn_around_go_into_a_collection(enter):
    page = enter("ines", "/catalogue?view=map")
    page.get_by_role("radio", name="drag draws around").click()
    box = page.get_by_role("application").bounding_box()
    assert box is not None
    page.mouse.move(box["x"] + 20, box["y"] + 20)
    page.mouse.down()
    for x, y in ((box["width"] - 20, 20), (box["width"] - 20, box["height"] - 20), (20, box["height"] - 20)):
        page.mouse.move(box["x"] + x, box["y"] + y, steps=6)
    page.mouse.up()
    drawn = page.get_by_role("group", name="Drawn around")
    expect(drawn).to_contain_text("10 drawn around")
    drawn.get_by_role("button", name="To a collection").click()
    page.get_by_role("textbox", name="Collection").fill("Everything")
    page.get_by_role("button", name="Put in").click()
    expect(page.get_by_role("radio", name="Everything 10")).to_be_visible()
    page.request.delete(
        "/api/collections/Everything",
        headers={"X-CSRFToken": page.evaluate("document.cookie.match(/csrftoken=([^;]+)/)[1]")},
    )


def test_looks_are_held_side_by_side_from_the_tray(enter, axe):
    page = enter("tomas", "/catalogue")
    page.evaluate("localStorage.removeItem('saucer-tray')")
    page.reload()
    for name in ("Ash", "Oxide"):
        page.get_by_role("row", name=re.compile(f"^{name}")).focus()
        page.keyboard.press("t")
    page.get_by_role("button", name="Side by side").click()
    ash, oxide = (page.get_by_role("article", name=name) for name in ("Ash", "Oxide"))
    expect(oxide.locator("canvas[data-exact=yes]")).to_be_visible()
    # Both are read at one spot, enlarged together, and held against each other; all of it by keys.
    page.keyboard.press("p")
    expect(ash.get_by_label("Spot under Ash, 8-bit")).to_have_text(
        re.compile(r"(\d+) \d+ \d+ → +\d+ \d+ \d+")
    )
    before = oxide.get_by_label("Spot under Oxide, 8-bit").inner_text()
    page.keyboard.press("Shift+ArrowDown")
    until(lambda: oxide.get_by_label("Spot under Oxide, 8-bit").inner_text() != before)
    page.keyboard.press("+")
    expect(page.get_by_text("1.5 ×")).to_be_visible()
    page.keyboard.press("4")
    page.get_by_role("button", name=re.compile("Held against")).click()
    page.get_by_role("option", name="Ash").click()
    expect(oxide.get_by_role("img", name=re.compile("from Ash, white is ΔE 10$"))).to_be_visible()
    expect(oxide.locator("canvas[data-exact=yes]")).to_be_visible()
    assert axe(page) == []
    oxide.get_by_role("button", name="Keep this one").click()
    expect(page.get_by_role("heading", level=1, name="Oxide")).to_be_visible()
    assert page.evaluate("localStorage.getItem('saucer-tray')") == "[]"


def test_a_collection_is_put_in_order_by_keys(enter, axe):
    page = enter("ines", "/catalogue?collection=Slip+campaign&order=by+hand")
    before = page.request.get("/api/collections/Slip campaign").json()["looks"]
    # That it can be put in order is known once the collection and the person are.
    expect(page.get_by_role("button", name="Take apart")).to_be_visible()
    expect(page.get_by_text(re.compile("^drag the cards"))).to_be_visible()
    page.get_by_role("row", name=re.compile("^North window")).focus()
    page.keyboard.press("Alt+ArrowRight")
    until(lambda: page.request.get("/api/collections/Slip campaign").json()["looks"] != before)
    assert page.request.get("/api/collections/Slip campaign").json()["looks"] == [
        before[1],
        before[0],
        *before[2:],
    ]
    until(lambda: shown(page)[1] == "North window")
    assert axe(page) == []


def test_looks_are_stacked_and_kept_as_one(enter):
    page = enter("ines", "/catalogue")
    page.get_by_role("button", name="Try Ash").click()
    page.get_by_role("combobox", name="Stack a look onto it").fill("Oxide")
    page.get_by_role("option", name=re.compile("^Oxide")).click()
    expect(page.get_by_text("+ Oxide")).to_be_visible()
    page.get_by_role("button", name="Keep the stack as a look").click()
    page.wait_for_url(re.compile(r"/bench/\d+"))
    draft = page.request.get(f"/api/looks/{page.url.split('/')[-1]}").json()["draft"]
    ask = page.request.get
    ash = next(c for c in ask("/api/catalogue?q=Ash").json()["cards"] if c["name"] == "Ash")
    own = ask(f"/api/revisions/{ash['revision']['id']}/recipe").json()["steps"]
    # As the core stacks: the first look's own steps, and the next one whole over them.
    assert [s["kind"] for s in draft["steps"]] == [*(s["kind"] for s in own), "look"]
    assert draft["steps"][-1]["name"] == "Oxide"


def test_two_people_choose_blind(enter, axe):
    ines, tomas = enter("ines", "/catalogue/sheet/all"), enter("tomas")
    ines.get_by_role("button", name="New sheet").click()
    ines.get_by_role("textbox", name="What is to be chosen").fill("Which for the lid")
    for name in ("Ash", "Oxide"):
        ines.get_by_role("combobox", name="Add a look").fill(name)
        ines.get_by_role("option", name=re.compile(name)).click()
    ines.get_by_text("Blind: names turned over").click()
    for frame in (
        "Kiln mouth, night",
        "North shelf",
        "Yard, noon",
        "Yard, dusk",
        "Glaze table",
        "Wheel by the window",
        "Heads, into shade",
        "Fire at night",
        "Along the yard, dusk",
    ):
        ines.get_by_role("checkbox", name=re.compile(f"^{frame}")).locator("xpath=ancestor::label").click()
    ines.get_by_role("button", name="Make the sheet").click()
    expect(ines.get_by_role("heading", name="Which for the lid")).to_be_visible()
    expect(ines.get_by_role("table")).not_to_contain_text("Oxide")
    assert axe(ines) == []
    tomas.goto(ines.url)
    for page, keys in ((ines, "fa"), (tomas, "fw")):
        page.get_by_role("button", name="Original on Clay heads").focus()
        for key, letter in zip(keys, "AB", strict=True):
            page.keyboard.press("ArrowDown")
            page.keyboard.press(key)
            word = {"f": "for", "a": "against", "w": "with changes"}[key]
            expect(page.get_by_role("button", name=f"Look {letter} on Clay heads, {word}")).to_be_visible()
    expect(
        tomas.get_by_role("row", name=re.compile("^Look A")).get_by_role(
            "img", name="2 for it, 0 with changes, 0 against"
        )
    ).to_be_visible()
    ines.get_by_role("button", name="Close the vote, show names").click()
    expect(ines.get_by_role("row", name=re.compile(r"(Ash|Oxide) r1 \(Look A\)"))).to_be_visible()
    with ines.expect_download() as taken:
        ines.get_by_role("button", name="Export").click()
        ines.get_by_role("menuitem", name=re.compile("One page")).click()
    text = taken.value.path().read_text()
    assert "2 for" in text
    assert text.count("data:image/jpeg") == 3


def test_a_review_goes_back_and_comes_again(enter, axe):
    tomas, odile = enter("tomas", "/catalogue"), enter("odile")
    tomas.get_by_role("link", name="Oxide").click()
    tomas.get_by_role("button", name="Ask for a review").click()
    tomas.get_by_role("textbox", name="What to look at").fill("The reds in the shadows")
    assert axe(tomas) == []
    tomas.get_by_role("button", name="Ask", exact=True).click()
    expect(tomas.get_by_text("r1 is in review")).to_be_visible()
    odile.goto("/frames")
    odile.get_by_role("button", name=re.compile("wait for you")).click()
    odile.get_by_role("menuitem", name=re.compile("Oxide r1")).click()
    expect(odile.get_by_text("The reds in the shadows")).to_be_visible()
    # A note on a spot, by keys alone: arrows move it, Enter pins it.
    odile.get_by_role("button", name="Pin a note").click()
    odile.get_by_role("application").focus()
    odile.keyboard.press("Shift+ArrowLeft")
    odile.keyboard.press("Enter")
    odile.get_by_role("textbox", name=re.compile("Note on a spot")).fill("Too red here")
    odile.get_by_role("button", name="Keep", exact=True).click()
    expect(odile.get_by_role("button", name=re.compile("^Note 1 by Odile"))).to_be_visible()
    odile.get_by_role("button", name="Send back").click()
    odile.get_by_role("textbox", name=re.compile("^Why")).fill("Ease the reds")
    odile.get_by_role("dialog").get_by_role("button", name="Send back").click()
    expect(odile.get_by_text("r1 is draft")).to_be_visible()
    tomas.reload()
    tomas.get_by_role("button", name=re.compile("waits? for you")).click()
    tomas.get_by_role("menuitem", name=re.compile("Oxide r1.*Ease the reds")).click()
    expect(tomas.get_by_text("Too red here")).to_be_visible()
    tomas.get_by_role("button", name="Reply").click()
    tomas.get_by_role("textbox", name="Reply to note 1").fill("Eased")
    tomas.keyboard.press("Enter")
    expect(tomas.get_by_text("Eased")).to_be_visible()
    tomas.get_by_role("button", name="Ask for a review").click()
    tomas.get_by_role("button", name="Ask", exact=True).click()
    expect(tomas.get_by_text("r1 is in review")).to_be_visible()
    odile.reload()
    odile.get_by_role("button", name="Approve r1").click()
    expect(odile.get_by_text("r1 is approved")).to_be_visible()
    assert axe(odile) == []


@pytest.fixture
def elsewhere(tmp_path, site):
    """An empty Saucer of another house, with one lead: its address."""
    server, _, _ = os.environ["DATABASE_URL"].rpartition("/")
    with psycopg.connect(f"{server}/postgres", autocommit=True) as admin:
        admin.execute("drop database if exists saucer_elsewhere with (force)")
        admin.execute("create database saucer_elsewhere")
    before = {k: os.environ.get(k) for k in ("DATABASE_URL", "SAUCER_DATA")}
    os.environ["DATABASE_URL"] = f"{server}/saucer_elsewhere"
    application = Application(tmp_path / "elsewhere", "127.0.0.1", free_port())
    try:
        address = application.start(demo=False)
        words = [str(python()), str(ROOT / "server" / "manage.py"), "shell", "-c", LEAD]
        subprocess.run(words, env={**os.environ, **application.env}, check=True, stdout=subprocess.DEVNULL)
        yield address
    finally:
        application.stop()
        os.environ.update({k: v for k, v in before.items() if v is not None})


def test_a_pack_goes_out_and_into_an_empty_saucer(enter, axe, browser, elsewhere, tmp_path):
    page = enter("odile", "/catalogue/pack-out")
    page.get_by_role("textbox", name="Name of the pack").fill("Kiln pack")
    page.get_by_role("checkbox", name="Kiln series").locator("xpath=ancestor::label").click()
    page.get_by_role("button", name="Pack", exact=True).click()
    with page.expect_download() as taken:
        page.get_by_role("link", name="Take Kiln pack").click()
    path = tmp_path / "kiln.zip"
    taken.value.save_as(path)
    assert axe(page) == []
    with zipfile.ZipFile(path) as pack:
        assert {
            "Kiln series/Ember & Tide.saucer.json",
            "saucer-contents.json",
            "beside/contact sheet.html",
        } <= set(pack.namelist())
    there = browser.new_context(viewport={"width": 1280, "height": 800}, base_url=elsewhere).new_page()
    there.goto("/sign-in")
    there.get_by_label("Name").fill("mira")
    there.get_by_label("Password").fill("clay-and-water")
    there.get_by_role("button", name="Sign in").click()
    expect(there.get_by_text("No looks yet")).to_be_visible()
    there.get_by_role("button", name="Bring in").click()
    expect(there.get_by_role("heading", level=1, name="Bring in")).to_be_visible()
    there.locator("input[type=file]").first.set_input_files(path)
    expect(there.get_by_text("3 of 3 will be kept")).to_be_visible()
    there.get_by_role("textbox", name="Where it comes from").fill("the demo house")
    there.get_by_role("button", name="Keep 3 looks").click()
    there.get_by_role("button", name="Open the catalogue").click()
    expect(there.get_by_role("radio", name="Kiln series 3")).to_be_visible()
    there.get_by_role("link", name="Ember & Tide").click()
    expect(there.get_by_role("option", name=re.compile("^r3 approved"))).to_be_visible()
    expect(there.get_by_role("option", name=re.compile("^r1"))).to_be_visible()
    there.get_by_role("button", name="Open on the bench").click()
    expect(
        there.get_by_role("grid", name="Steps").get_by_role("row", name=re.compile("Opposition"))
    ).to_be_visible()
    there.context.close()
