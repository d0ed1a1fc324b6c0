"""ASC CDL in its three XML files: ``.cc`` (one correction), ``.ccc`` (a collection), ``.cdl`` (a list of
decisions).

ASC Color Decision List Transfer Functions and Interchange Syntax, version 1.2 (2009-05-04), section 6.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from xml.etree.ElementTree import Element

from ..errors import FileError, LookError
from ..look import Look
from ..steps.slope_offset_power import Correction, SlopeOffsetPower
from ..tables.chain import Chain
from . import xml

SUFFIXES = (".cc", ".ccc", ".cdl")
_NAMESPACE = "urn:ASC:CDL:v1.01"
COUNT_LIMIT = 10_000


@dataclass(frozen=True)
class NamedCorrection:
    """A correction with its id and descriptions."""

    correction: Correction
    id: str = ""
    description: str = ""


def _three(element: Element | None, default: float, name: str) -> tuple[float, float, float]:
    if element is None:
        return default, default, default
    r, g, b = xml.numbers(element, name, 3)
    return r, g, b


def _correction(element: Element, name: str) -> NamedCorrection:
    sop, sat = element.find("SOPNode"), element.find("SatNode")
    if sat is None:
        sat = element.find("SATNode")
    if sop is None and sat is None:
        raise FileError(name, "a ColorCorrection with neither SOPNode nor SatNode", xml.line_of(element))
    saturation = 1.0
    if sat is not None and (inner := sat.find("Saturation")) is not None:
        saturation = xml.numbers(inner, name, 1)[0]
    parts = [
        _three(sop.find(k) if sop is not None else None, d, name)
        for k, d in (("Slope", 1.0), ("Offset", 0.0), ("Power", 1.0))
    ]
    if min(parts[0]) < 0 or min(parts[2]) <= 0 or saturation < 0:
        raise FileError(
            name, "slope and saturation must not lie below 0, power must lie above it", xml.line_of(element)
        )
    words = [e.text.strip() for e in element.iter("Description") if e.text]
    return NamedCorrection(
        Correction(parts[0], parts[1], parts[2], saturation), element.get("id", ""), " ".join(words)
    )


def corrections(text: str, name: str) -> list[NamedCorrection]:
    """All corrections of a file, in order; raises ``FileError``."""
    root = xml.parse(text, name)
    if root.tag not in ("ColorCorrection", "ColorCorrectionCollection", "ColorDecisionList"):
        raise FileError(name, f"begins with {root.tag[:40]}: not an ASC CDL file", xml.line_of(root))
    found = [_correction(e, name) for e in root.iter("ColorCorrection")]
    if not found:
        raise FileError(name, "holds no ColorCorrection")
    if len(found) > COUNT_LIMIT:
        raise FileError(name, f"holds more than {COUNT_LIMIT:,} corrections")
    return found


def read(path: Path, name: str | None = None) -> Chain:
    """The file's one correction as a table; raises ``FileError`` where there are several."""
    name = name or path.name
    text = xml.read_limited(path, name)
    found = corrections(text, name)
    if len(found) > 1:
        ids = ", ".join(c.id or "without id" for c in found[:6])
        raise FileError(
            name, f"holds {len(found)} corrections ({ids} …): take out the one you want as a .cc file"
        )
    one = found[0]
    comments = (one.description,) if one.description else ()
    return Chain((one.correction,), text, title=one.id or Path(name).stem, comments=comments)


def correction_of(look: Look) -> Correction:
    """The look as one correction; raises ``LookError`` where it is more than that."""
    steps = [s for s in look.steps if s.on and not s.neutral()]
    if look.input != look.output:
        raise LookError("The look changes the encoding, which a CDL cannot hold. Bake a table instead.")
    if not steps:
        return Correction()
    if len(steps) > 1 or not isinstance(steps[0], SlopeOffsetPower):
        names = ", ".join(s.label or s.title for s in steps[:4])
        raise LookError(
            f"A CDL holds one Slope, offset, power step; this look has: {names}. Bake a table instead."
        )
    if look.strength < 1 or steps[0].strength < 1 or steps[0].blend != "normal":
        raise LookError(
            "A CDL cannot hold a step at part of its strength or with a blend. Bake a table instead."
        )
    return steps[0].correction()


def _node(one: NamedCorrection, indent: str) -> list[str]:
    c = one.correction
    rows = [f'{indent}<ColorCorrection id="{xml.escaped(one.id or "look")}">', f"{indent}  <SOPNode>"]
    if one.description:
        rows.append(f"{indent}    <Description>{xml.escaped(one.description)}</Description>")
    for key, values in (("Slope", c.slope), ("Offset", c.offset), ("Power", c.power)):
        rows.append(f"{indent}    <{key}>{' '.join(f'{v:.9g}' for v in values)}</{key}>")
    return [
        *rows,
        f"{indent}  </SOPNode>",
        f"{indent}  <SatNode>",
        f"{indent}    <Saturation>{c.saturation:.9g}</Saturation>",
        f"{indent}  </SatNode>",
        f"{indent}</ColorCorrection>",
    ]


def write_text(found: Sequence[NamedCorrection], suffix: str) -> str:
    """The text of a file of that kind; raises ``ValueError`` for several corrections in a ``.cc``."""
    head = '<?xml version="1.0" encoding="UTF-8"?>'
    if suffix == ".cc":
        if len(found) != 1:
            raise ValueError("a .cc file holds one correction")
        body = _node(found[0], "")
        body[0] = body[0].replace("<ColorCorrection ", f'<ColorCorrection xmlns="{_NAMESPACE}" ')
    elif suffix == ".ccc":
        inside = [row for one in found for row in _node(one, "  ")]
        body = [f'<ColorCorrectionCollection xmlns="{_NAMESPACE}">', *inside, "</ColorCorrectionCollection>"]
    else:
        inside = [
            row for one in found for row in ("  <ColorDecision>", *_node(one, "    "), "  </ColorDecision>")
        ]
        body = [f'<ColorDecisionList xmlns="{_NAMESPACE}">', *inside, "</ColorDecisionList>"]
    return "\n".join([head, *body]) + "\n"
