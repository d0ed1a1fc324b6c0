"""Common LUT Format: SMPTE ST 2136-1:2024 (Academy S-2014-006, version 3).

Reads Matrix, Range, LUT1D (half domain and raw halfs too), LUT3D, Log, Exponent and ASC_CDL, in every bit depth and both
directions where the format has them. Writes a baked table, or the exact operations of a look that has only those.
"""

import uuid
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from xml.etree.ElementTree import Element

import numpy as np

from ..arrays import F32, F64
from ..elementary import exp2, hold, log2, power
from ..encodings.aces import ACESCCT
from ..encodings.film_log import CAMERA_TERMS, FILM_LOG
from ..encodings.toed import _decode as _toed_decode
from ..errors import FileError, LookError
from ..kernels import kernel
from ..look import Look
from ..look import operations as operations_of_look
from ..lut.interpolate import GridRead
from ..lut.lut import GRID_LIMIT, SHAPER_LIMIT, Lut, ShaperRead, Table
from ..operations import Decode, Encode, Linear, Operation
from ..steps import Tables, no_tables
from ..steps.slope_offset_power import Correction
from ..transfer import Transfer
from . import xml
from .chain import Chain

SUFFIX = ".clf"
NODE_LIMIT = 200
_DEPTHS = {"8i": 255.0, "10i": 1023.0, "12i": 4095.0, "16i": 65535.0, "16f": 1.0, "32f": 1.0}
_NIL, _ONE = np.float32(0), np.float32(1)


@kernel("void(float32[:, ::1], float32, float32, boolean, boolean)")
def _clamp(t: F32, low: float, high: float, at_low: bool, at_high: bool) -> None:
    for c in range(3):
        for i in range(t.shape[1]):
            v = t[c, i]
            v = max(v, low) if at_low else v
            t[c, i] = min(v, high) if at_high else v


@dataclass(frozen=True)
class Clamp(Operation):
    """Values held between two limits; ``None``: not on that side."""

    low: float | None
    high: float | None

    def run(self, tile: F32) -> None:
        """Changes a tile."""
        low, high = self.low or 0.0, 0.0 if self.high is None else self.high
        _clamp(tile, np.float32(low), np.float32(high), self.low is not None, self.high is not None)


@kernel("void(float32[:, ::1], float32[:, ::1], int64)")
def _log(t: F32, p: F32, style: int) -> None:
    """Style 0: light to log, 1: log to light; with p a channel: rate, log offset, lin slope, lin offset, cut, straight, lift."""
    tiny = np.float32(1.2e-38)
    for c in range(3):
        rate, start, slope, offset, cut, straight, lift = p[c, 0], p[c, 1], p[c, 2], p[c, 3], p[c, 4], p[c, 5], p[c, 6]
        for i in range(t.shape[1]):
            v = t[c, i]
            if style == 0:
                y = np.float32(log2(max(v * slope + offset, tiny)) / np.float64(rate)) + start
                t[c, i] = y if v > cut else v * straight + lift
            else:
                y = (exp2((np.float64(v) - start) * rate) - offset) / slope
                t[c, i] = hold(y if v > straight * cut + lift else (v - lift) / straight)


@dataclass(frozen=True, eq=False)
class LogNode(Operation):
    """A logarithm a channel, with a straight part below a break where there is one."""

    terms: F32
    to_light: bool

    def run(self, tile: F32) -> None:
        """Changes a tile."""
        _log(tile, self.terms, int(self.to_light))


@kernel("void(float32[:, ::1], float32[:, ::1], int64)")
def _raise(t: F32, p: F32, style: int) -> None:
    """Style 0 basic, 1 mirrored, 2 passed through; p a channel: exponent."""
    for c in range(3):
        exponent = p[c, 0]
        for i in range(t.shape[1]):
            v = t[c, i]
            y = power(max(v, _NIL), exponent)
            mirrored = power(-v, exponent)
            if style == 1:
                y = y if v >= _NIL else -mirrored
            elif style == 2:
                y = y if v >= _NIL else v
            t[c, i] = hold(y)


@dataclass(frozen=True, eq=False)
class ExponentNode(Operation):
    """A power a channel."""

    exponents: F32
    style: int

    def run(self, tile: F32) -> None:
        """Changes a tile."""
        _raise(tile, self.exponents, self.style)


