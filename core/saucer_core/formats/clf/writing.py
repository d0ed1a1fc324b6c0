"""Writing the Common LUT Format: a baked table, or the exact operations of a look that has only those.

A transfer function is written by its form: a new encoding of a form that stands here needs nothing more.
"""

import uuid
from collections.abc import Callable
from typing import Any

import numpy as np

from ...arrays import F32, F64
from ...encodings.camera_log import CameraLog
from ...encodings.power import Power
from ...encodings.toed import ToedPower
from ...errors import LookError
from ...look import Look
from ...operations import Decode, Encode, Linear, Operation
from ...program import operations_of
from ...steps import Surroundings, Tables, no_tables
from ...steps.slope_offset_power import Correction
from ...tables.chain import Chain
from ...tables.interpolate import GridRead
from ...tables.lut import Lut, ShaperRead, Table
from ...transfer import Transfer
from ...treatment import Treatment
from .. import xml
from ..rows import rows
from .nodes import Clamp
from .reading import monitor_terms

#: Code by which a curve may differ from the one that the file describes.
EXACT = 1e-4


def _document(
    nodes: list[str], title: str, comments: tuple[str, ...], source: str = "", target: str = ""
) -> str:
    seed = uuid.uuid5(uuid.NAMESPACE_OID, "\n".join(nodes))
    head = [
        '<?xml version="1.0" encoding="UTF-8"?>',
        f'<ProcessList xmlns="http://www.smpte-ra.org/ns/2136-1/2024" id="urn:uuid:{seed}" '
        f'name="{xml.escaped(title or "look")}"'
        ' compCLFversion="3">',
        *(f"  <Description>{xml.escaped(c)}</Description>" for c in comments),
    ]
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
    found.append(
        f'  <LUT1D {_BITS}>\n    <Array dim="{len(values)} 3">\n{rows(values)}    </Array>\n  </LUT1D>'
    )
    return found


def _grid_nodes(grid: F32, low: F32, high: F32, how: str = "tetrahedral") -> list[str]:
    """A grid over a domain: the domain brought to 0–1, then the grid, blue fastest."""
    found = []
    if (low != 0).any() or (high != 1).any():
        scale = 1 / (high.astype(np.float64) - low)
        found.append(_matrix_node(np.diag(scale), -low * scale))
    text, n = rows(grid.transpose(2, 1, 0, 3)), len(grid)
    found.append(
        f'  <LUT3D {_BITS} interpolation="{how}">\n    <Array dim="{n} {n} {n} 3">\n{text}    </Array>\n '
        " </LUT3D>"
    )
    return found


def _matrix_node(m: F64, c: F64) -> str:
    rows = "\n".join("      " + " ".join(f"{v:.12g}" for v in (*m[k], c[k])) for k in range(3))
    return f'  <Matrix {_BITS}>\n    <Array dim="3 4">\n{rows}\n    </Array>\n  </Matrix>'


def write_text(lut: Table) -> str:
    """The text of a file holding a baked table. A chain that came from such a file keeps its own text."""
    if isinstance(lut, Chain):
        return (
            lut.source
            if lut.source.lstrip("\ufeff \n").startswith("<") and "ProcessList" in lut.source
            else _exact(lut)
        )
    if not isinstance(lut, Lut):
        raise LookError("This table cannot be written as a Common LUT Format file. Bake it first.")
    nodes: list[str] = []
    if lut.shaper is not None:
        nodes += _curve_nodes(lut.shaper.values, lut.shaper.low, lut.shaper.high)
    if lut.grid is not None:
        nodes += _grid_nodes(lut.grid, lut.low, lut.high, lut.interpolation)
    return _document(nodes, lut.title, lut.comments)


def _exact(chain: Chain) -> str:
    return _document([node for step in chain.steps for node in _node_of(step)], chain.title, chain.comments)


