"""Looks on many pictures and on a clip, beside scripts with public libraries that do the same; the demo's
wall and a small delivery."""

import json
import os
import shutil
import subprocess
import tempfile
import time
from collections.abc import Callable
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import numpy as np
import OpenImageIO as oiio
import PyOpenColorIO as ocio
from av.video.frame import VideoFrame
from saucer_core.baking.bake import bake
from saucer_core.encodings import encoding
from saucer_core.encodings.ycbcr import Layout, to_planes
from saucer_core.formats import clips, cube, pictures
from saucer_core.formats.clip_kinds import CLIP_KINDS
from saucer_core.formats.clip_writing import ClipWork, render
from saucer_core.look import Look
from saucer_core.treatment import Treatment

from launch.places import ROOT, python

from .amount import much
from .bench_delivery import inside
from .instance import instance
from .peers import packed
from .report import Table
from .visitor import Visitor, visitor

#: Pictures of the batch (each side does one after the other), frames of the clip and of a small long one,
#: shots of the wall.
PICTURES, FRAMES, LONG, LARGE, SHOTS = much((12, 240, 3000, 40, 200), (1, 24, 48, 4, 12))
#: Pixels: width of a frame.
WIDE = 1920
#: Pixels: its height.
HIGH = 1080
#: Frames a second.
RATE = 24
LOOK = {
    "steps": [
        {"id": "a", "kind": "contrast", "amount": 1.2},
        {"id": "b", "kind": "saturation", "amount": 0.8},
        {"id": "c", "kind": "zone_tint"},
    ],
}


def _seconds(work: Callable[[], object]) -> float:
    start = time.perf_counter()
    work()
    return time.perf_counter() - start


def _with_libraries(table: Path, source: Path, target: Path) -> None:
    """OpenImageIO reads and writes, OpenColorIO applies the table in between; the same depth and the same
    effort of packing."""
    given: Any = oiio.ImageInput.open(str(source))
    spec = given.spec()
    rgb = np.ascontiguousarray(given.read_image(0, 0, 0, 3, oiio.FLOAT))
    given.close()
    how = ocio.FileTransform(str(table), interpolation=ocio.INTERP_TETRAHEDRAL)
    packed(ocio.Config.CreateRaw().getProcessor(how).getDefaultCPUProcessor(), rgb)()
    wanted = oiio.ImageSpec(spec.width, spec.height, 3, "uint16")
    wanted.attribute("png:compressionLevel", 2)
    out: Any = oiio.ImageOutput.create(str(target))
    out.open(str(target), wanted)
    out.write_image(np.clip(rgb, 0, 1))
    out.close()


def _batch(folder: Path, table: Path) -> Table:
    y, x = np.mgrid[0:2160, 0:3840].astype(np.float32)
    noise = np.random.default_rng(1).normal(0, 0.004, (2160, 3840, 3)).astype(np.float32)
    (folder / "in").mkdir()
    for k in range(PICTURES):
        wave = 0.5 + 0.4 * np.sin(x / (90 + k) + y / (70 + 2 * k))
        pictures.write(
            folder / "in" / f"{k:03d}.png", np.stack([x / 3839, wave, y / 2159], axis=-1) + noise, "uint16"
        )
    (folder / "theirs").mkdir()
    env = {**os.environ, "PYTHONPATH": str(ROOT / "core")}
    asked: list[str | Path] = [
        python(),
        "-m",
        "saucer_core",
        "apply",
        table,
        folder / "in",
        "-o",
        folder / "ours",
        "--quiet",
    ]
    ours = _seconds(lambda: subprocess.run(asked, check=True, env=env, stdout=subprocess.DEVNULL))

    def all_of_them() -> None:
        for source in sorted((folder / "in").iterdir()):
            _with_libraries(table, source, folder / "theirs" / source.name)

    theirs = _seconds(all_of_them)
    one, other = (pictures.read(folder / side / "000.png")[0] for side in ("ours", "theirs"))
    found = Table(
        f"A table on {PICTURES} pictures of 3840 × 2160, 16 bit, read and written, two cores",
        ["who", "time a picture"],
    )
    found.add("Saucer's `apply`", f"{ours / PICTURES:.2f} s")
    found.add("a script with OpenImageIO and OpenColorIO", f"{theirs / PICTURES:.2f} s")
    found.add("times that script", f"{ours / theirs:.2f} ×")
    found.want("times that script:", ours / theirs, 1.2)
    found.add("largest difference, 16-bit codes", f"{np.abs(one - other).max() * 65535:.0f}")
    return found


