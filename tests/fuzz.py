"""Damaged files for every reader: ``python -m tests.fuzz [--count N] [--seed N] [--jobs N]``.

Each reader is given small sound files of its kind, changed at random: bytes flipped, parts cut out, doubled,
swapped with other files, numbers and keywords put in their places. A reader may read what it is given, or
refuse it with ``FileError``; anything else is a fault. Said at the end: how many files each reader was given
and refused, the most computing that one took, and the largest growth of memory. Computing is what the
processor did for the file, in this process and those it started: other work on the machine does not count.
"""

import argparse
import itertools
import json
import random
import resource
import sys
import tempfile
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, field
from fractions import Fraction
from pathlib import Path

import imagecodecs
import numpy as np
import pillow_heif
from PIL import Image
from saucer_core.baking.bake import bake, bake_curves
from saucer_core.errors import FileError
from saucer_core.formats import carrier, cdl, clf, cube, foreign, pictures, recipe
from saucer_core.formats.cutlists import cmx, otio
from saucer_core.formats.cutlists import reading as cutlists
from saucer_core.formats.cutlists.model import CutList, Event
from saucer_core.formats.developing import develop
from saucer_core.look import Look
from saucer_core.steps.slope_offset_power import Correction
from saucer_core.tables.carrier import tiles
from saucer_core.tables.lut import Lut, identity_grid
from saucer_core.treatment import Treatment

from demo import dng

#: Out of a hundred files, how many each reader is given: those that start a process or decode a picture cost
#: more.
SHARES = {
    **{"cube": 30, "clf": 30, "cdl": 20, "recipe": 10, "cmx": 3, "picture": 3},
    **{"carrier": 1, "foreign": 1, "developed": 1, "otio": 1},
}
#: Bytes that a process may grow by while it reads one file.
BYTES = 200 * 2**20

_TOKENS = [
    b"0",
    b"-1",
    b"1e300",
    b"1e-300",
    b"nan",
    b"inf",
    b"99999999999",
    b"\xc2\xb2",
    b"\0",
    b"\xff\xfe",
    b"\r",
    b"\n\n",
    b"#",
    b'"',
    b"<",
    b">",
    b"LUT_3D_SIZE 129\n",
    b"LUT_1D_SIZE 65536\n",
    b"DOMAIN_MAX 1e300 1 1\n",
    b"TITLE ",
    b"LUT_IN_VIDEO_RANGE\n",
    b'encoding="x-none"',
    b"<!DOCTYPE a [<!ENTITY b 'c'>]>",
    b"<a/>",
    b'dim="2 2 2 3"',
    b'style="monCurveRev"',
    b'base="1"',
    b'halfDomain="true"',
    b"[",
    b"{",
    b"]",
    b"null",
    b"true",
    b'"\\ud800"',
    b"1" * 400,
    b"3D\n",
    b"BEGIN METADATA\n",
]


def _clf(inside: str) -> bytes:
    return (
        '<?xml version="1.0" encoding="UTF-8"?>\n<ProcessList id="a" '
        f'compCLFversion="3">\n{inside}\n</ProcessList>\n'
    ).encode()


_BITS = 'inBitDepth="32f" outBitDepth="32f"'
_NODES = [
    f'<Matrix {_BITS}><Array dim="3 3">1 0 0 0 1 0 0 0 1</Array></Matrix>',
    f"<Range {_BITS}><minInValue>0</minInValue><maxInValue>1</maxInValue>"
    f"<minOutValue>0</minOutValue><maxOutValue>1</maxOutValue></Range>",
    f'<LUT1D {_BITS}><Array dim="3 1">0 0.4 1</Array></LUT1D>',
    f'<LUT3D {_BITS} interpolation="tetrahedral"><Array dim="2 2 2 3">'
    + "0 0 0 0 0 1 0 1 0 0 1 1 1 0 0 1 0 1 1 1 0 1 1 1</Array></LUT3D>",
    f'<Log {_BITS} style="cameraLinToLog"><LogParams base="10" logSideSlope="0.3" logSideOffset="0.6" '
    'linSideSlope="0.9" '
    'linSideOffset="0.01" linSideBreak="-0.005"/></Log>',
    f'<Log {_BITS} style="antiLog2"/>',
    f'<Exponent {_BITS} style="monCurveFwd"><ExponentParams exponent="2.4" offset="0.055"/></Exponent>',
    f'<ASC_CDL {_BITS} style="Fwd"><SOPNode><Slope>1 1 1</Slope><Offset>0 0 0</Offset><Power>1 1 '
    "1</Power></SOPNode>"
    "<SatNode><Saturation>1</Saturation></SatNode></ASC_CDL>",
]
#: Small files of rarer kinds, by hand from their descriptions in OpenColorIO's documentation.
_FOREIGN = {
    ".spi1d": b"Version 1\nFrom 0.0 1.0\nLength 3\nComponents 1\n{\n0.0\n0.3\n1.0\n}\n",
    ".spi3d": b"SPILUT 1.0\n3 3\n2 2 2\n"
    + b"".join(b"%d %d %d %d %d %d\n" % (*c, *c) for c in itertools.product((0, 1), repeat=3)),
    ".spimtx": b"1 0 0 0\n0 1 0 0\n0 0 1 0\n",
    ".csp": b"CSPLUTV100\n3D\n\nBEGIN METADATA\nEND METADATA\n\n"
    b"2\n0 1\n0 1\n2\n0 1\n0 1\n2\n0 1\n0 1\n\n2 2 2\n"
    + b"".join(b"%d %d %d\n" % c[::-1] for c in itertools.product((0, 1), repeat=3)),
    ".ctf": _clf(_NODES[4]),
}


