"""An OpenColorIO configuration with a project's looks, for programs that take one."""

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np

from ..baking.bake import bake
from ..encodings import Encoding, encoding
from ..encodings.aces import ACESCC, AcesLog
from ..encodings.camera_log import CameraLog
from ..encodings.hdr import HLG_WHITE, HybridLogGamma, PerceptualQuantizer
from ..encodings.power import Power
from ..encodings.primaries import AP0, between
from ..encodings.toed import ToedPower
from ..errors import CoreError
from ..look import Look
from ..steps import Tables, no_tables
from ..transfer import LINEAR, Transfer
from ..treatment import Treatment
from ..trim import Trim
from .files import whole_text
from .registry import TABLE_FORMATS


@dataclass(frozen=True)
class NamedLook:
    """A look for the configuration. source, trim, goes_out: see ``Treatment``."""

    name: str
    look: Look
    description: str = ""
    grid: int = 33
    source: str = ""
    trim: Trim | None = None
    goes_out: str = ""

    def treatment(self) -> Treatment:
        """What its table holds."""
        return Treatment(self.look, self.source, self.trim, goes_out=self.goes_out)


def _camera_curve(ocio: Any, t: CameraLog) -> list[Any]:
    numbers = {
        "logSideSlope": t.log_slope, "logSideOffset": t.log_offset, "linSideSlope": t.lin_slope, "linSideOffset": t.lin_offset,
    }  # fmt: skip
    made = ocio.LogCameraTransform([t.cut] * 3, base=t.base, **{k: [v] * 3 for k, v in numbers.items()})
    if t.linear_slope is not None:
        made.setLinearSlopeValue([t.linear_slope] * 3)
    made.setDirection(ocio.TRANSFORM_DIR_INVERSE)
    return [made]


def _mirrored(ocio: Any, made: Any) -> list[Any]:
    made.setNegativeStyle(ocio.NEGATIVE_MIRROR)
    return [made]


#: From code values to light, by the form of the transfer function. Linear 1.0 is 100 cd/m² for PQ on both sides.
_CURVES: dict[type[Transfer], Callable[[Any, Any], list[Any]]] = {
    Power: lambda ocio, t: _mirrored(ocio, ocio.ExponentTransform([t.gamma] * 3 + [1.0])),
    ToedPower: lambda ocio, t: _mirrored(
        ocio, ocio.ExponentWithLinearTransform(gamma=[t.gamma] * 3 + [1.0], offset=[t.offset] * 3 + [0.0])
    ),
    CameraLog: _camera_curve,
    PerceptualQuantizer: lambda ocio, t: [ocio.BuiltinTransform("CURVE - ST-2084_to_LINEAR")],
    HybridLogGamma: lambda ocio, t: [
        ocio.BuiltinTransform("CURVE - HLG-OETF-INVERSE"), ocio.MatrixTransform([*np.diag([1 / HLG_WHITE] * 3 + [1.0]).reshape(-1)])
    ],
    # This one goes on to ACES2065-1 primaries by itself.
    AcesLog: lambda ocio, t: [ocio.BuiltinTransform("ACEScc_to_ACES2065-1")],
}  # fmt: skip


def _space(ocio: Any, at: Encoding) -> Any:
    """A colour space of the configuration; its reference is ACES2065-1."""
    group = ocio.GroupTransform()
    for one in _CURVES[type(at.transfer)](ocio, at.transfer) if at.transfer != LINEAR else ():
        group.appendTransform(one)
    if at.primaries != AP0 and at.transfer != ACESCC:
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
    """Writes ``config.ocio`` and ``luts/*`` into a folder; gives the configuration's path.

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
    programs = [x.treatment().compile(tables) for x in looks]
    used = {at.key for p in programs for at in (p.source, p.end)} | {"aces2065_1", "acescg", "srgb", "bt709_display"}
    for key in sorted(used):
        config.addColorSpace(_space(ocio, encoding(key)))
    config.addColorSpace(ocio.ColorSpace(name="raw", isData=True))
    for role, key in (("default", "raw"), ("scene_linear", "ACEScg"), ("aces_interchange", "ACES2065-1"), ("color_picking", "sRGB")):
        config.setRole(role, key)
    luts = folder / "luts"
    luts.mkdir(parents=True, exist_ok=True)
    taken: set[str] = set()
    for x, program in zip(looks, programs, strict=True):
        name = _file_name(x.name, taken)
        # Linear light needs a shaper before the grid, which a .cube file that everybody reads cannot hold.
        kind = TABLE_FORMATS["clf" if program.source.response == "linear" else "cube"]
        whole_text(luts / f"{name}{kind.suffix}", kind.text(bake(program, x.grid, title=x.name)))
        source, target = program.source.label, program.end.label
        group = ocio.GroupTransform()
        group.appendTransform(ocio.FileTransform(f"{name}{kind.suffix}", interpolation=ocio.INTERP_TETRAHEDRAL))
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