def make_clip(path: Path, frames: int, wide: int, high: int) -> None:
    """Writes a clip of 10 bit, H.264: soft colours that move, with grain."""
    layout = Layout(10, 2, 2, 1, full=False)
    y, x = np.mgrid[0:high, 0:wide].astype(np.float32)
    base = np.stack(
        [0.5 + 0.4 * np.sin(x / 90), 0.5 + 0.4 * np.cos(y / 70), 0.4 + 0.3 * np.sin((x + y) / 130)], axis=-1
    )
    grain = np.random.default_rng(1).normal(0, 0.01, (high, wide, 3))
    planes = [
        to_planes((np.roll(base, 40 * k, 1) + np.roll(grain, 7 * k, 0)).astype(np.float32), layout)
        for k in range(min(12, frames))
    ]
    with av.open(str(path), "w") as out:
        stream: Any = out.add_stream("libx264", rate=RATE, options={"preset": "ultrafast", "crf": "14"})
        stream.width, stream.height, stream.pix_fmt = wide, high, "yuv420p10le"
        (
            stream.codec_context.color_primaries,
            stream.codec_context.color_trc,
            stream.codec_context.colorspace,
        ) = 1, 1, 1
        for k in range(frames):
            frame = VideoFrame(wide, high, "yuv420p10le")
            for plane, codes in zip(frame.planes, planes[k % len(planes)], strict=True):
                np.frombuffer(memoryview(plane), dtype="<u2").reshape(codes.shape[0], -1)[
                    :, : codes.shape[1]
                ] = codes
            frame.pts, frame.time_base = k, Fraction(1, RATE)
            out.mux(stream.encode(frame))
        out.mux(stream.encode(None))


def _by_filter(source: Path, table: Path, target: Path) -> None:
    """FFmpeg's ``lut3d`` through PyAV, between the same decoder and the same encoder with the same
    options."""
    kind = CLIP_KINDS["h264_10"]
    with av.open(str(source)) as given, av.open(str(target), "w", format="mov") as out:
        picture = given.streams.video[0]
        picture.thread_type = "AUTO"
        stream: Any = out.add_stream(kind.encoder, rate=RATE, options=dict(kind.options))
        stream.width, stream.height, stream.pix_fmt = WIDE, HIGH, kind.pixels
        graph: Any = av.filter.Graph()
        begin = graph.add_buffer(width=WIDE, height=HIGH, format="yuv420p10le", time_base=picture.time_base)
        look, back, end = (
            graph.add("lut3d", f"file={table}:interp=tetrahedral"),
            graph.add("format", kind.pixels),
            graph.add("buffersink"),
        )
        begin.link_to(look)
        look.link_to(back)
        back.link_to(end)
        graph.configure()
        for frame in given.decode(picture):
            begin.push(frame)
            out.mux(stream.encode(end.pull()))
        out.mux(stream.encode(None))


def _clip(folder: Path, table: Path) -> Table:
    source = folder / "clip.mov"
    make_clip(source, FRAMES, WIDE, HIGH)
    found = clips.look_through(source)
    lut = bake(Treatment(Look.model_validate(LOOK)).compile(), 33)
    work = ClipWork(
        source,
        found,
        0,
        FRAMES - 1,
        tuple(lut.operations()),
        encoding("bt709_display"),
        CLIP_KINDS["h264_10"],
    )
    ours = _seconds(lambda: render(work, folder / "lengths", folder / "ours.mov", lambda done, count: None))
    theirs = _seconds(lambda: _by_filter(source, table, folder / "theirs.mov"))
    made = Table(
        f"A clip of {FRAMES} frames of 1920 × 1080, 10 bit, H.264 in and out, two cores",
        ["who", "frames a second"],
    )
    made.add("Saucer: lengths, each whole, joined at the end", f"{FRAMES / ours:.1f}")
    made.add("FFmpeg's lut3d through PyAV, same decoder and encoder", f"{FRAMES / theirs:.1f}")
    made.add("Saucer is as fast", f"{theirs / ours:.2f} ×")
    # Two runs of one thing lie up to 3 % apart here.
    made.want("times the filter:", ours / theirs, 1.03)
    # After four lengths everything that is used again is there.
    half, end = _held(folder, LONG, 640, 360, "h264")
    made.want("memory at the end beside the middle:", end / half, 1.02)
    made.add(
        f"{LONG} frames of 640 × 360: memory at most, in the middle and at the end",
        f"{half:.0f} and {end:.0f} MiB",
    )
    most = _held(folder, LARGE, 3840, 2160, "h264_10")[1]
    made.add(f"{LARGE} frames of 3840 × 2160, 10 bit: memory at most", f"{most:.0f} MiB")
    made.want("memory for large frames:", most, 1024, " MiB")
    return made


