"""Reading the Common LUT Format: every node, in every bit depth, and both directions where the format has
them."""

from collections.abc import Callable
from pathlib import Path
from xml.etree.ElementTree import Element

import numpy as np

from ...arrays import F64
from ...errors import FileError
from ...luma import LUMA
from ...operations import Linear, Operation
from ...steps.slope_offset_power import Correction
from ...tables.chain import Chain
from ...tables.interpolate import GridRead, Interpolation
from ...tables.lut import GRID_LIMIT, SHAPER_LIMIT, Lut, ShaperRead
from .. import xml
from .nodes import Clamp, ExponentNode, HalfDomain, InverseCurve, LogNode, MonitorNode

NODE_LIMIT = 200
_DEPTHS = {"8i": 255.0, "10i": 1023.0, "12i": 4095.0, "16i": 65535.0, "16f": 1.0, "32f": 1.0}


def _scales(node: Element, name: str) -> tuple[float, float]:
    found = []
    for key in ("inBitDepth", "outBitDepth"):
        depth = node.get(key, "")
        if depth not in _DEPTHS:
            raise FileError(
                name,
                f"{node.tag}: {key} “{depth[:20]}” is not one of {', '.join(_DEPTHS)}",
                xml.line_of(node),
            )
        found.append(_DEPTHS[depth])
    return found[0], found[1]


def _array(node: Element, name: str) -> tuple[list[int], F64]:
    array = node.find("Array")
    if array is None:
        raise FileError(name, f"{node.tag} has no Array", xml.line_of(node))
    words = array.get("dim", "").split()
    if not words or not all(w.isascii() and w.isdigit() and len(w) < 9 for w in words):
        raise FileError(name, f"{node.tag}: the dim of its Array is not whole numbers", xml.line_of(array))
    dim = [int(w) for w in words]
    if max(dim) > SHAPER_LIMIT or len(dim) > 4:
        raise FileError(
            name,
            f"{node.tag}: an Array of {array.get('dim', '')[:40]} is larger than Saucer takes",
            xml.line_of(array),
        )
    return dim, xml.numbers(array, name)


def _matrix(node: Element, name: str) -> list[Operation]:
    low, high = _scales(node, name)
    dim, values = _array(node, name)
    rows, columns = [*dim, 0, 0][:2]
    if (rows, columns) not in ((3, 3), (3, 4)) or len(values) != rows * columns:
        raise FileError(
            name,
            f"Matrix needs 3 3 or 3 4 numbers, not {' '.join(map(str, dim))} with {len(values)}",
            xml.line_of(node),
        )
    m = values.reshape(rows, columns)
    offset = m[:, 3] if columns == 4 else np.zeros(3)
    return [Linear(m[:, :3] * low / high, offset / high)]


def _number_in(node: Element, tag: str, name: str) -> float | None:
    inner = node.find(tag)
    return None if inner is None else xml.numbers(inner, name, 1)[0]


def _range(node: Element, name: str) -> list[Operation]:
    low, high = _scales(node, name)
    in_low, in_high, out_low, out_high = (
        _number_in(node, k, name) for k in ("minInValue", "maxInValue", "minOutValue", "maxOutValue")
    )
    if (in_low is None) != (out_low is None) or (in_high is None) != (out_high is None):
        raise FileError(name, "Range needs a value out for each value in", xml.line_of(node))
    if in_low is None and in_high is None:
        raise FileError(name, "Range has no limits", xml.line_of(node))
    found: list[Operation] = []
    if in_low is not None and in_high is not None and out_low is not None and out_high is not None:
        a, b, c, d = in_low / low, in_high / low, out_low / high, out_high / high
        if b - a < 1e-9 * max(1.0, abs(a)) or d < c:
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
        raise FileError(
            name,
            f"LUT1D: its Array says {' '.join(map(str, dim))} and holds {len(values)} numbers",
            xml.line_of(node),
        )
    table = values.reshape(dim)
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
    if (
        len(dim) != 4
        or len(set(dim[:3])) != 1
        or dim[3] != 3
        or not 2 <= size <= GRID_LIMIT
        or len(values) != size**3 * 3
    ):
        text = (
            f"LUT3D: its Array says {' '.join(map(str, dim))[:40]} and holds {len(values):,} numbers; "
            f"grids have 2 to {GRID_LIMIT} points"
        )
        raise FileError(name, text, xml.line_of(node))
    # In the file blue runs fastest; here red does.
    grid = (values.reshape(size, size, size, 3) / high).transpose(2, 1, 0, 3)
    # ST 2136-1: trilinear where the file does not say.
    how: Interpolation = (
        "tetrahedral" if node.get("interpolation", "trilinear").lower() == "tetrahedral" else "trilinear"
    )
    zero, one = np.zeros(3, np.float32), np.ones(3, np.float32)
    return [GridRead(np.ascontiguousarray(grid, dtype=np.float32), zero, one, how)]


