"""How long the bench takes from a moved control to the changed picture, and each screen to its first useful
paint."""

import re
import shutil
import statistics
import tempfile
from pathlib import Path
from typing import Any

from playwright.sync_api import Browser, Page, sync_playwright

from .amount import much
from .floor import Floor
from .instance import instance
from .report import Table

FLAGS = [
    "--no-sandbox",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]
MOVES = much(80, 3)
CONTROLS = ("Exposure", "Contrast", "Saturation")

#: From a key on the chosen control to the frame of the screen that shows both the picture and the frames row
#: drawn anew.
MOVED = """
async ([label, key]) => {
  const input = document.querySelector(`[aria-label="Control"] input[type=range]`);
  const canvases = [...document.querySelectorAll("main canvas[data-drawn]")];
  const drawn = () => canvases.map((c) => Number(c.dataset.drawn ?? 0));
  const start = performance.now();
  const before = drawn();
  input.focus();
  input.dispatchEvent(new KeyboardEvent("keydown", { key, bubbles: true }));
  input.dispatchEvent(new KeyboardEvent("keyup", { key, bubbles: true }));
  return await new Promise((done, fail) => {
    const look = () => {
      if (drawn().every((d, k) => d > before[k])) return done(performance.now() - start);
      if (performance.now() - start > 5000) return fail(new Error("nothing was drawn"));
      requestAnimationFrame(look);
    };
    requestAnimationFrame(look);
  });
}
"""

#: From the same key to the frame of the screen that shows the readings drawn anew.
READ = """
async (key) => {
  const input = document.querySelector(`[aria-label="Control"] input[type=range]`);
  const outline = () => document.querySelector(`[aria-label="Readings"] path`).getAttribute("d");
  const before = outline();
  const start = performance.now();
  input.focus();
  input.dispatchEvent(new KeyboardEvent("keydown", { key, bubbles: true }));
  input.dispatchEvent(new KeyboardEvent("keyup", { key, bubbles: true }));
  return await new Promise((done, fail) => {
    const look = () => {
      if (outline() !== before) return done(performance.now() - start);
      if (performance.now() - start > 5000) return fail(new Error("nothing was read"));
      requestAnimationFrame(look);
    };
    requestAnimationFrame(look);
  });
}
"""

#: From a click on a look in the list to its picture.
OPENED = """
async (name) => {
  const start = performance.now();
  [...document.querySelectorAll("main a")].find((b) => b.textContent.includes(name)).click();
  return await new Promise((done, fail) => {
    const look = () => {
      if (document.querySelectorAll("main canvas[data-drawn]").length > 1)
      return done(performance.now() - start);
      if (performance.now() - start > 8000) return fail(new Error("nothing was opened"));
      requestAnimationFrame(look);
    };
    requestAnimationFrame(look);
  });
}
"""

#: Leaves out what a graphics card does in well under a millisecond and a processor does slowly.
NO_DRAWING = """
for (const name of ["drawArrays", "texSubImage3D", "clear"])
    WebGL2RenderingContext.prototype[name] = () => {};
"""

#: When the frame of the screen was shown that first held what is useful.
FIRST = """
const look = () => {
  if (!document.querySelector(useful)) return requestAnimationFrame(look);
  requestAnimationFrame(() => { window.firstUseful = performance.now(); });
};
requestAnimationFrame(look);
"""

STEPS: list[dict[str, Any]] = [
    {"kind": "exposure", "stops": 0.2},
    {"kind": "scene_to_display"},
    {"kind": "contrast", "amount": 1.1},
    {"kind": "curves", "red": [[0, 0], [0.3, 0.26], [1, 1]], "blue": [[0, 0.05], [1, 0.9]]},
    {"kind": "channel_mix", "red": {"green": 0.1}},
    {"kind": "zone_tint", "shadows": {"hue": 215, "amount": 0.2}, "highlights": {"hue": 70, "amount": 0.2}},
    {"kind": "saturation", "amount": 1.15, "even": 0.5},
    {"kind": "levels", "all": {"gamma": 1.05}},
]


def sign_in(page: Page) -> str:
    """Signs a designer of the demo in; gives the token that is sent with what changes something."""
    page.goto("/sign-in")
    page.get_by_label("Name").fill("ines")
    page.get_by_label("Password").fill("slip-and-glaze")
    page.get_by_role("button", name="Sign in").click()
    page.wait_for_url(re.compile("catalogue"))
    return str(next(c["value"] for c in page.context.cookies() if c["name"] == "csrftoken"))


def _opened(page: Page, name: str) -> float:
    page.goto("/bench")
    page.locator("main a").first.wait_for()
    page.wait_for_timeout(800)
    found: float = page.evaluate(OPENED, name)
    page.wait_for_timeout(500)
    return found


def _moves(page: Page, step: str, reading: bool = False) -> list[float]:
    if step:
        page.get_by_role("grid", name="Steps").get_by_role("row", name=step).locator(".name").click()
    page.wait_for_timeout(700)
    times = []
    for k in range(MOVES):
        key = "ArrowRight" if k % 8 < 4 else "ArrowLeft"
        times.append(page.evaluate(READ, key) if reading else page.evaluate(MOVED, [step, key]))
        page.wait_for_timeout(25)
    return times


