"""The core beside OpenColorIO, FFmpeg (PyAV), Pillow and colour-science, in one run."""

import os
import statistics
import time
from collections.abc import Callable
from fractions import Fraction
from functools import partial
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any

import numpy as np
import PyOpenColorIO as ocio
from PIL import Image, ImageFilter
from saucer_core.baking.bake import bake
from saucer_core.encodings import encoding
from saucer_core.formats import cube
from saucer_core.look import Look
from saucer_core.readings.histogram import histogram
from saucer_core.readings.scopes import vectorscope, waveform
from saucer_core.tables.lut import Lut
from saucer_core.treatment import Treatment, evaluate

from .amount import much
from .peers import packed
from .report import Table

#: Height, width and channels of the picture that memory is measured with.
LARGE = much((4320, 7680, 3), (432, 768, 3))
HEIGHT, WIDTH = much((2160, 3840), (540, 960))
STEPS: list[dict[str, Any]] = [
    {"kind": "exposure", "stops": 0.2},
    {"kind": "scene_to_display"},
    {"kind": "contrast", "amount": 1.1},
    {"kind": "curves", "red": [[0, 0], [0.3, 0.26], [1, 1]], "blue": [[0, 0.05], [1, 0.9]]},
    {"kind": "channel_mix", "red": {"green": 0.1}},
    {"kind": "zone_tint", "shadows": {"hue": 215, "amount": 0.2}, "highlights": {"hue": 70, "amount": 0.2}},
    {"kind": "saturation", "amount": 1.15, "even": 0.5},
    {
        "kind": "hue_ranges",
        "ranges": [{"hue": 40, "shift": 8, "saturation": 0.2}, {"hue": 220, "saturation": -0.2}],
    },
]
DISPLAY = [s for s in STEPS if s["kind"] not in ("scene_to_display",)]


def _best(work: Callable[[], object], times: int = much(7, 1)) -> float:
    work()
    taken = []
    for _ in range(times):
        start = time.perf_counter()
        work()
        taken.append(time.perf_counter() - start)
    return statistics.median(taken) * 1000


def _look(count: int) -> Look:
    steps = [STEPS[0], STEPS[1]] if count == 1 else (STEPS * 3)[: count + 1]
    chosen, seen = [], False
    for s in steps:
        if s["kind"] == "scene_to_display":
            if seen:
                continue
            seen = True
        chosen.append(s)
    return Look.model_validate(
        {"input": "film_log", "steps": chosen[: max(count, 2)] if count > 1 else [STEPS[1]]}
    )


def _one_thread(work: Callable[[], object]) -> Callable[[], object]:
    """Without the pool: as one of its own threads sees it."""
    from saucer_core import arrays

    def run() -> object:
        arrays._here.in_pool = True
        try:
            return work()
        finally:
            arrays._here.in_pool = False

    return run


def _applied() -> Table:
    table = Table("33³ tetrahedral on 3840 × 2160 float32", ["who", "time", "Saucer is faster by"])
    rgb = np.random.default_rng(1).uniform(0, 1, (HEIGHT, WIDTH, 3)).astype(np.float32)
    lut = bake(Treatment(Look.model_validate({"steps": DISPLAY})).compile(), 33)
    result = np.empty_like(rgb)
    table.add("Saucer, one thread, a new picture", f"{_best(_one_thread(lambda: lut.apply(rgb))):.0f} ms", "")
    table.add(
        f"Saucer, {os.cpu_count()} threads, a new picture", f"{_best(lambda: lut.apply(rgb)):.0f} ms", ""
    )
    alone, all_threads = (
        _best(_one_thread(lambda: lut.apply(rgb, out=result))),
        _best(lambda: lut.apply(rgb, out=result)),
    )
    table.add("Saucer, one thread", f"{alone:.0f} ms", "")
    table.add(f"Saucer, {os.cpu_count()} threads", f"{all_threads:.0f} ms", "")
    with TemporaryDirectory() as folder:
        path = Path(folder) / "x.cube"
        path.write_text(cube.write_text(lut))
        transform = ocio.FileTransform(str(path), interpolation=ocio.INTERP_TETRAHEDRAL)
        cpu = ocio.Config.CreateRaw().getProcessor(transform).getDefaultCPUProcessor()
        copy = rgb.copy()
        theirs = _best(packed(cpu, copy))
        table.add("OpenColorIO, one thread", f"{theirs:.0f} ms", f"{theirs / alone:.2f} × on one thread")
        table.add(*_ffmpeg(path, rgb, all_threads))
    assert lut.grid is not None
    small = (rgb[:540, :960] * 255).astype(np.uint8)
    image, pillow = Image.fromarray(small), ImageFilter.Color3DLUT(33, lut.grid.reshape(-1).tolist())
    theirs = _best(lambda: image.filter(pillow), 3) * 16
    table.add(
        "Pillow, 8 bit, trilinear (from a sixteenth)",
        f"{theirs:.0f} ms",
        f"{theirs / alone:.1f} × on one thread",
    )
    import colour

    few = rgb[:135, :240]
    own = colour.LUT3D(lut.grid.transpose(2, 1, 0, 3).astype(float))
    theirs = (
        _best(lambda: own.apply(few, interpolator=colour.algebra.table_interpolation_tetrahedral), 3) * 256
    )
    table.add("colour-science (from a 256th)", f"{theirs:.0f} ms", f"{theirs / alone:.0f} × on one thread")
    return table