@kernel("void(float32[:, ::1], float32[:, ::1], boolean, boolean)")
def _monitor(t: F32, p: F32, forward: bool, mirror: bool) -> None:
    """The moncurve of the standard: p a channel: exponent, offset, break in, slope."""
    for c in range(3):
        gamma, offset, cut, slope = p[c, 0], p[c, 1], p[c, 2], p[c, 3]
        for i in range(t.shape[1]):
            v = abs(t[c, i]) if mirror else t[c, i]
            if forward:
                y = power(max((v + offset) / (_ONE + offset), _NIL), gamma) if v >= cut else v * slope
            else:
                y = (_ONE + offset) * power(max(v, _NIL), _ONE / gamma) - offset if v >= cut * slope else v / slope
            t[c, i] = hold(-y if mirror and t[c, i] < _NIL else y)


@dataclass(frozen=True, eq=False)
class MonitorNode(Operation):
    """A power with a straight toe a channel."""

    terms: F32
    forward: bool
    mirror: bool

    def run(self, tile: F32) -> None:
        """Changes a tile."""
        _monitor(tile, self.terms, self.forward, self.mirror)


@dataclass(frozen=True, eq=False)
class HalfDomain(Operation):
    """A curve a channel with one value for each half-float. values: float32 ``(3, 65536)``."""

    values: F32

    def run(self, tile: F32) -> None:
        """Changes a tile."""
        # Between two neighbouring halfs the value is interpolated, so that float32 does not become coarse.
        half = tile.astype(np.float16)
        near = half.astype(np.float32)
        step = np.where(tile > near, np.float16(np.inf), np.float16(-np.inf)).astype(np.float16)
        other = np.nextafter(half, step)
        far = other.astype(np.float32)
        span = np.where(np.isfinite(far), far - near, 1.0)
        share = np.where((span != 0) & np.isfinite(far), (tile - near) / np.where(span == 0, 1.0, span), 0.0)
        for c in range(3):
            a = self.values[c][half[c].view(np.uint16)]
            b = self.values[c][other[c].view(np.uint16)]
            tile[c] = np.where(share[c] == 0, a, a + share[c] * (np.nan_to_num(b) - a))


@dataclass(frozen=True, eq=False)
class InverseCurve(Operation):
    """A curve a channel read backwards. places, values: float64 ``(3, m)``, values rising."""

    places: F64
    values: F64

    def run(self, tile: F32) -> None:
        """Changes a tile."""
        for c in range(3):
            tile[c] = np.interp(tile[c], self.values[c], self.places[c])


def _scales(node: Element, name: str) -> tuple[float, float]:
    found = []
    for key in ("inBitDepth", "outBitDepth"):
        depth = node.get(key, "")
        if depth not in _DEPTHS:
            raise FileError(name, f"{node.tag}: {key} “{depth[:20]}” is not one of {', '.join(_DEPTHS)}", xml.line_of(node))
        found.append(_DEPTHS[depth])
    return found[0], found[1]


def _array(node: Element, name: str) -> tuple[list[int], list[float]]:
    array = node.find("Array")
    if array is None:
        raise FileError(name, f"{node.tag} has no Array", xml.line_of(node))
    words = array.get("dim", "").split()
    if not words or not all(w.isdigit() for w in words):
        raise FileError(name, f"{node.tag}: the dim of its Array is not whole numbers", xml.line_of(array))
    dim = [int(w) for w in words]
    if max(dim) > SHAPER_LIMIT or len(dim) > 4:
        raise FileError(name, f"{node.tag}: an Array of {array.get('dim', '')[:40]} is larger than Saucer takes", xml.line_of(array))
    return dim, xml.numbers(array, name)


def _matrix(node: Element, name: str) -> list[Operation]:
    low, high = _scales(node, name)
    dim, values = _array(node, name)
    rows, columns = [*dim, 0, 0][:2]
    if (rows, columns) not in ((3, 3), (3, 4)) or len(values) != rows * columns:
        raise FileError(name, f"Matrix needs 3 3 or 3 4 numbers, not {' '.join(map(str, dim))} with {len(values)}", xml.line_of(node))
    m = np.array(values).reshape(rows, columns)
    offset = m[:, 3] if columns == 4 else np.zeros(3)
    return [Linear(m[:, :3] * low / high, offset / high)]


