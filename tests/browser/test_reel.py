"""The reel in a real browser: a project plays through its cuts under its looks, jumps are mended, and notes
are pinned to moments."""

import re
from typing import Any

import pytest
from playwright.sync_api import Locator, Page, expect

from .hands import until, until_it_plays
from .seen import apart, rendered, shown

NOTE = "The pots in front may go deeper."


@pytest.fixture
def project(enter) -> Page:
    page = enter("tomas", "/projects")
    page.get_by_role("link", name=re.compile("Kiln series")).first.click()
    page.get_by_role("link", name="Reel").click()
    expect(page.get_by_role("heading", level=1, name="Kiln series, episode two")).to_be_visible()
    return page


def of_project(page: Page) -> tuple[int, dict[str, Any]]:
    found = re.search(r"/projects/(\d+)/reel", page.url)
    assert found
    number = int(found.group(1))
    return number, page.request.get(f"/api/projects/{number}").json()


def shot_named(page: Page, name: str) -> dict[str, Any]:
    return next(s for s in of_project(page)[1]["shots"] if s["name"] == name)


def go(page: Page, name: str) -> None:
    page.get_by_role("button", name=re.compile(rf"^\d+ {name}")).first.press("Enter")
    expect(playing(page)).to_contain_text(name)


def playing(page: Page) -> Locator:
    return page.get_by_role("group", name="Play the reel")


def leave_the_keys(page: Page) -> None:
    page.get_by_role("heading", level=1).click()


def test_it_plays_through_the_cuts_in_order_and_in_its_time(project):
    page = project
    clip = shot_named(page, "Past the wheel")["cut"]["clip"]
    until_it_plays(page, clip)
    go(page, "Past the wheel")
    expect(page.locator("main canvas[data-number]").first).to_have_attribute(
        "data-number", str(shot_named(page, "Past the wheel")["cut"]["first"])
    )
    leave_the_keys(page)
    page.keyboard.press(" ")
    seen = page.evaluate(
        """async () => {
          const named = () => document.querySelector('[aria-label="Play the reel"] b').textContent;
          const out = [], begin = performance.now();
          while (out.length < 3 && performance.now() - begin < 30000) {
            if (named() !== out.at(-1)?.name) {
              const canvas = [...document.querySelectorAll('main canvas')].find((c) => !c.closest('[inert]'));
              out.push({name: named(), at: performance.now() - begin, drawn: !!canvas?.dataset.drawn});
            }
            await new Promise(requestAnimationFrame);
          }
          return out;
        }"""
    )
    assert [one["name"] for one in seen] == ["1 · Past the wheel", "2 · Shelf, wide", "3 · White jars"]
    # The next shot stands ready behind the one that is shown: it is there with the cut.
    assert all(one["drawn"] for one in seen)
    page.keyboard.press(" ")
    expect(playing(page).get_by_role("button", name=re.compile("^Play"))).to_be_visible()


def test_steps_go_through_a_cut_both_ways(project):
    page = project
    go(page, "Past the wheel")
    last = shot_named(page, "Past the wheel")["cut"]
    leave_the_keys(page)
    page.keyboard.press("c")
    expect(playing(page)).to_contain_text("2 · Shelf, wide")
    page.keyboard.press("q")
    count = last["last"] - last["first"] + 1
    expect(playing(page)).to_contain_text(f"frame {count} of {count}")
    page.keyboard.press("Shift+Q")
    expect(playing(page)).to_contain_text(f"frame {count - 12} of {count}")
    page.keyboard.press("Shift+C")
    expect(playing(page)).to_contain_text("1 · Past the wheel")


def test_a_shot_is_shown_as_the_core_computes_it(project):
    page = project
    # So small that the picture, 720 pixels wide, is not enlarged.
    page.set_viewport_size({"width": 1000, "height": 700})
    go(page, "Upper row")
    number, _ = of_project(page)
    shot = shot_named(page, "Upper row")
    canvas = page.locator("main canvas:not([inert] canvas)").first
    until(lambda: canvas.get_attribute("data-exact") == "yes")
    look = page.request.get(f"/api/projects/{number}/shots/{shot['id']}/worn").json()
    seen = shown(canvas)
    wish = {"look": look, "trim": shot["trim"], "frame": shot["frame"]["id"]}
    assert apart(seen, rendered(page, seen.shape[1], wish)).max() <= 2


