"""Clips on the bench: every frame by its number, the picture as the core computes it while it moves, and
clips that are damaged or cannot be decoded."""

import re
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from playwright.sync_api import Locator, Page, expect
from saucer_core.formats import pictures

from ..moving import BLOCK, written
from ..moving import numbered as numbered_picture
from .hands import draft_of, made, show, tick, until, until_it_plays
from .seen import apart, rendered, shown

STEPS: list[dict[str, Any]] = [
    {"id": "s", "kind": "scene_to_display"},
    {"id": "k", "kind": "saturation", "amount": 1.2},
]
FRAMES = 120
#: Pixels at the top of a picture over which words may lie.
WORDS = 40
#: Goes to frames by the slider as a hand does, and reads the number that the picture itself carries.
GO = """async (wanted) => {
  const slider = document.querySelector('input[type=range][aria-label="Frame of the clip"]')
    ?? [...document.querySelectorAll('[aria-label="Frame of the clip"] input[type=range]')][0];
  // The canvas that shows the clip: another one while it moves where there is no graphics card.
  const shown = () => document.querySelector('main canvas[data-number]');
  const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set;
  const small = new OffscreenCanvas(12, 1).getContext('2d', {willReadFrequently: true});
  const number = () => {
    const canvas = shown(), w = canvas.width, h = canvas.height;
    let found = 0;
    for (let bit = 0; bit < 12; bit++) {
      small.drawImage(canvas, (bit + 0.4) * 16 / 256 * w, 6 / 160 * h, 2, 2, 0, 0, 1, 1);
      if (small.getImageData(0, 0, 1, 1).data[1] > 127) found |= 1 << bit;
    }
    return found;
  };
  const wrong = [];
  for (const n of wanted) {
    set.call(slider, String(n));
    slider.dispatchEvent(new Event('input', {bubbles: true}));
    slider.dispatchEvent(new Event('change', {bubbles: true}));
    const end = performance.now() + 20000;
    while (shown()?.dataset.number !== String(n) && performance.now() < end)
      await new Promise(requestAnimationFrame);
    await new Promise(requestAnimationFrame);
    if (number() !== n) wrong.push([n, number(), shown()?.dataset.number]);
  }
  return wrong;
}"""


@pytest.fixture(scope="module")
def numbered(tmp_path_factory) -> Path:
    folder = tmp_path_factory.mktemp("numbered")
    return written(folder / "numbered.mov", FRAMES, codec="prores_ks", sound=0.5)


@pytest.fixture(scope="module")
def large(tmp_path_factory) -> Path:
    """Larger than it is shown, as clips are."""
    folder = tmp_path_factory.mktemp("large")
    return written(folder / "large.mkv", 40, size=(1280, 800), gentle=True)


def bring(page: Page, path: Path, encoding: str) -> int:
    """Brings a clip by hand, and waits until it plays; gives the frame that stands for it."""
    page.goto("/frames")
    page.get_by_role("button", name="Add frame").click()
    sheet = page.get_by_role("dialog")
    # The second of the two takes folders.
    sheet.locator("input[type=file]").nth(int(path.is_dir())).set_input_files(path)
    sheet.get_by_label("Name").fill(path.stem)
    sheet.get_by_role("button", name=re.compile("Encoded as")).click()
    page.get_by_role("option", name=re.compile(f"^{encoding}")).first.click()
    sheet.get_by_role("button", name="Add clip").click()
    expect(sheet).to_be_hidden()

    def stands() -> dict[str, Any] | None:
        rows = page.request.get("/api/frames").json()
        return next((f for f in rows if f["name"] == path.stem and f["clip"]), None)

    until(lambda: stands() is not None, 60)
    frame = stands()
    assert frame is not None
    until_it_plays(page, frame["clip"])
    return int(frame["id"])


def on_bench(page: Page, frame: int, *steps: dict[str, Any], **look: Any) -> Locator:
    """A new look on the bench over that frame, as soon as the clip shows something."""
    number = made(page, *steps, **look)
    page.goto(f"/bench/{number}?frame={frame}")
    canvas = page.locator("main canvas[data-number]").first
    canvas.wait_for()
    return canvas


def go(page: Page, number: int) -> None:
    box = page.get_by_role("textbox", name="Frame", exact=True)
    box.fill(str(number))
    box.press("Enter")
    expect(page.locator("main canvas[data-number]").first).to_have_attribute("data-number", str(number))


