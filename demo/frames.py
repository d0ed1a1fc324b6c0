"""The frames people see, made from the rendered scenes: some for a display, some in film log, some linear."""

from dataclasses import dataclass, field
from pathlib import Path

import numpy as np
from saucer_core.encodings import encoding, meet
from saucer_core.formats import pictures
from saucer_core.trim import Trim

from .chart import chart

SCENES = Path(__file__).parent / "scenes"


@dataclass(frozen=True)
class DemoFrame:
    """One frame: where it comes from, how it is encoded and kept, and the trim it wants."""

    name: str
    light: str
    scene: str
    encoding: str
    file: str
    trim: Trim = field(default_factory=Trim)
    #: Stops given before the picture was rendered for a display, as a camera would.
    exposed: float = 0.0


FRAMES = (
    DemoFrame("Clay heads", "window", "clay_heads", "film_log", "clay_heads.png", Trim(exposure=1.0)),
    DemoFrame("Kiln mouth, night", "fire", "kiln_night", "film_log", "kiln_night.tif", Trim(exposure=0.7)),
    DemoFrame("North shelf", "window", "north_shelf", "film_log", "north_shelf.png", Trim(exposure=0.5)),
    DemoFrame("Yard, noon", "noon", "yard_noon", "srgb", "yard_noon.jpg"),
    DemoFrame("Yard, dusk", "dusk", "yard_dusk", "linear_709", "yard_dusk.exr", Trim(exposure=0.9)),
    DemoFrame("Glaze table", "window", "glaze_table", "srgb", "glaze_table.png"),
    DemoFrame(
        "Wheel by the window", "window", "wheel_window", "bt709_display", "wheel_window.png", exposed=1.0
    ),
)


def make(frame: DemoFrame, folder: Path) -> Path:
    """Writes the frame's file; EXR half float, TIFF and log PNG 16 bit, JPEG and sRGB PNG 8 bit."""
    scene, _ = pictures.read(SCENES / f"{frame.scene}.exr")
    light = scene * np.float32(2**frame.exposed)
    source, target = encoding("linear_709"), encoding(frame.encoding)
    rgb = meet(light, source, target)
    path = folder / frame.file
    pictures.write(path, rgb, "uint8" if frame.encoding == "srgb" else None)
    return path


def make_chart(folder: Path) -> Path:
    """Writes the test chart, sRGB, 16 bit."""
    path = folder / "test_chart.png"
    pictures.write(path, chart())
    return path
