"""Clips that play: their proxies beside FFmpeg's own way, what a look does over time, and the player beside a
video element of the same browser that shows the same file without any look."""

import shutil
import statistics
import tempfile
import time
from collections.abc import Callable
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
from playwright.sync_api import Page, sync_playwright
from saucer_core.formats import clips, proxies
from saucer_core.formats.clips import Found
from saucer_core.look import Look
from saucer_core.readings import overtime
from saucer_core.trim import Trim

from .amount import much
from .bench_across import LOOK, RATE, make_clip
from .bench_screen import FLAGS, STEPS, sign_in
from .instance import instance
from .report import Table

#: Frames of the clip that is made to play, of the one that is measured, of the one that is played; seconds
#: that it is played for, and how often another frame is gone to.
FRAMES, MEASURED, PLAYED, SECONDS, SEEKS = much((240, 240, 240, 8, 40), (12, 12, 24, 1, 2))

#: A video element over the whole page: milliseconds to its first picture, frames a second, and milliseconds
#: to each frame that is gone to.
ELEMENT = """
async ([url, seconds, wanted, rate]) => {
  const video = document.createElement("video");
  video.muted = video.playsInline = true;
  video.style = "position: fixed; inset: 0; width: 1280px; height: 720px; z-index: 9999";
  const next = () => new Promise((done) => video.requestVideoFrameCallback(done));
  const begin = performance.now();
  video.src = url;
  document.body.append(video);
  await next();
  const first = performance.now() - begin;
  let count = 0;
  const counted = () => { count += 1; video.requestVideoFrameCallback(counted); };
  video.loop = true;
  await video.play();
  video.requestVideoFrameCallback(counted);
  await new Promise((done) => setTimeout(done, seconds * 1000));
  const shown = count / seconds;
  video.pause();
  const seeks = [];
  for (const number of wanted) {
    const from = performance.now();
    const there = next();
    video.currentTime = (number + 0.5) / rate;
    await there;
    seeks.push(performance.now() - from);
  }
  video.remove();
  return [first, shown, seeks];
}
"""

#: From a press on the clip in the row of frames to its first picture under the look, in milliseconds.
OPENED = """
async (name) => {
  const begin = performance.now();
  [...document.querySelectorAll('main [role=radio], main label')]
    .find((at) => at.textContent.includes(name)).click();
  return await new Promise((done, fail) => {
    const look = () => {
      const canvas = document.querySelector("main canvas[data-number]");
      if (canvas?.dataset.number) return done(performance.now() - begin);
      if (performance.now() - begin > 20000) return fail(new Error("no picture came"));
      requestAnimationFrame(look);
    };
    requestAnimationFrame(look);
  });
}
"""

#: Pictures of the clip a second. moving: whether a control is moved meanwhile, ten times a second.
PLAYING = """
async ([seconds, moving]) => {
  // The canvas that shows the clip: another one while it plays where there is no graphics card.
  const shown = () => document.querySelector("main canvas[data-number]")?.dataset.number;
  const input = document.querySelector(`[aria-label="Control"] input[type=range]`);
  let count = 0, last = shown(), moved = 0;
  const begin = performance.now();
  while (performance.now() - begin < seconds * 1000) {
    await new Promise(requestAnimationFrame);
    const now = shown();
    if (now !== last) { count += 1; last = now; }
    if (moving && performance.now() - begin > moved * 100) {
      const key = moved % 8 < 4 ? "ArrowRight" : "ArrowLeft";
      input.dispatchEvent(new KeyboardEvent("keydown", { key, bubbles: true }));
      input.dispatchEvent(new KeyboardEvent("keyup", { key, bubbles: true }));
      moved += 1;
    }
  }
  return count / seconds;
}
"""

#: Milliseconds to each frame that is gone to by the slider.
GONE = """
async (wanted) => {
  const slider = document.querySelector('[aria-label="Frame of the clip"] input[type=range]')
    ?? document.querySelector('input[type=range][aria-label="Frame of the clip"]');
  const shown = () => document.querySelector("main canvas[data-number]")?.dataset.number;
  const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value").set;
  const seeks = [];
  for (const number of wanted) {
    const begin = performance.now();
    set.call(slider, String(number));
    slider.dispatchEvent(new Event("input", { bubbles: true }));
    slider.dispatchEvent(new Event("change", { bubbles: true }));
    while (shown() !== String(number)) await new Promise(requestAnimationFrame);
    seeks.push(performance.now() - begin);
  }
  return seeks;
}
"""