def _number_in(node: Element, tag: str, name: str) -> float | None:
    inner = node.find(tag)
    return None if inner is None else xml.numbers(inner, name, 1)[0]


def _range(node: Element, name: str) -> list[Operation]:
    low, high = _scales(node, name)
    in_low, in_high, out_low, out_high = (_number_in(node, k, name) for k in ("minInValue", "maxInValue", "minOutValue", "maxOutValue"))
    if (in_low is None) != (out_low is None) or (in_high is None) != (out_high is None):
        raise FileError(name, "Range needs a value out for each value in", xml.line_of(node))
    if in_low is None and in_high is None:
        raise FileError(name, "Range has no limits", xml.line_of(node))
    found: list[Operation] = []
    if in_low is not None and in_high is not None and out_low is not None and out_high is not None:
        a, b, c, d = in_low / low, in_high / low, out_low / high, out_high / high
        if b - a < 1e-9 or d < c:
            raise FileError(name, "Range: the maximum does not lie above the minimum", xml.line_of(node))
        scale = (d - c) / (b - a)
        found.append(Linear(np.eye(3) * scale, np.full(3, c - a * scale)))
        limits: tuple[float | None, float | None] = c, d
    else:
        one_in, one_out = (in_low, out_low) if in_low is not None else (in_high, out_high)
        assert one_in is not None
        assert one_out is not None
        found.append(Linear(np.eye(3), np.full(3, one_out / high - one_in / low)))
        limits = (one_out / high, None) if in_low is not None else (None, one_out / high)
    if node.get("style", "Clamp").lower() != "noclamp":
        found.append(Clamp(*limits))
    return found


def _lut1d(node: Element, name: str) -> list[Operation]:
    _, high = _scales(node, name)
    dim, values = _array(node, name)
    if len(dim) != 2 or dim[1] not in (1, 3) or dim[0] < 2 or len(values) != dim[0] * dim[1]:
        raise FileError(name, f"LUT1D: its Array says {' '.join(map(str, dim))} and holds {len(values)} numbers", xml.line_of(node))
    table = np.array(values).reshape(dim)
    table = np.repeat(table, 3, axis=1) if dim[1] == 1 else table
    if node.get("rawHalfs", "false").lower() == "true":
        if table.min() < 0 or table.max() > 65535:
            raise FileError(name, "LUT1D: raw halfs lie between 0 and 65535", xml.line_of(node))
        table = table.astype(np.uint16).view(np.float16).astype(np.float64)
        if not np.isfinite(table).all():
            table = np.nan_to_num(table, posinf=65504.0, neginf=-65504.0)
    else:
        table = table / high
    if node.get("halfDomain", "false").lower() == "true":
        if dim[0] != 65536:
            raise FileError(name, f"LUT1D: a half domain needs 65536 rows, not {dim[0]}", xml.line_of(node))
        return [HalfDomain(np.ascontiguousarray(table.T, dtype=np.float32))]
    if node.tag == "InverseLUT1D":
        places = np.repeat(np.linspace(0, 1, dim[0])[None], 3, axis=0)
        rising = np.maximum.accumulate(table.T, axis=1) + np.arange(dim[0]) * 1e-12
        return [InverseCurve(places, rising)]
    zero, one = np.zeros(3, np.float32), np.ones(3, np.float32)
    return [ShaperRead(np.ascontiguousarray(table.T, dtype=np.float32), zero, one)]


def _lut3d(node: Element, name: str) -> list[Operation]:
    _low, high = _scales(node, name)
    dim, values = _array(node, name)
    size = dim[0]
    if len(dim) != 4 or len(set(dim[:3])) != 1 or dim[3] != 3 or not 2 <= size <= GRID_LIMIT or len(values) != size**3 * 3:
        text = (
            f"LUT3D: its Array says {' '.join(map(str, dim))[:40]} and holds {len(values):,} numbers; grids have 2 to {GRID_LIMIT} points"
        )
        raise FileError(name, text, xml.line_of(node))
    # In the file blue runs fastest; here red does.
    grid = (np.array(values).reshape(size, size, size, 3) / high).transpose(2, 1, 0, 3)
    how = "trilinear" if node.get("interpolation", "tetrahedral").lower() == "trilinear" else "tetrahedral"
    zero, one = np.zeros(3, np.float32), np.ones(3, np.float32)
    return [GridRead(np.ascontiguousarray(grid, dtype=np.float32), zero, one, how)]  # type: ignore[arg-type]


