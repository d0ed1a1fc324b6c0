"""What a look does on one picture, for a file: its saucer, the grey axis, and slices of the cube."""

import numpy as np

from ..arrays import F32
from ..look import Look
from ..steps import Tables, no_tables
from ..steps.traced import ramp
from ..treatment import Treatment
from .cloud import slices
from .portrait import portrait

#: Code value of the grey behind everything.
GROUND = 0.09
#: Pixels: height of the saucer and the grey axis.
TOP = 300
#: Pixels between them.
ROOM = 20
#: Pixels: height of a row of slices.
ROW = 120
_LINES = ((0.89, 0.49, 0.44), (0.49, 0.77, 0.54), (0.49, 0.61, 0.92))


def sheet(look: Look, *, tables: Tables = no_tables) -> F32:
    """Float32 ``(height, width, 3)`` in sRGB. Above the saucer and the grey axis (red, green, blue; dotted:
    nothing changed), below six slices each by red, green, blue and lightness, the corner showing them before.
    Raises ``LookError``.
    """
    rows = [slices(look, by, tables=tables, size=ROW)[0] for by in ("red", "green", "blue", "lightness")]
    width = rows[0].shape[1] + 2 * ROOM
    out = np.full((TOP + 2 * ROOM + len(rows) * (ROW + ROOM), width, 3), GROUND, np.float32)
    saucer = portrait(look, TOP, tables=tables).astype(np.float32) / 255
    place = out[ROOM : ROOM + TOP, ROOM : ROOM + TOP]
    place[:] = saucer[..., :3] * saucer[..., 3:] + place * (1 - saucer[..., 3:])
    out[ROOM : ROOM + TOP, -ROOM - TOP : -ROOM] = _axis(look, tables)
    for k, row in enumerate(rows):
        top = TOP + 2 * ROOM + k * (ROW + ROOM)
        out[top : top + ROW, ROOM:-ROOM] = row
    return out


def _axis(look: Look, tables: Tables) -> F32:
    out = np.full((TOP, TOP, 3), 0.05, np.float32)
    for k in (1, 2, 3):
        out[k * TOP // 4], out[:, k * TOP // 4] = 0.2, 0.2
    across = np.arange(TOP)
    dots = across[across % 8 < 3]
    out[TOP - 1 - dots, dots] = 0.45
    made = Treatment(look).compile(tables)(ramp(TOP))
    rows = np.arange(TOP)[:, None]
    for channel, colour in enumerate(_LINES):
        at = (1 - np.clip(made[:, channel], 0, 1)) * (TOP - 1)
        # As wide upright as the line runs steeply, so that it does not break.
        reach = 1 + np.abs(np.gradient(at)) / 2
        cover = np.clip(reach - np.abs(rows - at), 0, 1)[..., None].astype(np.float32)
        out = out * (1 - cover) + np.array(colour, np.float32) * cover
    return out