def _seconds(work: Callable[[], object]) -> float:
    start = time.perf_counter()
    work()
    return time.perf_counter() - start


def _made(source: Path, found: Found, folder: Path) -> Path:
    """The proxy as a worker makes it: in parts, then joined."""
    parts = []
    for number in range(proxies.parts_of(found)):
        part = folder / f"{number}.nut"
        proxies.encode(source, found, number, part, lambda done: None)
        parts.append(part)
    target = folder / "proxy.mp4"
    proxies.join(source, found, parts, target)
    return target


def _by_ffmpeg(source: Path, target: Path) -> None:
    """The same by FFmpeg's decoder, filters and encoder in one pass, through PyAV, as its documentation puts
    them together; the encoder's options are those of the proxy."""
    with av.open(str(source)) as given, av.open(str(target), "w", format="mp4") as out:
        picture = given.streams.video[0]
        picture.thread_type = "AUTO"
        stream: Any = out.add_stream("libsvtav1", rate=RATE, options=proxies.OPTIONS)
        stream.width, stream.height, stream.pix_fmt = 1280, 720, "yuv420p10le"
        graph: Any = av.filter.Graph()
        graph.link_nodes(
            graph.add_buffer(template=picture),
            graph.add("scale", "1280:720:flags=area"),
            graph.add("format", "yuv420p10le"),
            graph.add("buffersink"),
        ).configure()
        for frame in given.decode(picture):
            graph.push(frame)
            made = graph.pull()
            made.pict_type = 0
            out.mux(stream.encode(made))
        out.mux(stream.encode(None))


def _proxy(folder: Path) -> Table:
    source = folder / "large.mov"
    make_clip(source, FRAMES, 1920, 1080)
    found = clips.look_through(source)
    ours = _seconds(lambda: _made(source, found, folder))
    size = (folder / "proxy.mp4").stat().st_size
    theirs = _seconds(lambda: _by_ffmpeg(source, folder / "theirs.mp4"))
    minute = 60 * RATE / FRAMES
    made = Table(
        f"The proxy of a clip of {FRAMES} frames of 1920 × 1080, 10 bit, by one worker on two cores",
        ["who", "seconds for a minute of the clip", "MB a minute"],
    )
    made.add(
        "Saucer: parts of 240 frames, joined, indexed", f"{ours * minute:.0f}", f"{size * minute / 1e6:.0f}"
    )
    made.add("FFmpeg's decoder, scaler and the same encoder in one pass", f"{theirs * minute:.0f}", "")
    made.want("times FFmpeg's own way:", ours / theirs, 1.2)
    return made


def _measured(folder: Path) -> Table:
    source = folder / "small.mov"
    make_clip(source, MEASURED, 640, 360)
    found = clips.look_through(source)
    look = Look.model_validate(LOOK)
    numbers = overtime.chosen(len(found.stamps))
    kept: list[Any] = []
    sampled = _seconds(
        lambda: kept.append(overtime.sample(clips.frames_in_order(source, numbers, found.stamps)))
    )
    measured = _seconds(lambda: list(overtime.measure(look, kept[0], "bt709_display", Trim())))
    made = Table(
        f"What a look of three steps does to a clip over time: {len(numbers)} frames of 640 × 360, two cores",
        ["part", "seconds"],
    )
    made.add("samples, once for the clip", f"{sampled:.1f}")
    made.add("lines and places, for each look and trim", f"{measured:.1f}")
    made.want("both together:", sampled + measured, 12.0, " s")
    return made