def _paint(browser: Browser, signed_in: Any, address: str, ready: str) -> list[str]:
    """How long a screen takes to what is useful on it: in a browser that has nothing kept but the sign-in,
    and again."""
    context = browser.new_context(viewport={"width": 1280, "height": 800}, storage_state=signed_in)
    page = context.new_page()
    page.add_init_script(f"const useful = {ready!r};" + FIRST)
    times = []
    for _ in range(2):
        page.goto(address, wait_until="commit")
        times.append(f"{_first_useful(page):.0f} ms")
        # Until it has fetched ahead for the other screens.
        page.wait_for_timeout(2000)
    context.close()
    return times


def _first_useful(page: Page) -> float:
    """When what is useful was painted first, in milliseconds.

    Asked for from outside: what a page may load forbids it to evaluate the words with which a browser would
    wait for it by itself.
    """
    for _ in range(600):
        if (found := page.evaluate("window.firstUseful")) is not None:
            return float(found)
        page.wait_for_timeout(50)
    raise TimeoutError("what is useful on the screen was not painted in 30 s")


def _line(times: list[float]) -> list[str]:
    return [f"{t:.0f} ms" for t in (*_middle_and_p95(times), max(times))]


def _middle_and_p95(times: list[float]) -> tuple[float, float]:
    ordered = sorted(times)
    return statistics.median(ordered), ordered[int(len(ordered) * 0.95)]


def _beside_floor(table: Table, found: dict[str, list[float]], floor: list[float], how: str) -> None:
    """A line for each control, one for the floor, and how many times the floor all controls together take."""
    for name, times in found.items():
        table.add(f"{name}, {how}", *_line(times))
    table.add(f"*the floor*, {how}", *_line(floor))
    every = _middle_and_p95([t for times in found.values() for t in times])
    middle, p95 = (a / b for a, b in zip(every, _middle_and_p95(floor), strict=True))
    table.add(f"*times the floor*, {how}", f"{middle:.2f} ×", f"{p95:.2f} ×", "")


def _ready(page: Page, address: str) -> None:
    page.goto(address)
    page.locator("main canvas[data-drawn]").nth(1).wait_for()
    page.wait_for_timeout(1500)


def _on_floor(page: Page, address: str, reading: bool = False) -> list[float]:
    _ready(page, f"{address}/{'?readings' if reading else ''}")
    return _moves(page, "", reading)


def run() -> list[Table]:
    """Starts Saucer with demo data on a database of its own and measures it in Chromium, 1280 × 800."""
    with instance() as (_, address), tempfile.TemporaryDirectory() as folder:
        floor = Floor(Path(folder) / "floor")
        try:
            with sync_playwright() as playwright:
                browser = playwright.chromium.launch(executable_path=shutil.which("chromium"), args=FLAGS)
                page = browser.new_page(viewport={"width": 1280, "height": 800}, base_url=address)
                token = sign_in(page)
                steps = [{"id": f"s{k}", **s} for k, s in enumerate(STEPS)]
                made = page.request.post(
                    "/api/looks",
                    data={"name": "Measured", "draft": {"input": "film_log", "steps": steps}},
                    headers={"X-CSRFToken": token},
                ).json()
                moved = Table(
                    "Moved control to changed picture (eight steps, frames row included)",
                    ["control", "median", "p95", "largest"],
                )
                read = Table(
                    "Moved control to changed readings (all four), drawn in software",
                    ["control", "median", "p95", "largest"],
                )
                bench = f"{address}/bench/{made['id']}"
                floor.watch(page)
                _ready(page, bench)
                on_floor = floor.serve(page)
                drawn = {step: _moves(page, step) for step in CONTROLS}
                counted = {step: _moves(page, step, reading=True) for step in CONTROLS[:2]}
                beside = browser.new_page(viewport={"width": 1280, "height": 800})
                _beside_floor(moved, drawn, _on_floor(beside, on_floor), "drawn in software")
                _beside_floor(read, counted, _on_floor(beside, on_floor, reading=True), "drawn in software")
                seen = Table("Opening a look from the list", ["look", "first time", "again"])
                for name in ("Ember & Tide", "Night slip", "Faded card"):
                    seen.add(name, *(f"{_opened(page, name):.0f} ms" for _ in range(2)))
                for one in (page, beside):
                    one.add_init_script(NO_DRAWING)
                _ready(page, bench)
                drawn = {step: _moves(page, step) for step in CONTROLS}
                _beside_floor(moved, drawn, _on_floor(beside, on_floor), "all but the drawing")
                opened = Table("First useful paint, demo data", ["screen", "cold", "again"])
                signed_in = page.context.storage_state()
                for name, path, ready in (
                    ("bench", f"/bench/{made['id']}", "main canvas[data-drawn]"),
                    ("catalogue", "/catalogue", "[role=row] img"),
                    ("project", "/projects/1", "li img.pic"),
                    ("projects", "/projects", "main li"),
                    ("frames", "/frames", "article img"),
                ):
                    opened.add(name, *_paint(browser, signed_in, address + path, ready))
                browser.close()
        finally:
            floor.stop()
    return [moved, read, seen, opened]