def _each(node: Element, tag: str, name: str) -> list[Element | None]:
    """The parameters of red, green, blue; one without a channel counts for all that have none of their own."""
    found: dict[str, Element] = {e.get("channel", "all").upper(): e for e in node.findall(tag)}
    unknown = set(found) - {"R", "G", "B", "A", "ALL"}
    if unknown:
        raise FileError(name, f"{node.tag}: there is no channel {', '.join(sorted(unknown))[:20]}", xml.line_of(node))
    return [found.get(c, found.get("ALL")) for c in "RGB"]


def _log_node(node: Element, name: str) -> list[Operation]:
    style = node.get("style", "")
    plain = {"log10": (10.0, False), "log2": (2.0, False), "antiLog10": (10.0, True), "antiLog2": (2.0, True)}
    rows: list[list[float]] = []
    if style in plain:
        base, to_light = plain[style]
        rows = [[np.log2(base), 0.0, 1.0, 0.0, -3e38, 1.0, 0.0]] * 3
        return [LogNode(np.array(rows, dtype=np.float32), to_light)]
    if style not in ("linToLog", "logToLin", "cameraLinToLog", "cameraLogToLin"):
        raise FileError(name, f"Log: there is no style “{style[:30]}”", xml.line_of(node))
    for e in _each(node, "LogParams", name):
        if e is None:
            raise FileError(name, f"Log of style {style} needs LogParams", xml.line_of(node))
        base = xml.attribute(e, "base", 2.0, name)
        slope, start = xml.attribute(e, "logSideSlope", 1.0, name), xml.attribute(e, "logSideOffset", 0.0, name)
        lin, offset = xml.attribute(e, "linSideSlope", 1.0, name), xml.attribute(e, "linSideOffset", 0.0, name)
        if base <= 0 or base == 1 or slope == 0 or lin == 0:
            raise FileError(name, "Log: base must lie above 0 and not be 1, and no slope may be 0", xml.line_of(e))
        cut, straight, lift = -3e38, 1.0, 0.0
        if style.startswith("camera"):
            if e.get("linSideBreak") is None:
                raise FileError(name, "Log: a camera style needs linSideBreak", xml.line_of(e))
            cut = xml.attribute(e, "linSideBreak", 0.0, name)
            inside = lin * cut + offset
            if inside <= 0:
                raise FileError(name, "Log: the break lies where the logarithm has no value", xml.line_of(e))
            straight = xml.attribute(e, "linearSlope", slope * lin / (inside * np.log(base)), name)
            if straight == 0:
                raise FileError(name, "Log: linearSlope must not be 0", xml.line_of(e))
            lift = slope * np.log(inside) / np.log(base) + start - straight * cut
        rows.append([np.log2(base) / slope, start, lin, offset, cut, straight, lift])
    return [LogNode(np.array(rows, dtype=np.float32), style.endswith("ToLin"))]


_STYLES = {"basic": 0, "basicMirror": 1, "basicPassThru": 2}


def _exponent(node: Element, name: str) -> list[Operation]:
    style = node.get("style", "")
    base = style[:-3] if style.endswith(("Fwd", "Rev")) else ""
    kind = style.replace("Fwd", "").replace("Rev", "")
    backwards = "Rev" in style
    if kind not in (*_STYLES, "monCurve", "monCurveMirror") or (not base and "Fwd" not in style and "Rev" not in style):
        raise FileError(name, f"Exponent: there is no style “{style[:30]}”", xml.line_of(node))
    rows = []
    for e in _each(node, "ExponentParams", name):
        exponent = 1.0 if e is None else xml.attribute(e, "exponent", 1.0, name)
        offset = 0.0 if e is None else xml.attribute(e, "offset", 0.0, name)
        if not 0.01 <= exponent <= 100 or not 0 <= offset <= 0.9:
            raise FileError(name, "Exponent: the exponent lies between 0.01 and 100, the offset between 0 and 0.9", xml.line_of(node))
        rows.append((exponent, offset))
    if kind in _STYLES:
        exponents = [[1 / g if backwards else g, 0.0] for g, _ in rows]
        return [ExponentNode(np.array(exponents, dtype=np.float32), _STYLES[kind])]
    return [MonitorNode(np.array([_monitor_terms(g, o) for g, o in rows], dtype=np.float32), not backwards, kind.endswith("Mirror"))]