#: Renders a long clip in a process of its own; prints the most memory it held so far, in KiB, as it goes.
#: What Linux says in ``getrusage`` still counts the process that started it.
HELD = """
import re, sys
from pathlib import Path
from benchmarks.bench_across import CLIP_KINDS, LOOK, ClipWork, Look, Treatment, bake, clips, encoding, render
folder = Path(sys.argv[1])
source = folder / "long.mov"
found = clips.look_through(source)
lut = bake(Treatment(Look.model_validate(LOOK)).compile(), 33)
last = found.facts.frames - 1
work = ClipWork(source, found, 0, last, tuple(lut.operations()), encoding("bt709_display"),
                CLIP_KINDS[sys.argv[2]])
most = lambda done, count: print(re.search(r"VmHWM:\\s+(\\d+)", Path("/proc/self/status").read_text())[1])
render(work, folder / f"long {sys.argv[2]}", folder / "long out.mov", most)
"""


def _held(folder: Path, frames: int, wide: int, high: int, kind: str) -> tuple[float, float]:
    """The most memory a process held when half of a clip was done, and at its end, in MiB."""
    make_clip(folder / "long.mov", frames, wide, high)
    env = {**os.environ, "PYTHONPATH": f"{ROOT / 'core'}:{ROOT}"}
    said = subprocess.run(
        [python(), "-c", HELD, folder, kind], check=True, env=env, capture_output=True, text=True
    ).stdout.split()
    return int(said[len(said) // 2]) / 1024, int(said[-1]) / 1024


#: A project of as many shots as the wall is to hold, and one with five stills under two looks.
PROJECTS = f"""
import django
django.setup()
from saucer_server.frames.models import Frame
from saucer_server.looks.models import Revision
from saucer_server.people.rules import Person
from saucer_server.projects import assigning, rules
from saucer_server.projects.payloads import Wanted, Wish
from saucer_server.projects.rules import NewShot
lead = Person.objects.get(username="odile")
own = list(Frame.objects.filter(of_shot=True))
large = list(Frame.objects.filter(of_shot=False, chart=False))[:5]
newest = [Revision.objects.filter(look__name=n).first().pk for n in ("North window", "Ember & Tide")]
wall = rules.create(lead, "Wall", "")
shots = rules.add_shots(wall, lead, [NewShot(own[k % len(own)]) for k in range({SHOTS})])
for k in range(8):
    rules.add_scene(wall, lead, f"Scene {{k}}", [s.pk for s in shots[k::8]])
assigning.assign(wall, lead, Wish(whole=True, layers=(Wanted(revision=newest[0]),)))
small = rules.create(lead, "Five stills", "")
five = rules.add_shots(small, lead, [NewShot(f) for f in large])
for k, shot in enumerate(five):
    layers = (Wanted(revision=newest[k % 2], strength=0.9),)
    assigning.assign(small, lead, Wish(shots=(shot.pk,), layers=layers))
print(wall.pk, small.pk)
"""
DELIVER = """
import sys, time, django
django.setup()
from saucer_server.delivering import rules
from saucer_server.delivering.models import Delivery
from saucer_server.delivering.plan import Plan
from saucer_server.people.rules import Person
from saucer_server.projects.rules import find
lead = Person.objects.get(username="odile")
row = rules.order(find(int(sys.argv[1])), lead, Plan(parts=("looks", "shots", "stills"), held="anyway"))
start = time.perf_counter()
while not Delivery.objects.get(pk=row.pk).ready:
    time.sleep(0.05)
print(time.perf_counter() - start)
"""


def _first_screen(browser: Visitor, project: str) -> float:
    at = f"/api/projects/{project}"
    start = time.perf_counter()
    told, _ = browser.all([at, f"{at}/wall"])
    browser.all(
        f"{at}/shots/{s['id']}/still?width=320&v={s['version']}" for s in json.loads(told)["shots"][:48]
    )
    return time.perf_counter() - start


def _on_the_demo() -> Table:
    with instance() as (application, address):
        wall, small = inside(application, PROJECTS).split()
        found = Table("The demo's worker and wall, two cores", ["what", "time"])
        # The first one also reads the machine code of the loops.
        inside(application, DELIVER, "2")
        taken = float(inside(application, DELIVER, small))
        found.add("a delivery of 7 tables and 5 stills of 1280 × 720", f"{taken:.1f} s")
        found.want("the delivery:", taken, 4, " s")
        browser = visitor(application, address, "odile")
        cold = _first_screen(browser, wall)
        warm = min(_first_screen(browser, wall) for _ in range(5))
        found.add(f"a wall of {SHOTS} shots and 48 pictures of it, never rendered before", f"{cold:.1f} s")
        found.add("the same once rendered", f"{warm * 1000:.0f} ms")
        found.want("the wall once rendered:", warm * 1000, 500, " ms")
    return found


def run() -> list[Table]:
    """All of it, one after the other."""
    folder = Path(tempfile.mkdtemp(prefix="saucer-measure-"))
    try:
        table = folder / "look.cube"
        table.write_text(cube.write_text(bake(Treatment(Look.model_validate(LOOK)).compile(), 33)))
        return [_clip(folder, table), _batch(folder, table), _on_the_demo()]
    finally:
        shutil.rmtree(folder, ignore_errors=True)