def _brought(page: Page, token: str, folder: Path) -> dict[str, Any]:
    """The clip that is played, as a frame that stands for it, once it plays."""
    source = folder / "played.mov"
    make_clip(source, PLAYED, 1280, 720)
    page.request.post(
        "/api/clips",
        multipart={
            "name": "Played",
            "encoding": "bt709_display",
            "file": {"name": source.name, "mimeType": "video/quicktime", "buffer": source.read_bytes()},
        },
        headers={"X-CSRFToken": token},
        timeout=120_000,
    )
    for _ in range(1200):
        row = next((f for f in page.request.get("/api/frames").json() if f["name"] == "Played"), None)
        if row and page.request.get(f"/api/clips/{row['clip']}").json()["plays"]:
            return dict(row)
        time.sleep(0.25)
    raise TimeoutError("the clip was not made to play")


def _on_bench(page: Page, token: str, frame: dict[str, Any]) -> dict[str, Any]:
    """What the bench does with the clip."""
    steps = [{"id": f"s{k}", **s} for k, s in enumerate(STEPS) if s["kind"] != "scene_to_display"]
    look = {"input": "bt709_display", "output": "bt709_display", "steps": steps}
    body = {"name": "In motion", "draft": look}
    made = page.request.post("/api/looks", data=body, headers={"X-CSRFToken": token}).json()
    page.goto(f"/bench/{made['id']}")
    page.locator("main canvas[data-drawn]").nth(1).wait_for()
    page.wait_for_timeout(1500)
    first = page.evaluate(OPENED, frame["name"])
    # Until it was measured over time: that happens once, at rest.
    page.wait_for_timeout(SECONDS * 1000)
    page.get_by_role("grid", name="Steps").get_by_role("row", name="Exposure").locator(".name").click()
    page.get_by_role("group", name="Play").get_by_role("button", name="Play").click()
    shown = page.evaluate(PLAYING, [SECONDS, False])
    moved = page.evaluate(PLAYING, [SECONDS, True])
    page.get_by_role("group", name="Play").get_by_role("button", name="Pause").click()
    page.wait_for_timeout(1500)
    return {"first": first, "shown": shown, "moved": moved, "seeks": page.evaluate(GONE, _wanted())}


def _wanted() -> list[int]:
    """Frames that are gone to, far from one another."""
    return [(k * 97 + 31) % (PLAYED - 1) for k in range(SEEKS)]


def _played(folder: Path) -> Table:
    made = Table(
        f"A clip of 1280 × 720 at {RATE} frames a second in Chromium, drawn in software",
        ["", "first picture", "frames a second", "to another frame, median"],
    )
    with instance() as (_, address), sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=shutil.which("chromium"), args=FLAGS)
        page = browser.new_page(viewport={"width": 1280, "height": 800}, base_url=address)
        token = sign_in(page)
        frame = _brought(page, token, folder)
        # Twice: what is fetched, compiled and kept the first time is so for both from then on.
        for _ in range(2):
            page.goto("/frames")
            page.wait_for_timeout(1500)
            url = f"/api/clips/{frame['clip']}/proxy/file"
            first, shown, seeks = page.evaluate(ELEMENT, [url, SECONDS, _wanted(), float(Fraction(RATE))])
            ours = _on_bench(page, token, frame)
        browser.close()
    gone, theirs = statistics.median(ours["seeks"]), statistics.median(seeks)
    made.add("Saucer: the bench, under a look of seven steps", *_line(ours["first"], ours["shown"], gone))
    made.add("the same while a control is moved, ten times a second", "", f"{ours['moved']:.1f}", "")
    made.add("a video element, without any look", *_line(first, shown, theirs))
    made.want("frames of the element for one of Saucer's:", shown / max(ours["shown"], 0.1), 1 / 0.9)
    made.want("times the element's first picture:", ours["first"] / first, 1.5)
    made.want("times the element's way to another frame:", gone / theirs, 1.5)
    made.want(
        "frames lost of ten while a control is moved:", 10 * (1 - ours["moved"] / max(ours["shown"], 0.1)), 1
    )
    return made


def _line(first: float, shown: float, gone: float) -> list[str]:
    return [f"{first:.0f} ms", f"{shown:.1f}", f"{gone:.0f} ms"]


def run() -> list[Table]:
    """Makes clips and measures them in the core; then starts Saucer and plays one in Chromium."""
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        return [_proxy(folder), _measured(folder), _played(folder)]