def _monitor_terms(gamma: float, offset: float) -> list[float]:
    """Exponent, offset, break in code, slope of the toe (S-2014-006, Exponent, moncurve)."""
    if offset == 0 or gamma == 1:
        return [gamma, offset, 0.0, 1.0]
    cut = offset / (gamma - 1)
    slope = (offset * gamma / ((gamma - 1) * (1 + offset))) ** gamma * (gamma - 1) / offset
    return [gamma, offset, cut, slope]


def _cdl(node: Element, name: str) -> list[Operation]:
    style = node.get("style", "Fwd")
    sop, sat = node.find("SOPNode"), node.find("SatNode")
    triples = []
    for tag, default in (("Slope", 1.0), ("Offset", 0.0), ("Power", 1.0)):
        inner = sop.find(tag) if sop is not None else None
        r, g, b = xml.numbers(inner, name, 3) if inner is not None else (default,) * 3
        triples.append((r, g, b))
    inner = sat.find("Saturation") if sat is not None else None
    saturation = xml.numbers(inner, name, 1)[0] if inner is not None else 1.0
    if min(triples[2]) <= 0 or saturation < 0 or min(triples[0]) < 0:
        raise FileError(name, "ASC_CDL: power must lie above 0, slope and saturation not below it", xml.line_of(node))
    if style in ("Fwd", "FwdNoClamp", "v1.2_Fwd", "noClampFwd"):
        return [Correction(triples[0], triples[1], triples[2], saturation, clamp="oClamp" not in style)]
    if style in ("Rev", "RevNoClamp", "v1.2_Rev", "noClampRev"):
        return _cdl_back(triples, saturation, "oClamp" not in style, name, node)
    raise FileError(name, f"ASC_CDL: there is no style “{style[:30]}”", xml.line_of(node))


def _cdl_back(triples: list[tuple[float, float, float]], saturation: float, clamp: bool, name: str, node: Element) -> list[Operation]:
    slope, offset, exponent = (np.array(t) for t in triples)
    if saturation == 0 or slope.min() == 0:
        raise FileError(name, "ASC_CDL: a slope or saturation of 0 cannot be undone", xml.line_of(node))
    luma = np.outer(np.ones(3), [0.2126, 0.7152, 0.0722])
    back = np.linalg.inv(luma + saturation * (np.eye(3) - luma))
    ends: list[Operation] = [Clamp(0.0, 1.0)] if clamp else []
    raised = ExponentNode(np.stack([1 / exponent, np.zeros(3)], axis=1).astype(np.float32), 2)
    return [*ends, Linear(back, np.zeros(3)), *ends, raised, Linear(np.diag(1 / slope), -offset / slope), *ends]


_NODES: dict[str, Callable[[Element, str], list[Operation]]] = {
    "Matrix": _matrix, "Range": _range, "LUT1D": _lut1d, "InverseLUT1D": _lut1d, "LUT3D": _lut3d, "Log": _log_node, "Exponent": _exponent,
    "ASC_CDL": _cdl,
}  # fmt: skip
_ABOUT = {"Description", "InputDescriptor", "OutputDescriptor", "Info"}


def read_text(text: str, name: str) -> Lut | Chain:
    """A table from the text of a file; a single grid or curve becomes a ``Lut``. Raises ``FileError`` with line and reason."""
    root = xml.parse(text, name)
    if root.tag != "ProcessList":
        raise FileError(name, f"begins with {root.tag[:40]}: not a Common LUT Format file", xml.line_of(root))
    steps: list[Operation] = []
    for node in root:
        if node.tag in _ABOUT:
            continue
        if node.tag not in _NODES:
            raise FileError(name, f"Saucer does not know the node {node.tag[:40]}", xml.line_of(node))
        if node.get("bypass", "false").lower() == "true":
            continue
        steps += _NODES[node.tag](node, name)
        if len(steps) > NODE_LIMIT:
            raise FileError(name, f"holds more than {NODE_LIMIT} nodes")
    if not steps:
        raise FileError(name, "holds no node that does something")
    title = root.get("name", "") or root.get("id", "")
    comments = tuple(e.text.strip() for e in root.findall("Description") if e.text and e.text.strip())
    if len(steps) == 1 and isinstance(steps[0], GridRead) and steps[0].interpolation == "tetrahedral":
        return Lut(steps[0].grid, title=title, comments=comments)
    size = max((len(s.grid) for s in steps if isinstance(s, GridRead)), default=0)
    return Chain(tuple(steps), text, title=title, comments=comments, size=size)


