"""An OpenColorIO configuration with a project's looks, for programs that take one."""

import re
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np

from ..encodings import Encoding, encoding
from ..encodings.primaries import AP0, between
from ..errors import CoreError
from ..look import Look
from ..lut.bake import bake
from ..steps import Tables, no_tables
from . import cube
from .clf import _camera_terms
from .files import whole_text


@dataclass(frozen=True)
class NamedLook:
    """A look for the configuration."""

    name: str
    look: Look
    description: str = ""
    grid: int = 33


def _curve(ocio: Any, at: Encoding) -> list[Any]:
    """From code values to light."""
    t = at.transfer
    if t.to_light is None:
        return []
    if t.key == "pq":
        # Linear 1.0 is 100 cd/m² on both sides.
        return [ocio.BuiltinTransform("CURVE - ST-2084_to_LINEAR")]
    if t.key == "hlg":
        from ..encodings.hdr import HLG_WHITE

        scale = ocio.MatrixTransform([*np.diag([1 / HLG_WHITE] * 3 + [1.0]).reshape(-1)])
        return [ocio.BuiltinTransform("CURVE - HLG-OETF-INVERSE"), scale]
    if t.key == "acescc":
        return [ocio.BuiltinTransform("ACEScc_to_ACES2065-1")]
    terms = _camera_terms(t)
    if terms is not None:
        base, slope, start, lin, offset, cut = terms[:6]
        made = ocio.LogCameraTransform(
            [cut] * 3, base=base, logSideSlope=[slope] * 3, logSideOffset=[start] * 3, linSideSlope=[lin] * 3, linSideOffset=[offset] * 3
        )
        if len(terms) > 6:
            made.setLinearSlopeValue([terms[6]] * 3)
        made.setDirection(ocio.TRANSFORM_DIR_INVERSE)
        return [made]
    numbers = [float(v) for v in t.parameters]
    if len(numbers) == 4:
        made = ocio.ExponentWithLinearTransform(gamma=[numbers[0]] * 3 + [1.0], offset=[numbers[1]] * 3 + [0.0])
        made.setNegativeStyle(ocio.NEGATIVE_MIRROR)
        return [made]
    made = ocio.ExponentTransform([numbers[0]] * 3 + [1.0])
    made.setNegativeStyle(ocio.NEGATIVE_MIRROR)
    return [made]


def _space(ocio: Any, at: Encoding) -> Any:
    """A colour space of the configuration; its reference is ACES2065-1."""
    group = ocio.GroupTransform()
    for one in _curve(ocio, at):
        group.appendTransform(one)
    if at.primaries != AP0 and at.transfer.key != "acescc":
        m = np.eye(4)
        m[:3, :3] = between(at.primaries, AP0)
        group.appendTransform(ocio.MatrixTransform([*m.reshape(-1)]))
    space = ocio.ColorSpace(name=at.label, family="Saucer", bitDepth=ocio.BIT_DEPTH_F32)
    if len(group):
        space.setTransform(group, ocio.COLORSPACE_DIR_TO_REFERENCE)
    return space


def _file_name(name: str, taken: set[str]) -> str:
    base = re.sub(r"[^\w-]+", "_", name).strip("_")[:60] or "look"
    found, k = base, 2
    while found.lower() in taken:
        found, k = f"{base}_{k}", k + 1
    taken.add(found.lower())
    return found


def write(folder: Path, looks: Sequence[NamedLook], *, tables: Tables = no_tables) -> Path:
    """Writes ``config.ocio`` and ``luts/*.cube`` into a folder; gives the configuration's path.

    Each look is offered as an OpenColorIO look whose process space is the look's input. Raises ``CoreError`` where OpenColorIO is not
    installed, ``LookError`` for a look that cannot be baked.
    """
    try:
        import PyOpenColorIO as ocio
    except ImportError:
        raise CoreError("An OpenColorIO configuration needs OpenColorIO, which is not installed.") from None
    config = ocio.Config()
    config.setVersion(2, 1)
    config.setSearchPath("luts")
    used = {x.look.input for x in looks} | {x.look.output for x in looks} | {"aces2065_1", "acescg", "srgb", "bt709_display"}
    for key in sorted(used):
        config.addColorSpace(_space(ocio, encoding(key)))
    config.addColorSpace(ocio.ColorSpace(name="raw", isData=True))
    for role, key in (("default", "raw"), ("scene_linear", "ACEScg"), ("aces_interchange", "ACES2065-1"), ("color_picking", "sRGB")):
        config.setRole(role, key)
    luts = folder / "luts"
    luts.mkdir(parents=True, exist_ok=True)
    taken: set[str] = set()
    for x in looks:
        name = _file_name(x.name, taken)
        whole_text(luts / f"{name}.cube", cube.write_text(bake(x.look, x.grid, tables=tables, title=x.name)))
        source, target = encoding(x.look.input).label, encoding(x.look.output).label
        group = ocio.GroupTransform()
        group.appendTransform(ocio.FileTransform(f"{name}.cube", interpolation=ocio.INTERP_TETRAHEDRAL))
        if source != target:
            # A look works within its process space: what the table gives is brought back there.
            group.appendTransform(ocio.ColorSpaceTransform(src=target, dst=source))
        config.addLook(ocio.Look(name=name, processSpace=source, transform=group, description=x.description or x.name))
        config.addDisplayView("sRGB", f"{name}", "sRGB", name)
        config.addDisplayView("BT.709", f"{name}", "BT.709 display", name)
    config.addDisplayView("sRGB", "without look", "sRGB", "")
    config.addDisplayView("BT.709", "without look", "BT.709 display", "")
    config.validate()
    path = folder / "config.ocio"
    whole_text(path, config.serialize())
    return path