def _written(write: Callable[[Path], object], suffix: str) -> bytes:
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / f"sound{suffix}"
        write(path)
        return path.read_bytes()


def _kinds() -> list[tuple[str, bytes]]:
    """Small pictures of the kinds that are developed."""
    codes = np.random.default_rng(2).integers(0, 256, (24, 32, 3), dtype=np.uint8)
    mosaic = (codes[..., 0].astype(np.uint16) << 6) + 64

    def raw(path: Path) -> None:
        dng.write(path, mosaic, black=64, white=16_383, matrix=np.eye(3), neutral=(0.5, 1.0, 0.7))

    def heif(path: Path) -> None:
        pillow_heif.from_bytes(mode="RGB", size=(32, 24), data=codes.tobytes()).save(path)

    return [
        ("a.dng", _written(raw, ".dng")),
        ("a.heic", _written(heif, ".heic")),
        ("a.avif", bytes(imagecodecs.avif_encode(codes))),
        ("a.jxl", bytes(imagecodecs.jpegxl_encode(codes))),
        ("a.webp", _written(lambda p: Image.fromarray(codes).save(p), ".webp")),
        ("a.hdr", b"#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y 2 +X 4\n" + bytes(range(100, 132))),
    ]


def _cut() -> CutList:
    """A small cut with a speed, a dissolve and a correction."""
    events = (
        Event("a.mov", "K1", 100, 24, 86_400, 24, correction=Correction((1.1, 1.0, 0.9))),
        Event("b.mov", "K2", 900, 48, 86_424, 24, speed=2.0),
        Event("c.mov", "", 50, 30, 86_448, 30, comes_in=12),
    )
    return CutList("sound", Fraction(24), False, events)


def _developed(path: Path) -> object:
    with tempfile.TemporaryDirectory() as folder:
        return develop.develop(path, path.name, Path(folder))


def sound() -> dict[str, list[tuple[str, bytes]]]:
    """Small sound files for each reader: name and content."""
    look = Look.model_validate(
        {
            "steps": [
                {"kind": "curves", "all": [[0, 0], [0.5, 0.6], [1, 1]]},
                {"kind": "exposure", "stops": 0.5},
            ]
        }
    )
    program = Treatment(look).compile()
    lut = bake(program, 3, title="sound", comments=("a comment",))
    borrowed = Lut(identity_grid(2))
    borrowing = Look.model_validate({"steps": [{"kind": "lut", "table": borrowed.digest(), "name": "two"}]})
    one = cdl.NamedCorrection(Correction((1.1, 1.0, 0.9)), "a", "warm")
    rgb = np.random.default_rng(1).uniform(0, 1, (6, 8, 3)).astype(np.float32)
    clf_files = [("a.clf", clf.write_text(lut).encode()), ("n.clf", _clf(_NODES[4] * 50))]
    found: dict[str, list[tuple[str, bytes]]] = {
        "cube": [
            ("a.cube", cube.write_text(lut).encode()),
            ("b.cube", cube.write_text(bake_curves(program, 5)).encode()),
        ],
        "clf": clf_files + [(f"{k}.clf", _clf(node)) for k, node in enumerate(_NODES)],
        "cdl": [(f"a{suffix}", cdl.write_text([one], suffix).encode()) for suffix in cdl.SUFFIXES],
        "recipe": [
            ("a.saucer.json", recipe.dumps(look, name="a", tables=lambda d: None).encode()),
            ("b.saucer.json", recipe.dumps(borrowing, tables=lambda d: borrowed).encode()),
        ],
        "picture": [
            (f"a{s}", _written(lambda p: pictures.write(p, rgb), s)) for s in (".png", ".jpg", ".tif", ".exr")
        ],
        "carrier": [("c.png", _written(lambda p: carrier.write(p, tiles(5)), ".png"))],
        "foreign": [(f"a{suffix}", data) for suffix, data in _FOREIGN.items()],
        "developed": _kinds(),
        "cmx": [("a.edl", cmx.write(_cut()).encode())],
        "otio": [("a.otio", otio.write(_cut()).encode())],
    }
    return found


READERS: dict[str, Callable[[Path], object]] = {
    "cube": cube.read,
    "clf": clf.read,
    "cdl": cdl.read,
    "recipe": recipe.read,
    "picture": pictures.read,
    "carrier": carrier.read,
    "foreign": foreign.read,
    "developed": _developed,
    "cmx": lambda path: cutlists.read(path, path.name, Fraction(24)),
    "otio": lambda path: cutlists.read(path, path.name, Fraction(24)),
}