def read(path: Path, name: str | None = None) -> Lut | Chain:
    """A table from a file; raises ``FileError``."""
    name = name or path.name
    return read_text(xml.read_limited(path, name), name)


def _rows(values: F32) -> str:
    return "\n".join("%.9g %.9g %.9g" % (r, g, b) for r, g, b in values.reshape(-1, 3).tolist())


def _document(nodes: list[str], title: str, comments: tuple[str, ...], source: str = "", target: str = "") -> str:
    seed = uuid.uuid5(uuid.NAMESPACE_OID, "\n".join(nodes))
    head = [
        '<?xml version="1.0" encoding="UTF-8"?>',
        f'<ProcessList xmlns="http://www.smpte-ra.org/ns/2136-1/2024" id="urn:uuid:{seed}" name="{xml.escaped(title or "look")}"'
        ' compCLFversion="3">',
        *(f"  <Description>{xml.escaped(c)}</Description>" for c in comments),
    ]  # fmt: skip
    if source:
        head.append(f"  <InputDescriptor>{xml.escaped(source)}</InputDescriptor>")
    if target:
        head.append(f"  <OutputDescriptor>{xml.escaped(target)}</OutputDescriptor>")
    return "\n".join([*head, *nodes, "</ProcessList>"]) + "\n"


_BITS = 'inBitDepth="32f" outBitDepth="32f"'


def _curve_nodes(values: F32, low: F32, high: F32) -> list[str]:
    """A curve over a domain: the domain brought to 0–1, then the values."""
    scale = 1 / (high.astype(np.float64) - low)
    found = []
    if (low != 0).any() or (high != 1).any():
        found.append(_matrix_node(np.diag(scale), -low * scale))
    rows = _rows(values)
    found.append(f'  <LUT1D {_BITS}>\n    <Array dim="{len(values)} 3">\n{rows}\n    </Array>\n  </LUT1D>')
    return found


def _grid_nodes(grid: F32, low: F32, high: F32, how: str = "tetrahedral") -> list[str]:
    """A grid over a domain: the domain brought to 0–1, then the grid, blue fastest."""
    found = []
    if (low != 0).any() or (high != 1).any():
        scale = 1 / (high.astype(np.float64) - low)
        found.append(_matrix_node(np.diag(scale), -low * scale))
    rows, n = _rows(np.ascontiguousarray(grid.transpose(2, 1, 0, 3))), len(grid)
    found.append(f'  <LUT3D {_BITS} interpolation="{how}">\n    <Array dim="{n} {n} {n} 3">\n{rows}\n    </Array>\n  </LUT3D>')
    return found


def _matrix_node(m: F64, c: F64) -> str:
    rows = "\n".join("      " + " ".join(f"{v:.12g}" for v in (*m[k], c[k])) for k in range(3))
    return f'  <Matrix {_BITS}>\n    <Array dim="3 4">\n{rows}\n    </Array>\n  </Matrix>'


def write_text(lut: Table) -> str:
    """The text of a file holding a baked table. A chain that came from such a file keeps its own text."""
    if isinstance(lut, Chain):
        return lut.source if lut.source.lstrip("\ufeff \n").startswith("<") and "ProcessList" in lut.source else _exact(lut)
    if not isinstance(lut, Lut):
        raise LookError("This table cannot be written as a Common LUT Format file. Bake it first.")
    nodes: list[str] = []
    if lut.shaper is not None:
        nodes += _curve_nodes(lut.shaper.values, lut.shaper.low, lut.shaper.high)
    if lut.grid is not None:
        nodes += _grid_nodes(lut.grid, lut.low, lut.high)
    return _document(nodes, lut.title, lut.comments)


def _exact(chain: Chain) -> str:
    return _document([node for step in chain.steps for node in _node_of(step)], chain.title, chain.comments)


