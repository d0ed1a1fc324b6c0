"""An OpenColorIO configuration with a project's looks, for programs that take one."""

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np

from ..arrays import F32, F64
from ..baking.bake import bake, grid_for
from ..encodings import HOUSE, SDR_WHITE, Encoding, SdrWhite, encoding, light_between
from ..encodings.aces import ACESCC
from ..encodings.camera_log import CameraLog
from ..encodings.hdr import HLG, PerceptualQuantizer
from ..encodings.power import Power
from ..encodings.primaries import AP0, between
from ..encodings.toed import BT709_CAMERA, ToedPower
from ..errors import CoreError
from ..look import Look
from ..operations import Linear
from ..program import Program
from ..steps import Tables, no_tables
from ..transfer import LINEAR, Transfer
from ..treatment import Treatment
from ..trim import Trim
from .files import whole_text
from .registry import TABLE_FORMATS


@dataclass(frozen=True)
class NamedLook:
    """A look for the configuration. source, trim, goes_out, sdr_white: see ``Treatment``."""

    name: str
    look: Look
    description: str = ""
    grid: int = 33
    source: str = ""
    trim: Trim | None = None
    goes_out: str = ""
    sdr_white: SdrWhite = SDR_WHITE

    def treatment(self) -> Treatment:
        """What its table holds."""
        return Treatment(self.look, self.source, self.trim, goes_out=self.goes_out, sdr_white=self.sdr_white)


def _camera_curve(ocio: Any, t: CameraLog) -> list[Any]:
    numbers = {
        "logSideSlope": t.log_slope,
        "logSideOffset": t.log_offset,
        "linSideSlope": t.lin_slope,
        "linSideOffset": t.lin_offset,
    }
    made = ocio.LogCameraTransform([t.cut] * 3, base=t.base, **{k: [v] * 3 for k, v in numbers.items()})
    if t.linear_slope is not None:
        made.setLinearSlopeValue([t.linear_slope] * 3)
    made.setDirection(ocio.TRANSFORM_DIR_INVERSE)
    return [made]


def _mirrored(ocio: Any, made: Any) -> list[Any]:
    made.setNegativeStyle(ocio.NEGATIVE_MIRROR)
    return [made]


def _matrix(ocio: Any, m: F64) -> Any:
    whole = np.eye(4)
    whole[:3, :3] = m
    return ocio.MatrixTransform([*whole.reshape(-1)])


#: From code values to light, by the form of the transfer function, where OpenColorIO has one that agrees.
#: Linear 1.0 is 100 cd/m² for PQ on both sides.
_CURVES: dict[type[Transfer], Callable[[Any, Any], list[Any]]] = {
    Power: lambda ocio, t: _mirrored(ocio, ocio.ExponentTransform([t.gamma] * 3 + [1.0])),
    ToedPower: lambda ocio, t: _mirrored(
        ocio, ocio.ExponentWithLinearTransform(gamma=[t.gamma] * 3 + [1.0], offset=[t.offset] * 3 + [0.0])
    ),
    CameraLog: _camera_curve,
    PerceptualQuantizer: lambda ocio, t: [ocio.BuiltinTransform("CURVE - ST-2084_to_LINEAR")],
}
#: Curves whose pieces OpenColorIO puts together elsewhere than the standard does, or clips, or knows in its
#: newest versions alone: they go as a table over all half-float numbers.
_AS_TABLE = (ACESCC, BT709_CAMERA, HLG)
_HALVES = np.arange(65536, dtype=np.uint16).view(np.float16).astype(np.float32)
_TONE_SCALE = "tone_scale"


def _curve_text(name: str, curve: Callable[[F32], F32]) -> str:
    """A Common LUT Format file (SMPTE ST 2136-1) with a curve over all half-float numbers."""
    given = np.nan_to_num(_HALVES, nan=0.0, posinf=65504.0, neginf=-65504.0)
    rows = "\n".join(f"{v:.9g}" for v in curve(np.repeat(given[:, None], 3, axis=1))[:, 0])
    return (
        f'<?xml version="1.0" encoding="UTF-8"?>\n<ProcessList compCLFversion="3.0" id="{name}" '
        f'name="{name}">\n'
        '<LUT1D id="curve" inBitDepth="16f" outBitDepth="32f" halfDomain="true" interpolation="linear">\n'
        f'<Array dim="65536 1">\n{rows}\n</Array>\n</LUT1D>\n</ProcessList>\n'
    )