def test_two_are_held_against_each_other_split_and_beside(project, axe):
    page = project
    go(page, "Shelf, wide")
    page.get_by_role("button", name=re.compile("Held against")).click()
    page.get_by_role("option", name="against the original").click()
    expect(page.get_by_role("slider", name=re.compile("split", re.IGNORECASE))).to_have_count(1)
    page.get_by_role("radio", name="Beside").locator("xpath=ancestor-or-self::*[@role='radio']").click()
    tags = page.locator("main .picture")
    expect(tags).to_have_count(4)
    expect(page.get_by_text("original", exact=True).first).to_be_visible()
    assert axe(page) == []
    page.get_by_role("button", name=re.compile("Held against")).click()
    page.get_by_role("option", name="against nothing").click()
    expect(page.get_by_role("radio", name="Beside")).to_have_count(0)


def test_a_jump_is_found_and_said_to_be_meant(project, axe):
    page = project
    expect(page.get_by_text(re.compile(r"^\d jumps? inside scenes$"))).to_be_visible()
    leave_the_keys(page)
    page.keyboard.press("n")
    jump = page.get_by_role("group", name="Jump at this cut")
    expect(jump).to_contain_text("a jump at the cut")
    assert axe(page) == []
    name = playing(page).locator("b").inner_text()
    jump.get_by_role("button", name="It is meant so").click()
    expect(jump).to_have_count(0)
    expect(playing(page)).to_contain_text(name)


def test_a_note_is_pinned_by_keys_answered_and_settled(project, enter, axe):
    page = project
    go(page, "First fire")
    leave_the_keys(page)
    page.keyboard.press("p")
    where = page.get_by_role("application")
    expect(where).to_be_focused()
    for _ in range(5):
        page.keyboard.press("ArrowLeft")
    page.keyboard.press("Enter")
    page.get_by_role("textbox", name=re.compile("Note on .* First fire")).fill(NOTE)
    assert axe(page) == []
    page.get_by_role("button", name="Keep", exact=True).click()
    expect(page.get_by_role("button", name=re.compile(f"by Tomas.*: {NOTE}"))).to_be_visible()
    note = page.get_by_role("region", name="Notes").locator(".note", has_text=NOTE)
    expect(note).to_contain_text("First fire")
    expect(note).to_contain_text("under Ember & Tide r2 60 %")

    odile = enter("odile", f"/projects/{of_project(page)[0]}/reel")
    theirs = odile.get_by_role("region", name="Notes").locator(".note", has_text=NOTE)
    theirs.get_by_role("button", name=re.compile("^Show note")).click()
    expect(playing(odile)).to_contain_text("First fire")
    theirs.get_by_role("button", name="Reply").click()
    theirs.get_by_role("textbox").fill("They do now.")
    theirs.get_by_role("button", name="Send").click()
    expect(theirs).to_contain_text("They do now.")
    theirs.get_by_role("button", name="Settle").click()
    expect(theirs).to_contain_text("settled by Odile")
    odile.goto("/people")
    expect(odile.get_by_text(NOTE).first).to_be_visible()


def test_a_review_clip_is_made_and_watched(project, axe):
    page = project
    number, of_it = of_project(page)
    heads = next(s["id"] for s in of_it["scenes"] if s["name"] == "Heads, window")
    shots = [s for s in of_it["shots"] if s["scene"] == heads]
    page.get_by_role("button", name="Review clip").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_role("button", name=re.compile("Shots of the review clip")).click()
    page.get_by_role("option", name="Heads, window").click()
    expect(page.get_by_role("listbox")).to_have_count(0)
    sheet.get_by_role("button", name=re.compile("Size of the review clip")).click()
    page.get_by_role("option", name="960 × 540").click()
    sheet.get_by_text("for whom").click()
    sheet.get_by_role("textbox", name="For whom").fill("the potter")
    assert axe(page) == []
    sheet.get_by_role("button", name="Make it").click()
    watch = page.get_by_role("link", name="Watch the last review clip")
    expect(watch).to_be_visible(timeout=180_000)
    watch.click()
    expect(page.get_by_role("heading", level=1)).to_have_text("Kiln series, episode two, Heads, window")
    expect(page.locator("main")).to_contain_text("for the potter")
    film = page.locator("video")
    until(lambda: film.evaluate("v => v.readyState >= 2 && v.videoWidth === 960"))
    assert film.evaluate("v => v.duration") == pytest.approx(4 * len(shots), abs=0.1)
    assert axe(page) == []
    third = page.get_by_label("Shots of the review clip").get_by_role("button").nth(2)
    third.press("Enter")
    until(lambda: 8 <= film.evaluate("v => v.currentTime") < 12)
    expect(third).to_have_attribute("aria-current", "true")
    page.get_by_role("link", name=f"{shots[2]['name']} on the reel").click()
    expect(playing(page)).to_contain_text(shots[2]["name"])
    assert page.request.get(f"/api/projects/{number}/deliveries").json()[0]["review"]