def _computed() -> float:
    """Seconds that the processor has worked for this process and for those that it started and waited for."""
    spent = [resource.getrusage(who) for who in (resource.RUSAGE_SELF, resource.RUSAGE_CHILDREN)]
    return sum(u.ru_utime + u.ru_stime for u in spent)


def mutated(data: bytes, others: list[bytes], rng: random.Random) -> bytes:
    """The file with one to four changes."""
    out = bytearray(data)
    for _ in range(rng.choice((1, 1, 2, 4))):
        at = rng.randrange(len(out) + 1)
        upto = min(len(out), at + rng.choice((1, 2, 8, 40)))
        kind = rng.randrange(8)
        if kind == 0 and out:
            out[min(at, len(out) - 1)] ^= 1 << rng.randrange(8)
        elif kind == 1:
            del out[at:upto]
        elif kind == 2:
            out[at:at] = out[at:upto] * rng.choice((1, 2, 60))
        elif kind == 3:
            out[at:upto] = rng.choice(_TOKENS)
        elif kind == 4:
            out[at:at] = rng.choice(_TOKENS)
        elif kind == 5:
            other = rng.choice(others)
            start = rng.randrange(len(other) + 1)
            out[at:upto] = other[start : start + rng.choice((4, 40, 400))]
        elif kind == 6:
            del out[at:]
        else:
            out[at:upto] = bytes(rng.randrange(256) for _ in range(rng.randrange(6)))
    return bytes(out)


@dataclass
class Report:
    """What one reader did with its files."""

    given: int = 0
    refused: int = 0
    slowest: float = 0.0
    growth: int = 0
    faults: list[str] = field(default_factory=list)

    def add(self, other: "Report") -> None:
        """Adds what another batch found."""
        self.given += other.given
        self.refused += other.refused
        self.slowest = max(self.slowest, other.slowest)
        self.growth = max(self.growth, other.growth)
        self.faults += other.faults[: max(0, 20 - len(self.faults))]


def batch(reader: str, seed: int, count: int) -> Report:
    """So many damaged files for one reader."""
    rng, files, found = random.Random(f"{reader} {seed}"), sound()[reader], Report()
    others = [data for _, data in files]
    read = READERS[reader]
    with tempfile.TemporaryDirectory() as folder:
        for name, data in files:
            path = Path(folder) / name
            path.write_bytes(data)
            read(path)
        for k in range(count):
            name, data = rng.choice(files)
            path = Path(folder) / name
            path.write_bytes(mutated(data, others, rng))
            before, started = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss, _computed()
            try:
                read(path)
            except FileError:
                found.refused += 1
            except Exception as error:
                found.faults.append(
                    f"{name} (seed {seed}, file {k}): {type(error).__name__}: {str(error)[:200]}"
                )
            took = _computed() - started
            grown = (resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - before) * 1024
            found.given, found.slowest, found.growth = (
                found.given + 1,
                max(found.slowest, took),
                max(found.growth, grown),
            )
            if grown > BYTES:
                found.faults.append(
                    f"{name} (seed {seed}, file {k}): grew the process by {grown / 2**20:.0f} MiB"
                )
    return found


def main(argv: list[str] | None = None) -> int:
    """Exit status 1 where any reader did anything but read or refuse."""
    parser = argparse.ArgumentParser(prog="python -m tests.fuzz", description=__doc__)
    parser.add_argument("--count", type=int, default=100_000, help="damaged files in all")
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--jobs", type=int, default=2)
    parser.add_argument(
        "--batch", type=int, default=2000, help="files that one process is given before it is asked again"
    )
    parser.add_argument("--readers", nargs="*", choices=list(SHARES), default=list(SHARES))
    args = parser.parse_args(argv)
    whole = sum(SHARES[r] for r in args.readers)
    work: list[tuple[str, int, int]] = []
    for reader in args.readers:
        left = -(-args.count * SHARES[reader] // whole)
        while left > 0:
            work.append((reader, args.seed * 100_000 + len(work), min(args.batch, left)))
            left -= args.batch
    reports = {reader: Report() for reader in args.readers}
    with ProcessPoolExecutor(args.jobs) as pool:
        for (reader, _, _), found in zip(work, pool.map(batch, *zip(*work, strict=True)), strict=True):
            reports[reader].add(found)
    for reader, r in reports.items():
        grown = f"memory grew by {r.growth / 2**20:.0f} MiB at most"
        print(
            f"{reader}: {r.given:,} files, {r.refused:,} refused, {r.slowest:.2f} s of computing at "
            f"most, {grown}"
        )
        for fault in r.faults:
            print(f"  FAULT {fault}")
    print(
        json.dumps(
            {
                "files": sum(r.given for r in reports.values()),
                "faults": sum(len(r.faults) for r in reports.values()),
            }
        )
    )
    return 1 if any(r.faults for r in reports.values()) else 0


if __name__ == "__main__":
    sys.exit(main())