def _ffmpeg(path: Path, rgb: np.ndarray, ours: float) -> tuple[str, str, str]:
    """FFmpeg's lut3d on planar float32 with all its threads, through PyAV; the filter alone, without copying
    in."""
    import av

    planes = av.VideoFrame(WIDTH, HEIGHT, "gbrpf32le")
    for k, channel in enumerate((1, 2, 0)):
        planes.planes[k].update(np.ascontiguousarray(rgb[..., channel]).tobytes())
    graph = av.filter.Graph()
    graph.threads = 0
    source = graph.add_buffer(width=WIDTH, height=HEIGHT, format=planes.format, time_base=Fraction(1, 25))
    lut = graph.add("lut3d", f"file={path}:interp=tetrahedral")
    sink = graph.add("buffersink")
    source.link_to(lut)
    lut.link_to(sink)
    graph.configure()

    def work() -> None:
        source.push(planes)
        sink.pull()

    theirs = _best(work)
    return "FFmpeg lut3d, all threads", f"{theirs:.0f} ms", f"{theirs / ours:.2f} × with all threads"


def _bake(look: Look, size: int) -> Lut:
    return bake(Treatment(look).compile(), size)


def _baked() -> Table:
    table = Table("Bake, two cores: looks with three OKLab steps in eight", ["steps", "17³", "33³", "65³"])
    for count in (1, 4, 8, 16):
        look = _look(count)
        table.add(
            f"{len(look.steps)}",
            *(f"{_best(partial(_bake, look, size)):.1f} ms" for size in (17, 33, 65)),
        )
    return table


def _chains() -> Table:
    table = Table(
        "CDL, matrix and log on 1920 × 1080 float32, one thread",
        ["chain", "Saucer", "OpenColorIO", "Saucer is faster by"],
    )
    rgb = np.random.default_rng(2).uniform(0.05, 0.9, (1080, 1920, 3)).astype(np.float32)
    log, back = (
        ocio.LogAffineTransform(
            logSideSlope=[0.6 / 0.002 / 1023] * 3,
            logSideOffset=[685 / 1023] * 3,
            linSideSlope=[0.9892] * 3,
            linSideOffset=[0.0108] * 3,
            direction=direction,
        )
        for direction in (ocio.TRANSFORM_DIR_FORWARD, ocio.TRANSFORM_DIR_INVERSE)
    )
    for one in (log, back):
        one.setBase(10)
    brighter = ocio.MatrixTransform([*np.diag([2**0.5] * 3 + [1]).reshape(-1)])
    mixed = ocio.MatrixTransform([0.9, 0.1, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1])
    corrected = {"kind": "slope_offset_power", "red": {"slope": 1.1, "power": 1.2}, "saturation": 0.9}
    chains = {
        "CDL": ([corrected], [ocio.CDLTransform([1.1, 1, 1], [0, 0, 0], [1.2, 1, 1], 0.9)]),
        "log to light, exposure, light to log": ([{"kind": "exposure", "stops": 0.5}], [back, brighter, log]),
        "matrix": ([{"kind": "channel_mix", "red": {"green": 0.1}}], [mixed]),
    }
    for name, (steps, transforms) in chains.items():
        program = Treatment(
            Look.model_validate({"input": "film_log", "output": "film_log", "steps": steps})
        ).compile()
        ours = _best(_one_thread(partial(program, rgb)))
        cpu = ocio.Config.CreateRaw().getProcessor(ocio.GroupTransform(transforms)).getDefaultCPUProcessor()
        copy = rgb.copy()
        theirs = _best(packed(cpu, copy))
        table.add(name, f"{ours:.1f} ms", f"{theirs:.1f} ms", f"{theirs / ours:.2f} ×")
    return table


def _read() -> Table:
    table = Table("Readings of 1280 × 720", ["reading", "time"])
    rgb = np.random.default_rng(3).uniform(0, 1, (720, 1280, 3)).astype(np.float32)
    at = encoding("bt709_display")
    for name, work in (
        ("histogram", lambda: histogram(rgb)),
        ("waveform and parade", lambda: waveform(rgb)),
        ("vectorscope, BT.709", lambda: vectorscope(rgb, at)),
        ("vectorscope, OKLab", lambda: vectorscope(rgb, at, "oklab")),
    ):
        table.add(name, f"{_best(work):.1f} ms")
    return table


def _memory() -> Table:
    """What evaluating an 8K picture needs beyond the picture and its result."""
    import subprocess
    import sys

    code = (
        "import numpy as np, resource; from benchmarks.bench_core import _look; from saucer_core.treatment "
        "import evaluate;"
        "look = _look(8);"
        f"evaluate(look, np.zeros((64, 64, 3), np.float32)); rgb = np.full({LARGE}, 0.4, np.float32); "
        "rgb[0] = 0.5;"
        "before = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss; out = evaluate(look, rgb);"
        "print((resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - before) / 1024, out.nbytes / 2**20)"
    )
    env = {
        **os.environ,
        "PYTHONPATH": os.pathsep.join(str(Path(__file__).parents[1] / p) for p in ("core", ".")),
    }
    peak, result = (
        float(v) for v in subprocess.check_output([sys.executable, "-c", code], env=env, text=True).split()
    )
    table = Table("Memory for 7680 × 4320, eight steps", ["what", "MiB"])
    table.add("the result itself", f"{result:.0f}")
    table.add("beyond the result", f"{max(peak - result, 0):.0f}")
    return table


def run() -> list[Table]:
    """All parts."""
    assert isinstance(bake(Treatment(Look()).compile(), 2), Lut)
    evaluate(_look(8), np.zeros((9, 3), np.float32))
    return [_applied(), _baked(), _chains(), _read(), _memory()]
