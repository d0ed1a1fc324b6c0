"""Looks that come in and tables that go out, beside scripts with OpenColorIO and OpenImageIO that do the same
to the files."""

import statistics
import time
import zipfile
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from functools import partial
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any

import numpy as np
import OpenImageIO as oiio
import PyOpenColorIO as ocio
from saucer_core.arrays import F32
from saucer_core.baking.bake import bake
from saucer_core.baking.deviation import Measuring
from saucer_core.baking.fit import fit
from saucer_core.baking.pair import pair
from saucer_core.baking.unbake import unbake
from saucer_core.formats import cube, incoming, pack
from saucer_core.look import Look
from saucer_core.readings.clipped import clipped
from saucer_core.readings.cloud import cloud, disc, slices
from saucer_core.readings.condition import condition
from saucer_core.readings.portrait import portrait
from saucer_core.readings.traits import traits
from saucer_core.treatment import Treatment

from .amount import much
from .peers import packed
from .report import Table

#: Tables of the pack.
COUNT = much(500, 6)
#: Those of them that differ.
DIFFERENT = much(20, 3)
#: Pixels: width of the pictures.
WIDTH = 320
#: Pixels: their height.
HEIGHT = 180
DISPLAY = "bt709_display"
STEPS: list[dict[str, Any]] = [
    {"kind": "contrast", "amount": 1.12},
    {"kind": "curves", "blue": [[0, 0.04], [0.5, 0.48], [1, 0.92]]},
    {"kind": "zone_tint", "shadows": {"hue": 220, "amount": 0.14}, "highlights": {"hue": 75, "amount": 0.1}},
    {"kind": "saturation", "amount": 0.85},
]


def _seconds(work: Callable[[], object], times: int = much(3, 1)) -> float:
    taken = []
    for _ in range(times):
        start = time.perf_counter()
        work()
        taken.append(time.perf_counter() - start)
    return statistics.median(taken)


def _look(k: int = 0) -> Look:
    return Look.model_validate({"steps": [{**STEPS[0], "amount": 0.9 + 0.02 * (k % DIFFERENT)}, *STEPS[1:]]})


def _picture(width: int, height: int) -> F32:
    y, x = np.mgrid[0:height, 0:width].astype(np.float32)
    waves = [0.5 + 0.45 * np.sin(x / (23 + 9 * c) + c) * np.cos(y / (31 - 5 * c)) for c in range(3)]
    return np.stack(waves, axis=-1).astype(np.float32)


def _packed(path: Path) -> None:
    texts = [cube.write_text(bake(Treatment(_look(k)).compile(), 33)) for k in range(DIFFERENT)]
    with zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED, compresslevel=1) as z:
        for k in range(COUNT):
            z.writestr(f"series {k // 50}/look_{k}.cube", texts[k % DIFFERENT])


def _ours(path: Path, shown: F32, folder: Path) -> None:
    """Everything that a worker does with a pack but for writing rows: read, guess, measure, describe,
    draw."""

    def one(file: pack.PackFile) -> None:
        assert file.path is not None
        for found in incoming.read(file.path, file.name):
            traits(found.look, tables=found.tables)
            portrait(found.look, 112, tables=found.tables)
            Treatment(found.look, ends="screen").compile(found.tables)(shown)
        file.path.unlink()

    with ThreadPoolExecutor(2) as pool:
        list(pool.map(one, pack.unpack(path, path.name, folder)))


def _theirs(path: Path, shown: F32, folder: Path) -> None:
    """The same files read, applied to the same picture and written as previews: nothing is guessed, measured
    or described."""
    config = ocio.Config.CreateRaw()
    with zipfile.ZipFile(path) as z:
        names = z.namelist()

        def one(name: str) -> None:
            file = folder / f"{names.index(name)}.cube"
            file.write_bytes(z.read(name))
            transform = ocio.FileTransform(str(file), interpolation=ocio.INTERP_TETRAHEDRAL)
            rgb = shown.copy()
            packed(config.getProcessor(transform).getDefaultCPUProcessor(), rgb)()
            out = oiio.ImageBuf(rgb)
            out.write(str(folder / f"{file.stem}.jpg"), "uint8")
            file.unlink()

        with ThreadPoolExecutor(2) as pool:
            list(pool.map(one, names))


def _ocio_bake(look: Look, folder: Path) -> None:
    """A table of the same size written by OpenColorIO from the same look, given to it as a table of 65
    points."""
    source = folder / "source.cube"
    if not source.exists():
        source.write_text(cube.write_text(bake(Treatment(look).compile(), 65)))
    baker = ocio.Baker()
    config = ocio.Config.CreateRaw()
    space = ocio.ColorSpace(name="looked")
    space.setTransform(ocio.FileTransform(str(source)), ocio.COLORSPACE_DIR_FROM_REFERENCE)
    config.addColorSpace(space)
    baker.setConfig(config)
    baker.setFormat("spi3d")
    baker.setInputSpace("raw")
    baker.setTargetSpace("looked")
    baker.setCubeSize(33)
    baker.bake(str(folder / "out.spi3d"))


def _timed(out: Table, what: str, work: Callable[[], object], at_most: float) -> None:
    taken = _seconds(work)
    out.add(what, f"{taken:.2f} s")
    out.want(f"{what}:", taken, at_most, " s")


def run() -> list[Table]:
    """Everything that is measured."""
    look = _look()
    program = Treatment(look).compile()
    table = bake(program, 33)
    packs = Table(f"A pack of {COUNT} tables of 33³, two cores", ["who", "time", "a table"])
    out = Table("Tables of 33³", ["what", "time"])
    with TemporaryDirectory() as name:
        folder = Path(name)
        path, shown = folder / "pack.zip", _picture(WIDTH, HEIGHT)
        _packed(path)
        ours, theirs = (_seconds(partial(work, path, shown, folder), 1) for work in (_ours, _theirs))
        packs.add(
            "Saucer: read, encodings guessed, health, words, saucer, picture",
            f"{ours:.1f} s",
            f"{ours / COUNT * 1000:.0f} ms",
        )
        packs.add(
            "OpenColorIO and OpenImageIO: read, picture", f"{theirs:.1f} s", f"{theirs / COUNT * 1000:.0f} ms"
        )
        packs.want("the pack:", ours, 60, " s")
        packs.add("times that script", f"{ours / theirs:.2f} ×", "")

        def reported() -> None:
            lut = bake(program, 33)
            cube.write_text(lut)
            Measuring(program, [shown]).report(lut)

        _timed(out, "a .cube with the full report", reported, 1)
        out.add(
            "OpenColorIO's baker, without a report", f"{_seconds(lambda: _ocio_bake(look, folder)):.2f} s"
        )
    _timed(out, "a fitted table", lambda: fit(program, 33), 3)
    _timed(out, "a table taken apart into editable steps", lambda: unbake(table, DISPLAY, DISPLAY), 10)

    def inspected() -> None:
        cloud(look)
        disc(look)
        slices(look, "blue")
        condition(program, clipped(look))
        traits(look)

    _timed(out, "all that the inspector shows first", inspected, 0.5)
    untouched = _picture(1280, 720)
    treated = np.clip(program(untouched), 0, 1)
    out.add(
        "a look from a pair of 1280 × 720",
        f"{_seconds(lambda: pair(untouched, treated, DISPLAY, DISPLAY), 1):.1f} s",
    )
    return [packs, out]