def _transfer_node(transfer: Transfer, to_light: bool) -> list[str]:
    if transfer.to_light is None:
        return []
    if transfer.key.startswith(("gamma", "bt1886")):
        style = "basicMirrorFwd" if to_light else "basicMirrorRev"
        return [
            f'  <Exponent {_BITS} style="{style}">\n    <ExponentParams exponent="{float(transfer.parameters[0]):.9g}"/>\n  </Exponent>'
        ]
    if transfer.to_light is _toed_decode and transfer.key == "srgb":
        style = "monCurveMirrorFwd" if to_light else "monCurveMirrorRev"
        return [f'  <Exponent {_BITS} style="{style}">\n    <ExponentParams exponent="2.4" offset="0.055"/>\n  </Exponent>']
    terms = _camera_terms(transfer)
    if terms is None:
        raise LookError(f"The curve {transfer.key} has no exact form in the Common LUT Format. Bake a table instead.")
    style = "cameraLogToLin" if to_light else "cameraLinToLog"
    names = ("base", "logSideSlope", "logSideOffset", "linSideSlope", "linSideOffset", "linSideBreak", "linearSlope")
    text = " ".join(f'{k}="{v:.12g}"' for k, v in zip(names, terms, strict=False))
    return [f'  <Log {_BITS} style="{style}">\n    <LogParams {text}/>\n  </Log>']


def _camera_terms(transfer: Transfer) -> tuple[float, ...] | None:
    if transfer == FILM_LOG:
        return CAMERA_TERMS
    if transfer == ACESCCT:
        return 2.0, 1 / 17.52, 9.72 / 17.52, 1.0, 0.0, 0.0078125, 10.5402377416545
    if transfer.key.startswith("camera-"):
        rate, start, slope, offset, cut, straight, _ = (float(v) for v in transfer.parameters)
        return 2.0, 1 / rate, start, slope, offset, cut, straight
    return None


def _node_of(step: Operation) -> list[str]:
    if isinstance(step, Linear):
        return [_matrix_node(step.matrix, step.constant)]
    if isinstance(step, Decode):
        return _transfer_node(step.transfer, True)
    if isinstance(step, Encode):
        return _transfer_node(step.transfer, False)
    if isinstance(step, Correction):
        style = "Fwd" if step.clamp else "FwdNoClamp"
        inner = "\n".join(
            f"      <{k}>{' '.join(f'{x:.9g}' for x in v)}</{k}>"
            for k, v in (("Slope", step.slope), ("Offset", step.offset), ("Power", step.power))
        )
        return [
            f'  <ASC_CDL {_BITS} style="{style}">\n    <SOPNode>\n{inner}\n    </SOPNode>\n    <SatNode>\n'
            f"      <Saturation>{step.saturation:.9g}</Saturation>\n    </SatNode>\n  </ASC_CDL>"
        ]  # fmt: skip
    if isinstance(step, GridRead):
        return _grid_nodes(step.grid, step.low, step.high, step.interpolation)
    if isinstance(step, ShaperRead):
        return _curve_nodes(np.ascontiguousarray(step.values.T), step.low, step.high)
    if isinstance(step, Clamp) and step.low is not None and step.high is not None:
        limits = "".join(
            f"\n    <{k}>{v:.9g}</{k}>"
            for k, v in (("minInValue", step.low), ("maxInValue", step.high), ("minOutValue", step.low), ("maxOutValue", step.high))
        )
        return [f"  <Range {_BITS}>{limits}\n  </Range>"]
    raise LookError(f"{type(step).__name__} has no exact form in the Common LUT Format.")


def exact_text(look: Look, *, tables: Tables = no_tables, title: str = "", comments: tuple[str, ...] = ()) -> str:
    """The look as exact operations; raises ``LookError`` naming the step where one has no exact form."""
    from ..encodings import encoding
    from ..look import fetched
    from ..steps import Surroundings, after, operations_of

    if look.strength < 1:
        raise LookError("A look at part of its strength has no exact form in the Common LUT Format. Bake a table instead.")
    at = Surroundings(encoding(look.input), fetched(look, tables))
    for step in look.steps:
        try:
            for one in operations_of(step, at):
                _node_of(one)
        except LookError:
            text = f"The step “{step.label or step.title}” has no exact form in the Common LUT Format. Bake a table instead."
            raise LookError(text) from None
        at = after(step, at)
    nodes = [node for one in operations_of_look(look, tables=tables) for node in _node_of(one)]
    if not nodes:
        nodes = [_matrix_node(np.eye(3), np.zeros(3))]
    return _document(nodes, title, comments, encoding(look.input).label, encoding(look.output).label)