def test_every_seek_step_and_loop_shows_the_frame_that_the_number_names(enter, numbered):
    page = enter("ines")
    frame = bring(page, numbered, "BT.709 display")
    canvas = on_bench(page, frame, name="Numbers")
    wanted = np.random.default_rng(500).integers(0, FRAMES, 500).tolist()
    assert page.evaluate(GO, wanted) == []
    # One frame on and back, by the keys.
    go(page, 11)
    page.get_by_role("heading", level=1).first.click()
    for key, number in (
        ("e", 12),
        ("e", 13),
        ("q", 12),
        ("q", 11),
        ("q", 10),
        ("Shift+E", 22),
        ("Shift+Q", 10),
    ):
        page.keyboard.press(key)
        expect(canvas).to_have_attribute("data-number", str(number))
        assert page.evaluate(GO, [number]) == []
    # It plays inside its loop, and nowhere else.
    go(page, 30)
    page.get_by_role("heading", level=1).first.click()
    page.keyboard.press("b")
    go(page, 41)
    page.get_by_role("heading", level=1).first.click()
    page.keyboard.press("f")
    page.keyboard.press(" ")
    seen = page.evaluate(
        """async () => { const seen = new Set();
        const shown = () => document.querySelector('main canvas[data-number]')?.dataset.number;
        for (let k = 0; k < 120; k++) {
          await new Promise(requestAnimationFrame);
          if (shown() !== undefined) seen.add(Number(shown()));
        }
        return [...seen]; }"""
    )
    # The frame on which it stood is shown until the first one is due.
    assert len(set(seen) - {41}) > 2
    assert set(seen) <= set(range(30, 42))
    expect(page.get_by_role("button", name="Pause Space")).to_be_visible()
    page.keyboard.press(" ")
    expect(page.get_by_role("button", name="Play Space")).to_be_visible()
    # By timecode, and outside the clip.
    box = page.get_by_role("textbox", name="Timecode")
    box.fill("10:00:02:03")
    box.press("Enter")
    expect(canvas).to_have_attribute("data-number", "51")
    box.fill("11:00:00:00")
    expect(box).to_have_attribute("aria-invalid", "true")
    box.press("Escape")