@dataclass
class _Writing:
    """A configuration under way: the library, the configuration, and the folder of its tables."""

    ocio: Any
    config: Any
    luts: Path

    def decoding(self, at: Encoding) -> list[Any]:
        """From code values to light of an encoding."""
        if at.transfer == LINEAR:
            return []
        if at.transfer not in _AS_TABLE:
            return _CURVES[type(at.transfer)](self.ocio, at.transfer)
        name = f"curve_{at.key}.clf"
        if not (self.luts / name).exists():
            whole_text(self.luts / name, _curve_text(at.label, at.encode))
        return [
            self.ocio.FileTransform(
                name, interpolation=self.ocio.INTERP_LINEAR, direction=self.ocio.TRANSFORM_DIR_INVERSE
            )
        ]

    def space(self, at: Encoding) -> Any:
        """A colour space of the configuration: the plain conversion to ACES2065-1."""
        group = self.ocio.GroupTransform()
        for one in self.decoding(at):
            group.appendTransform(one)
        plain = light_between(at, encoding("aces2065_1"))
        for one in plain:
            assert isinstance(one, Linear)
            group.appendTransform(_matrix(self.ocio, one.matrix))
        space = self.named(at.label)
        if len(group):
            space.setTransform(group, self.ocio.COLORSPACE_DIR_TO_REFERENCE)
        return space

    def rendered(self, at: Encoding) -> Any:
        """How light of a scene is shown on a display: by Saucer's tone scale, in the display's primaries."""
        name = f"{_TONE_SCALE}.clf"
        if not (self.luts / name).exists():
            whole_text(self.luts / name, _curve_text("Saucer's tone scale", HOUSE.render))
        group = self.ocio.GroupTransform()
        group.appendTransform(_matrix(self.ocio, between(AP0, at.primaries)))
        group.appendTransform(self.ocio.FileTransform(name, interpolation=self.ocio.INTERP_LINEAR))
        for one in self.decoding(at):
            one.setDirection(self.ocio.TRANSFORM_DIR_INVERSE)
            group.appendTransform(one)
        space = self.named(f"{at.label}, rendered")
        space.setTransform(group, self.ocio.COLORSPACE_DIR_FROM_REFERENCE)
        return space

    def named(self, name: str) -> Any:
        """A colour space that does nothing yet."""
        return self.ocio.ColorSpace(name=name, family="Saucer", bitDepth=self.ocio.BIT_DEPTH_F32)


def _file_name(name: str, taken: set[str]) -> str:
    base = re.sub(r"[^\w-]+", "_", name).strip("_")[:60] or "look"
    found, k = base, 2
    while found.lower() in taken:
        found, k = f"{base}_{k}", k + 1
    taken.add(found.lower())
    return found


def write(folder: Path, looks: Sequence[NamedLook], *, tables: Tables = no_tables) -> Path:
    """Writes ``config.ocio`` and ``luts/*`` into a folder; gives the configuration's path.

    Each look is offered as an OpenColorIO look whose process space is the look's input. Raises ``CoreError``
    where OpenColorIO is not installed or refuses the configuration, ``LookError`` for a look that cannot be
    baked.
    """
    try:
        import PyOpenColorIO as ocio
    except ImportError:
        raise CoreError("An OpenColorIO configuration needs OpenColorIO, which is not installed.") from None
    luts = folder / "luts"
    luts.mkdir(parents=True, exist_ok=True)
    programs = [x.treatment().compile(tables) for x in looks]
    try:
        config = _described(_Writing(ocio, ocio.Config(), luts), looks, programs)
    except ocio.Exception as error:
        raise CoreError(
            f"OpenColorIO refuses the configuration: {' '.join(str(error).split())[:300]}"
        ) from None
    path = folder / "config.ocio"
    whole_text(path, config)
    return path


def _described(writing: _Writing, looks: Sequence[NamedLook], programs: Sequence[Program]) -> str:
    ocio, config = writing.ocio, writing.config
    config.setVersion(2, 1)
    config.setSearchPath("luts")
    used = {at.key for p in programs for at in (p.source, p.end)} | {
        "aces2065_1",
        "acescg",
        "srgb",
        "bt709_display",
    }
    for key in sorted(used):
        config.addColorSpace(writing.space(encoding(key)))
    config.addColorSpace(ocio.ColorSpace(name="raw", isData=True))
    for _, key in _DISPLAYS:
        config.addColorSpace(writing.rendered(encoding(key)))
    for role, key in (
        ("default", "raw"),
        ("scene_linear", "ACEScg"),
        ("aces_interchange", "ACES2065-1"),
        ("color_picking", "sRGB"),
    ):
        config.setRole(role, key)
    taken: set[str] = {_TONE_SCALE}
    for x, program in zip(looks, programs, strict=True):
        name = _file_name(x.name, taken)
        # Linear light needs a shaper before the grid, which a .cube file that everybody reads cannot hold.
        kind = TABLE_FORMATS["clf" if program.source.response == "linear" else "cube"]
        whole_text(
            writing.luts / f"{name}{kind.suffix}",
            kind.text(bake(program, grid_for(program, x.grid), title=x.name)),
        )
        source, target = program.source.label, program.end.label
        group = ocio.GroupTransform()
        group.appendTransform(
            ocio.FileTransform(f"{name}{kind.suffix}", interpolation=ocio.INTERP_TETRAHEDRAL)
        )
        if source != target:
            # A look works within its process space: what the table gives is brought back there.
            group.appendTransform(ocio.ColorSpaceTransform(src=target, dst=source))
        config.addLook(
            ocio.Look(name=name, processSpace=source, transform=group, description=x.description or x.name)
        )
        for display, key in _DISPLAYS:
            config.addDisplayView(display, name, _seen(program.end, encoding(key)), name)
    for display, key in _DISPLAYS:
        config.addDisplayView(display, "without look", f"{encoding(key).label}, rendered", "")
        config.addDisplayView(display, "without look, display light", encoding(key).label, "")
    config.validate()
    written: str = config.serialize()
    return written


#: Displays that views are offered for, and their encodings.
_DISPLAYS = (("sRGB", "srgb"), ("BT.709", "bt709_display"))


def _seen(end: Encoding, screen: Encoding) -> str:
    """The colour space in which a screen shows what a look gives: light of a scene is rendered, light of a
    display is converted."""
    return f"{screen.label}, rendered" if end.referred == "scene" else screen.label