def _exponent_node(style: str, gamma: float, offset: float | None = None) -> list[str]:
    more = "" if offset is None else f' offset="{offset:.9g}"'
    return [
        f'  <Exponent {_BITS} style="{style}">\n    <ExponentParams exponent="{gamma:.9g}"{more}/>\n  '
        "</Exponent>"
    ]


def _power_node(t: Power, to_light: bool) -> list[str]:
    return _exponent_node(f"basicMirror{'Fwd' if to_light else 'Rev'}", t.gamma)


def _toed_node(t: ToedPower, to_light: bool) -> list[str]:
    # The format computes the slope of the straight part from the other two numbers: a curve with a rounded
    # one must agree in code.
    slope = monitor_terms(t.gamma, t.offset)[3]
    if abs(1 / slope - t.slope) * t.cut > EXACT:
        raise LookError(
            "This curve's straight part has no exact form in the Common LUT Format. Bake a table instead."
        )
    return _exponent_node(f"monCurveMirror{'Fwd' if to_light else 'Rev'}", t.gamma, t.offset)


def _camera_node(t: CameraLog, to_light: bool) -> list[str]:
    numbers = {
        "base": t.base,
        "logSideSlope": t.log_slope,
        "logSideOffset": t.log_offset,
        "linSideSlope": t.lin_slope,
        "linSideOffset": t.lin_offset,
        "linSideBreak": t.cut,
    }
    if t.linear_slope is not None:
        numbers["linearSlope"] = t.linear_slope
    text = " ".join(f'{k}="{v:.12g}"' for k, v in numbers.items())
    return [
        f'  <Log {_BITS} style="cameraL{"ogToLin" if to_light else "inToLog"}">\n    <LogParams '
        f"{text}/>\n  </Log>"
    ]


#: How the forms of transfer functions are written.
_FORMS: dict[type[Transfer], Callable[[Any, bool], list[str]]] = {
    Power: _power_node,
    ToedPower: _toed_node,
    CameraLog: _camera_node,
}


def _transfer_node(transfer: Transfer, to_light: bool) -> list[str]:
    if transfer.to_light is None:
        return []
    if type(transfer) not in _FORMS:
        raise LookError(
            f"The curve {transfer.name} has no exact form in the Common LUT Format. Bake a table instead."
        )
    return _FORMS[type(transfer)](transfer, to_light)


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
        ]
    if isinstance(step, GridRead):
        return _grid_nodes(step.grid, step.low, step.high, step.interpolation)
    if isinstance(step, ShaperRead):
        return _curve_nodes(np.ascontiguousarray(step.values.T), step.low, step.high)
    if isinstance(step, Clamp) and step.low is not None and step.high is not None:
        limits = "".join(
            f"\n    <{k}>{v:.9g}</{k}>"
            for k, v in (
                ("minInValue", step.low),
                ("maxInValue", step.high),
                ("minOutValue", step.low),
                ("maxOutValue", step.high),
            )
        )
        return [f"  <Range {_BITS}>{limits}\n  </Range>"]
    raise LookError(f"{type(step).__name__} has no exact form in the Common LUT Format.")


def exact_text(
    look: Look, *, tables: Tables = no_tables, title: str = "", comments: tuple[str, ...] = ()
) -> str:
    """The look as exact operations; raises ``LookError`` naming the step where one has no exact form."""
    if look.strength < 1:
        raise LookError(
            "A look at part of its strength has no exact form in the Common LUT Format. Bake a table instead."
        )
    program = Treatment(look).compile(tables)
    given = look.encodings()
    for step in look.steps:
        try:
            for one in operations_of(step, Surroundings(given[step.id], tables)):
                _node_of(one)
        except LookError as error:
            text = (
                f"The step “{step.label or step.title}” has no exact form in the Common LUT Format. Bake "
                "a table instead."
            )
            raise LookError(text) from error
    nodes = [node for one in program.operations for node in _node_of(one)]
    if not nodes:
        nodes = [_matrix_node(np.eye(3), np.zeros(3))]
    return _document(nodes, title, comments, program.source.label, program.end.label)