def _each(node: Element, tag: str, name: str) -> list[Element | None]:
    """The parameters of red, green, blue; one without a channel counts for all that have none of their
    own."""
    found: dict[str, Element] = {e.get("channel", "all").upper(): e for e in node.findall(tag)}
    unknown = set(found) - {"R", "G", "B", "A", "ALL"}
    if unknown:
        raise FileError(
            name, f"{node.tag}: there is no channel {', '.join(sorted(unknown))[:20]}", xml.line_of(node)
        )
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
    given = _each(node, "LogParams", name)
    # A channel without parameters has the defaults, and the base of the others (as OpenColorIO 2.6 reads it).
    base_of_all = next((xml.attribute(e, "base", 2.0, name) for e in given if e is not None), 2.0)
    for e in given:
        if e is None and style.startswith("camera"):
            raise FileError(
                name, f"Log of style {style} needs LogParams for every channel", xml.line_of(node)
            )
        if e is None:
            e = Element("LogParams", {"base": str(base_of_all), "line": str(xml.line_of(node))})
        base = xml.attribute(e, "base", 2.0, name)
        slope, start = (
            xml.attribute(e, "logSideSlope", 1.0, name),
            xml.attribute(e, "logSideOffset", 0.0, name),
        )
        lin, offset = (
            xml.attribute(e, "linSideSlope", 1.0, name),
            xml.attribute(e, "linSideOffset", 0.0, name),
        )
        if base <= 0 or base == 1 or slope == 0 or lin == 0:
            raise FileError(
                name, "Log: base must lie above 0 and not be 1, and no slope may be 0", xml.line_of(e)
            )
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
    terms = np.array(rows)
    if (
        not (np.abs(terms[:, [0, 1, 2, 3, 5, 6]]) < xml.LARGEST).all()
        or (np.abs(terms[:, [0, 2, 5]]) < 1 / xml.LARGEST).any()
    ):
        raise FileError(
            name, "Log: its numbers are too large or too small for a curve of colours", xml.line_of(node)
        )
    return [LogNode(terms.astype(np.float32), style.endswith("ToLin"))]


_STYLES = {"basic": 0, "basicMirror": 1, "basicPassThru": 2}


