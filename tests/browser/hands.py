"""What hands do on the bench, and what is on the server afterwards."""

import re
import time
import traceback
from collections.abc import Callable
from typing import Any, Literal

from playwright.sync_api import Locator, Page, expect
from saucer_core.look import Look


def until(holds: Callable[[], bool], seconds: float = 30) -> None:
    """Waits for what only the picture or the server can tell; fails where it does not come to hold."""
    end = time.monotonic() + seconds
    while not holds():
        assert time.monotonic() < end, f"not within {seconds:g} s: {traceback.extract_stack(limit=2)[0].line}"
        time.sleep(0.15)


def until_it_plays(page: Page, clip: int) -> None:
    """Waits until a clip has its proxy; says how far that is where it takes too long."""
    seconds = 240
    end = time.monotonic() + seconds
    while not (whole := page.request.get(f"/api/clips/{clip}").json())["plays"]:
        failed = whole["proxy_job"] and whole["proxy_job"]["state"] == "failed"
        assert not failed, whole["proxy_job"]
        work = page.request.get("/api/jobs").json() if time.monotonic() > end else None
        assert work is None, f"does not play after {seconds} s: {whole['proxy_job']}; all work: {work}"
        time.sleep(0.15)


def control(page: Page) -> Locator:
    return page.get_by_role("region", name="Control", exact=True)


def add_step(page: Page, word: str, title: str) -> None:
    page.get_by_role("button", name="Add a step", exact=True).click()
    page.get_by_role("searchbox", name="Find a step").fill(word)
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", level=1, name=title, exact=True)).to_be_visible()


def type_in(page: Page, label: str, value: str, part: str | None = None) -> None:
    """Types a number into the control, or into a part of it."""
    place = page.get_by_role("region", name=part, exact=True) if part else control(page)
    box = place.get_by_role("textbox", name=label, exact=True)
    box.fill(value)
    box.press("Enter")


def tick(page: Page, role: Literal["radio", "checkbox"], name: str) -> None:
    """Clicks what people see of a tick: its label, not the hidden input."""
    page.get_by_role(role, name=name).locator("xpath=ancestor::label").click()
    expect(page.get_by_role(role, name=name)).to_be_checked()


def row(page: Page, name: str, nth: int = 0) -> Locator:
    return page.get_by_role("grid", name="Steps").get_by_role("row", name=name).nth(nth)


def choose_row(page: Page, name: str, nth: int = 0, **how: Any) -> None:
    row(page, name, nth).locator(".name").click(**how)


def look_id(page: Page) -> int:
    return int(re.search(r"/bench/(\d+)", page.url)[1])


#: What a hand did reaches the draft, and the words over it, with the next frames that the browser draws.
DRAWN = (
    "() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(() => "
    "setTimeout(done, 50))))"
)


def kept(page: Page) -> None:
    page.evaluate(DRAWN)
    expect(page.get_by_role("status").filter(has_text=re.compile(r"· kept (just|\d)"))).to_be_visible()


def draft_of(page: Page) -> Look:
    """The draft as the server has it, once everything is kept."""
    kept(page)
    return Look.model_validate(page.request.get(f"/api/looks/{look_id(page)}").json()["draft"])


def open_look(page: Page, number: int) -> None:
    page.goto(f"/bench/{number}")
    page.locator("main canvas[data-drawn]").first.wait_for()


def made(page: Page, *steps: dict[str, Any], name: str = "Try", **more: Any) -> int:
    """A new look with those steps, on the bench."""
    look = {"input": "bt709_display", "output": "bt709_display", "steps": list(steps), **more}
    token = next(c["value"] for c in page.context.cookies() if c["name"] == "csrftoken")
    answer = page.request.post(
        "/api/looks", data={"name": name, "draft": look}, headers={"X-CSRFToken": token}
    )
    assert answer.status == 201, answer.text()
    number = int(answer.json()["id"])
    open_look(page, number)
    return number


def show(page: Page, how: str) -> None:
    page.get_by_role("radio", name=how, exact=True).click()


def against(page: Page, name: str) -> None:
    """Holds the draft against something from the menu."""
    page.get_by_role("button", name=re.compile("^Held against")).click()
    page.get_by_role("menuitem", name=re.compile(f"^{re.escape(name)}")).first.click()


def checks(page: Page) -> Locator:
    """The line of checks, opened."""
    line = page.get_by_role("region", name="Checks")
    expect(line.get_by_role("status")).to_have_text(re.compile(r"^\d+ thing"))
    if line.get_by_role("list").count() == 0:
        line.get_by_role("button", name=re.compile("open")).click()
    return line
