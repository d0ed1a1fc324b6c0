"""Two colours that stand for a look where its saucer is too small to see: what it makes of a slip blue and of
a fired clay.

Both are Saucer's own choice: a cold and a warm one of middle lightness, so that warmth, saturation and
brightness are all to be seen.
"""

import numpy as np

from ..look import Look
from ..steps import Tables, no_tables
from .traits import on_screen

#: A blue of the sky, in code values of a standard screen.
BLUE = (0.3, 0.45, 0.68)
#: Fired clay, in code values of a standard screen.
CLAY = (0.76, 0.47, 0.33)


def tones(look: Look, *, tables: Tables = no_tables) -> tuple[str, str]:
    """The blue and the clay as CSS colours of sRGB, ``#rrggbb``. Raises ``LookError``."""
    shown = np.array((BLUE, CLAY), dtype=np.float32)
    blue, clay = (np.clip(on_screen(look, shown, tables), 0, 1) * 255).round().astype(int).tolist()
    return f"#{bytes(blue).hex()}", f"#{bytes(clay).hex()}"