@pytest.mark.parametrize("how", ["Original", "Look", "Split", "Difference", "As baked"])
def test_a_frame_of_a_clip_is_shown_as_the_core_computes_it(enter, large, how):
    """Before its pixels come from the server at rest: through the planes, the matrix and the table."""
    page = enter("ines")
    frames = page.request.get("/api/frames").json()
    frame = next((f["id"] for f in frames if f["name"] == "large"), None) or bring(page, large, "film log")
    page.route("**/api/exact*", lambda route: route.abort())
    on_bench(page, frame, *STEPS, name="Moving", input="film_log")
    show(page, how)
    go(page, 27)
    look = draft_of(page).model_dump(mode="json")
    trim = next(f["trim"] for f in page.request.get("/api/frames").json() if f["id"] == frame)
    none = {"input": "film_log", "output": "film_log", "steps": []}
    body: dict[str, Any] = {"look": look, "frame": frame, "at": 27, "trim": trim}
    if how == "Difference":
        body |= {"show": "difference", "against": None, "full": 20}
    elif how == "As baked":
        body |= {"show": "baked", "grid": 33}

    # The one that is painted at rest; while it moves a smaller one may lie over it.
    canvas = page.locator("main canvas[data-picture][data-number]")

    def close() -> bool:
        seen = shown(canvas)
        width, height = seen.shape[1], seen.shape[0]
        wanted = rendered(page, width, body)
        before = rendered(page, width, body | {"look": none})
        if how == "Original":
            wanted = before
        elif how == "Split":
            wanted = np.concatenate([before[:, : width // 2], wanted[:, width // 2 :]], axis=1)
        off = apart(seen, wanted)
        # Without the blocks and the words at the top, and the line that lies over the picture.
        off[: max(round(height * 2 * BLOCK / 800), WORDS)] = 0
        off[:, [0, -1]] = off[-1] = 0
        off[:, width // 2 - 20 : width // 2 + 20] = 0
        off[round(height * 0.42) : round(height * 0.58)] = 0
        # A table has no edge where two looks are the same: there a difference is off by some tenths of ΔE.
        return bool(off.max() <= (5 if how == "Difference" else 2))

    until(close)


def test_a_clip_that_is_damaged_plays_around_it_and_says_where(enter, numbered):
    page = enter("ines")
    path = numbered.with_name("damaged.mov")
    path.write_bytes(numbered.read_bytes())
    frame = bring(page, path, "BT.709 display")
    row = next(f for f in page.request.get("/api/frames").json() if f["id"] == frame)
    index = page.request.get(f"/api/clips/{row['clip']}/proxy").json()
    begin, end = index["offsets"][36], index["offsets"][48]

    def damaged(route: Any) -> None:
        answer = route.fetch()
        first = int(route.request.headers["range"].removeprefix("bytes=").partition("-")[0])
        body = bytearray(answer.body())
        for at in range(max(begin, first), min(end, first + len(body))):
            body[at - first] = 0x5A
        route.fulfill(response=answer, body=bytes(body))

    page.route("**/proxy/file", damaged)
    canvas = on_bench(page, frame, name="Damaged")
    go(page, 34)
    page.get_by_role("heading", level=1).first.click()
    page.keyboard.press(" ")
    until(lambda: int(canvas.get_attribute("data-number") or 0) >= 50)
    page.keyboard.press(" ")
    box = page.get_by_role("textbox", name="Frame", exact=True)
    box.fill("40")
    box.press("Enter")
    expect(page.get_by_role("alert").filter(has_text="damaged")).to_contain_text(
        "Frames 36 to 47 are damaged"
    )
    page.unroute_all(behavior="ignoreErrors")


def test_a_clip_that_is_removed_while_it_plays_stops_and_says_so(enter, large):
    page = enter("ines")
    path = large.with_name("removed.mkv")
    path.write_bytes(large.read_bytes())
    frame = bring(page, path, "BT.709 display")
    on_bench(page, frame, name="Removed")
    page.get_by_role("heading", level=1).first.click()
    page.keyboard.press(" ")
    play = page.get_by_role("group", name="Play")
    expect(play.get_by_role("button", name="Pause")).to_be_visible()
    row = next(f for f in page.request.get("/api/frames").json() if f["id"] == frame)
    # As somebody else does it.
    token = page.evaluate("document.cookie.match(/csrftoken=([^;]+)/)[1]")
    for path in (f"frames/{frame}", f"clips/{row['clip']}"):
        answer = page.request.delete(f"/api/{path}", headers={"X-CSRFToken": token})
        assert answer.status == 204, answer.text()
    expect(page.get_by_role("alert").filter(has_text="not here any more")).to_be_visible()
    # What is decoded stays, and another frame of the row is worked on as ever.
    expect(play.get_by_role("button", name="Play")).to_be_visible()
    tick(page, "radio", "Clay heads")
    expect(page.get_by_role("alert")).to_have_count(0)


def test_without_a_decoder_it_plays_through_a_video_element_and_says_so(enter, axe):
    page = enter("ines")
    page.add_init_script("delete window.VideoDecoder")
    frame = next(f for f in page.request.get("/api/frames").json() if f["name"] == "Fire at night")
    until_it_plays(page, frame["clip"])
    canvas = on_bench(page, frame["id"], *STEPS, name="Element", input="film_log")
    expect(page.get_by_text("8 bit, as the browser reads it")).to_be_visible()
    go(page, 20)
    page.get_by_role("heading", level=1).first.click()
    page.keyboard.press(" ")
    until(lambda: int(canvas.get_attribute("data-number") or 0) > 24)
    page.keyboard.press(" ")
    assert axe(page) == []


def test_a_place_over_time_is_said_to_be_meant_and_shown_again(enter):
    page = enter("ines")
    frame = next(f for f in page.request.get("/api/frames").json() if f["name"] == "Fire at night")
    until(lambda: page.request.get(f"/api/clips/{frame['clip']}").json()["proxy_job"]["state"] == "done", 120)
    bright = [{"id": "e", "kind": "exposure", "stops": 3}, {"id": "s", "kind": "scene_to_display"}]
    on_bench(page, frame["id"], *bright, name="Bright", input="film_log")
    place = page.get_by_role("status").filter(has_text="highlights clip")
    expect(place).to_be_visible()
    page.get_by_role("button", name="It is meant so").click()
    expect(place).to_have_count(0)
    page.reload()
    again = page.get_by_role("button", name=re.compile("meant so: show"))
    expect(again).to_be_visible()
    expect(place).to_have_count(0)
    again.click()
    expect(place).to_be_visible()


def test_a_folder_of_numbered_pictures_comes_in_as_a_clip(enter, tmp_path):
    folder = tmp_path / "glaze_drips"
    folder.mkdir()
    for number in (n for n in range(1, 31) if n != 20):
        pictures.write(folder / f"drip_{number:04d}.png", numbered_picture(number), "uint16")
    (folder / "notes.txt").write_text("of the take")
    page = enter("ines")
    frame = bring(page, folder, "BT.709 display")
    row = next(f for f in page.request.get("/api/frames").json() if f["id"] == frame)
    clip = page.request.get(f"/api/clips/{row['clip']}").json()
    assert (clip["facts"]["frames"], clip["facts"]["depth"], clip["encoding"]) == (30, 16, "bt709_display")
    assert clip["facts"]["doubts"] == ["has no picture for number 20: the one before is held"]
    on_bench(page, frame, name="Drips")
    # Numbers begin with 1, frames with 0; the twentieth picture is missing.
    assert page.evaluate(GO, [4, 18, 19, 29]) == [[4, 5, "4"], [18, 19, "18"], [29, 30, "29"]]


def test_a_frame_of_a_clip_is_held_as_a_still(enter):
    page = enter("ines")
    frame = next(f for f in page.request.get("/api/frames").json() if f["name"] == "Heads, into shade")
    until_it_plays(page, frame["clip"])
    on_bench(page, frame["id"], *STEPS, name="Held", input="film_log")
    go(page, 15)
    page.get_by_role("button", name="Hold frame").click()
    expect(page.get_by_role("radio", name="Heads, into shade, frame 15")).to_be_checked()


def plays(page: Page, name: str) -> dict[str, Any]:
    """The frame of a clip of the demo, once it plays."""
    frame = next(f for f in page.request.get("/api/frames").json() if f["name"] == name)
    until_it_plays(page, frame["clip"])
    return dict(frame)


def numbers(page: Page, within: str) -> list[int]:
    """The frames that the pictures of a part of the page show."""
    return [
        int(number)
        for number in page.locator(f"{within} canvas[data-number]").evaluate_all(
            "all => all.map((one) => one.dataset.number).filter((number) => number !== undefined)"
        )
    ]


def test_other_clips_in_the_row_run_where_somebody_wants_it(enter):
    page = enter("ines")
    first, second = plays(page, "Fire at night"), plays(page, "Heads, into shade")
    canvas = on_bench(page, first["id"], *STEPS, name="Row", input="film_log")
    assert page.locator("canvas[data-running]").count() == 0
    page.get_by_role("switch", name="Row runs").locator("xpath=ancestor::label").click()
    small = page.locator(f'canvas[data-running="{second["name"]}"]')
    until(lambda: small.get_attribute("data-number") is not None)
    page.get_by_role("heading", level=1).first.click()
    page.keyboard.press(" ")
    begun = int(small.get_attribute("data-number") or 0)
    until(lambda: int(small.get_attribute("data-number") or 0) not in (begun, begun + 1))
    until(lambda: canvas.get_attribute("data-number") is not None)
    page.keyboard.press(" ")
    # It stands with the one that is shown.
    page.wait_for_timeout(500)
    stands = small.get_attribute("data-number")
    page.wait_for_timeout(700)
    assert small.get_attribute("data-number") == stands


def test_a_clip_plays_on_the_page_of_a_look_with_the_same_keys(enter, axe):
    page = enter("ines")
    frame = plays(page, "Fire at night")
    look = next(x for x in page.request.get("/api/looks").json() if x["name"] == "Ember & Tide")
    page.goto(f"/catalogue/look/{look['id']}?frame={frame['id']}")
    page.locator("main canvas[data-number]").first.wait_for()
    assert axe(page) == []
    (begun,) = numbers(page, "main")
    page.get_by_role("heading", level=1).first.click()
    page.keyboard.press("e")
    until(lambda: numbers(page, "main") == [begun + 1])
    page.keyboard.press(" ")
    until(lambda: numbers(page, "main")[:1] > [begun + 2])
    page.keyboard.press(" ")
    # A note is pinned to the picture as it is to a still.
    page.keyboard.press("p")
    page.get_by_role("application", name=re.compile("Where the note goes")).press("Enter")
    page.get_by_role("textbox", name=re.compile("note", re.IGNORECASE)).first.fill("Less blue in the smoke.")
    expect(page.locator("canvas[data-number]").first).to_be_visible()


def test_a_roll_out_is_played_now_then_and_where_they_differ(enter, axe):
    page = enter("tomas", "/projects/1/wall")
    page.get_by_role("link", name=re.compile("Look at the")).first.click()
    aside = page.get_by_role("complementary", name="Another revision")
    button = aside.get_by_role("button", name=re.compile(r"^Play .* now and then$")).first
    expect(button).to_be_visible()
    project = page.request.get("/api/projects/1").json()
    clip = next(s["frame"]["clip"] for s in project["shots"] if s["cut"])
    until_it_plays(page, clip)
    button.click()
    sheet = page.get_by_role("dialog")
    expect(sheet.get_by_role("figure")).to_have_count(3)
    until(lambda: len(numbers(page, "[role=dialog]")) == 3)
    assert axe(page) == []
    sheet.get_by_role("button", name="One frame on").click()
    until(lambda: len(set(numbers(page, "[role=dialog]"))) == 1)
    sheet.get_by_role("button", name="Play", exact=False).first.click()
    begun = numbers(page, "[role=dialog]")[0]
    until(lambda: (numbers(page, "[role=dialog]") or [begun])[0] != begun)
    # All three show one frame.
    sheet.get_by_role("button", name="Pause", exact=False).click()
    until(lambda: len(numbers(page, "[role=dialog]")) == 3 and len(set(numbers(page, "[role=dialog]"))) == 1)