def _exponent(node: Element, name: str) -> list[Operation]:
    style = node.get("style", "")
    base = style[:-3] if style.endswith(("Fwd", "Rev")) else ""
    kind = style.replace("Fwd", "").replace("Rev", "")
    backwards = "Rev" in style
    if kind not in (*_STYLES, "monCurve", "monCurveMirror") or (
        not base and "Fwd" not in style and "Rev" not in style
    ):
        raise FileError(name, f"Exponent: there is no style “{style[:30]}”", xml.line_of(node))
    rows = []
    for e in _each(node, "ExponentParams", name):
        exponent = 1.0 if e is None else xml.attribute(e, "exponent", 1.0, name)
        offset = 0.0 if e is None else xml.attribute(e, "offset", 0.0, name)
        if not 0.01 <= exponent <= 100 or not 0 <= offset <= 0.9:
            raise FileError(
                name,
                "Exponent: the exponent lies between 0.01 and 100, the offset between 0 and 0.9",
                xml.line_of(node),
            )
        rows.append((exponent, offset))
    if kind not in _STYLES and min(g for g, _ in rows) < 1:
        raise FileError(name, "Exponent: a monCurve has an exponent of 1 or more", xml.line_of(node))
    if kind in _STYLES:
        exponents = [[1 / g if backwards else g, 0.0] for g, _ in rows]
        return [ExponentNode(np.array(exponents, dtype=np.float32), _STYLES[kind])]
    return [
        MonitorNode(
            np.array([monitor_terms(g, o) for g, o in rows], dtype=np.float32),
            not backwards,
            kind.endswith("Mirror"),
        )
    ]


def monitor_terms(gamma: float, offset: float) -> list[float]:
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
        raise FileError(
            name, "ASC_CDL: power must lie above 0, slope and saturation not below it", xml.line_of(node)
        )
    if style in ("Fwd", "FwdNoClamp", "v1.2_Fwd", "noClampFwd"):
        return [Correction(triples[0], triples[1], triples[2], saturation, clamp="oClamp" not in style)]
    if style in ("Rev", "RevNoClamp", "v1.2_Rev", "noClampRev"):
        return _cdl_back(triples, saturation, "oClamp" not in style, name, node)
    raise FileError(name, f"ASC_CDL: there is no style “{style[:30]}”", xml.line_of(node))


#: Slope, power and saturation whose inverse still leaves numbers that a float32 holds.
SMALLEST_UNDONE = 1e-6


def _cdl_back(
    triples: list[tuple[float, float, float]], saturation: float, clamp: bool, name: str, node: Element
) -> list[Operation]:
    slope, offset, exponent = (np.array(t) for t in triples)
    if min(saturation, slope.min(), exponent.min()) < SMALLEST_UNDONE:
        words = f"ASC_CDL: a slope, power or saturation below {SMALLEST_UNDONE:g} cannot be undone"
        raise FileError(name, words, xml.line_of(node))
    luma = np.outer(np.ones(3), LUMA)
    back = np.linalg.inv(luma + saturation * (np.eye(3) - luma)).astype(np.float64)
    ends: list[Operation] = [Clamp(0.0, 1.0)] if clamp else []
    raised = ExponentNode(np.stack([1 / exponent, np.zeros(3)], axis=1).astype(np.float32), 2)
    return [
        *ends,
        Linear(back, np.zeros(3)),
        *ends,
        raised,
        Linear(np.diag(1 / slope), -offset / slope),
        *ends,
    ]


_NODES: dict[str, Callable[[Element, str], list[Operation]]] = {
    "Matrix": _matrix,
    "Range": _range,
    "LUT1D": _lut1d,
    "InverseLUT1D": _lut1d,
    "LUT3D": _lut3d,
    "Log": _log_node,
    "Exponent": _exponent,
    "ASC_CDL": _cdl,
}
_ABOUT = {"Description", "InputDescriptor", "OutputDescriptor", "Info"}


def read_text(text: str, name: str) -> Lut | Chain:
    """A table from the text of a file; a single grid or curve becomes a ``Lut``. Raises ``FileError`` with
    line and reason."""
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
    if len(steps) == 1 and isinstance(steps[0], GridRead):
        return Lut(steps[0].grid, title=title, comments=comments, interpolation=steps[0].interpolation)
    size = max((len(s.grid) for s in steps if isinstance(s, GridRead)), default=0)
    return Chain(tuple(steps), text, title=title, comments=comments, size=size)


def read(path: Path, name: str | None = None) -> Lut | Chain:
    """A table from a file; raises ``FileError``."""
    name = name or path.name
    return read_text(xml.read_limited(path, name), name)
