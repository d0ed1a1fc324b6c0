"""Two colours that stand for a look where its saucer is too small to see: what it makes of a dark and of a light grey."""

import numpy as np

from ..look import Look
from ..steps import Tables, no_tables
from .traits import on_screen

GREYS = (0.3, 0.75)


def tones(look: Look, *, tables: Tables = no_tables) -> tuple[str, str]:
    """The dark and the light one as CSS colours of sRGB, ``#rrggbb``. Raises ``LookError``."""
    shown = np.repeat(np.array(GREYS, dtype=np.float32)[:, None], 3, axis=1)
    dark, light = (np.clip(on_screen(look, shown, tables), 0, 1) * 255).round().astype(int).tolist()
    return f"#{bytes(dark).hex()}", f"#{bytes(light).hex()}"
