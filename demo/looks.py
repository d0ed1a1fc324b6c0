"""The demo team's looks. Each was judged by eye on every frame."""

import copy
import itertools
from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Any

from saucer_core.look import Look

Steps = list[dict[str, Any]]


@dataclass(frozen=True)
class DemoLook:
    """A look with what the catalogue says of it."""

    name: str
    note: str
    tags: tuple[str, ...]
    steps: Steps
    input: str = "bt709_display"
    status: str = "approved"
    maker: str = "ines"
    rights: str = "inside the studio"
    revisions: tuple[str, ...] = field(default=("first state that holds on all frames",))

    def look(self) -> Look:
        """The look itself."""
        steps = _numbered(copy.deepcopy(self.steps), itertools.count(1))
        return Look.model_validate({"input": self.input, "output": "bt709_display", "steps": steps})


def _numbered(steps: Steps, numbers: Iterator[int]) -> Steps:
    """Gives the steps ids by their place, so that the demo is the same on every machine."""
    for one in steps:
        one["id"] = f"step-{next(numbers)}"
        _numbered(one.get("steps", []), numbers)
    return steps


def step(kind: str, label: str = "", **parameters: Any) -> dict[str, Any]:
    """A step without its id."""
    return {"kind": kind, "label": label, **parameters}


def group(label: str, steps: Steps, **common: Any) -> dict[str, Any]:
    """A group of steps."""
    return step("group", label, steps=steps, **common)


LOOKS = (
    DemoLook(
        "Plain print",
        "The house's neutral start: film log rendered for a display, a soft S, colour a little even. "
        "Nothing is tinted.",
        ("neutral", "daylight", "base"),
        [
            step("scene_to_display"),
            step("contrast", amount=1.08, pivot=0.16),
            step("saturation", amount=1.12, even=0.6, skin_guard=0.4),
        ],
        input="film_log",
        revisions=("soft S only", "a little even colour, skin held"),
        rights="to anyone",
    ),
    DemoLook(
        "Ember & Tide",
        "Two opposing hues: amber in the light, sea in the shade. Made for fire and dusk; ease it to 60 % "
        "in daylight.",
        ("two hues", "dusk", "fire"),
        [
            step("exposure", stops=0.15),
            step("scene_to_display", contrast=1.36, white_stops=5.4),
            step(
                "curves",
                red=[[0, 0], [0.25, 0.2], [0.7, 0.77], [1, 1]],
                green=[[0, 0.012], [0.3, 0.285], [0.72, 0.735], [1, 0.985]],
                blue=[[0, 0.05], [0.3, 0.33], [0.7, 0.62], [1, 0.88]],
            ),
            group(
                "Opposition",
                [
                    step(
                        "zone_tint",
                        shadows={"hue": 215, "amount": 0.3, "saturation": -0.1},
                        midtones={"hue": 68, "amount": 0.08},
                        highlights={"hue": 75, "amount": 0.16},
                        low_crossover=0.44,
                        high_crossover=0.76,
                        overlap=0.2,
                    ),
                    step("saturation", amount=1.12, even=0.9, skin_guard=0.5),
                ],
                strength=0.85,
            ),
            step("encode", fit=True),
        ],
        input="film_log",
        revisions=("curves and tint", "tint grouped so that it eases as one", "skin guarded"),
    ),
    DemoLook(
        "North window",
        "Cool and still, like a shelf under a north light. Muted colour, gentle contrast, whites that "
        "lean to blue.",
        ("cool", "window", "muted"),
        [
            step("balance", temperature=-30, tint=-6),
            step("contrast", amount=0.94, pivot=0.2),
            step("saturation", amount=0.74, skin_guard=0.35),
            step(
                "zone_tint",
                shadows={"hue": 245, "amount": 0.1, "lightness": 0.06},
                highlights={"hue": 215, "amount": 0.1},
            ),
        ],
        revisions=("cooler", "less blue in the skin"),
    ),
    DemoLook(
        "Faded card",
        "A print that hung in the sun: lifted blacks with plum in them, whites gone to cream, "
        "colour thinned.",
        ("faded", "print", "warm"),
        [
            step("saturation", amount=0.72),
            step(
                "curves",
                all=[[0, 0.09], [0.25, 0.285], [0.7, 0.72], [1, 0.93]],
                red=[[0, 0.035], [0.5, 0.515], [1, 1]],
                green=[[0, 0], [0.5, 0.49], [1, 0.985]],
                blue=[[0, 0.045], [0.5, 0.475], [1, 0.88]],
            ),
            step("zone_tint", shadows={"hue": 335, "amount": 0.12}, highlights={"hue": 88, "amount": 0.08}),
        ],
        status="in review",
        maker="tomas",
        rights="ask first",
    ),
    DemoLook(
        "Cross bath",
        "A chemical cross-over: S in red and green, reversed S in blue. Blue blacks, yellow whites, colour "
        "that shouts.",
        ("cross-over", "hard", "campaign"),
        [
            step(
                "curves",
                "Cross-over",
                red=[[0, 0], [0.25, 0.15], [0.5, 0.52], [0.75, 0.87], [1, 1]],
                green=[[0, 0], [0.25, 0.19], [0.5, 0.51], [0.75, 0.82], [1, 1]],
                blue=[[0, 0.13], [0.25, 0.31], [0.75, 0.66], [1, 0.8]],
            ),
            step("saturation", amount=1.12, skin_guard=0.3),
        ],
        rights="inside the project",
    ),
    DemoLook(
        "Night slip",
        "Night made from day: two stops down, the colour drained to slip blue, lamps and fire keep "
        "some warmth.",
        ("night", "blue", "dark"),
        [
            step("exposure", stops=-1.7),
            step("saturation", amount=0.5, even=0.5),
            step(
                "channel_mix",
                red={"green": 0.12, "blue": 0.06},
                green={"red": 0.04, "blue": 0.1},
                blue={"green": 0.06},
            ),
            step(
                "zone_tint",
                shadows={"hue": 258, "amount": 0.28},
                midtones={"hue": 250, "amount": 0.3},
                highlights={"hue": 235, "amount": 0.1},
                low_crossover=0.3,
                high_crossover=0.7,
                overlap=0.24,
            ),
            step("curves", all=[[0, 0.012], [0.3, 0.27], [0.6, 0.66], [1, 1]]),
        ],
        revisions=("two stops down", "1.7 stops, lamps kept"),
    ),
    DemoLook(
        "Ash",
        "Nearly without colour, hard and grey: only the strongest reds are still felt. For texture "
        "and hands.",
        ("monochrome", "hard", "texture"),
        [
            step(
                "channel_mix",
                red={"green": 0.2, "blue": -0.08},
                green={"red": 0.16},
                blue={"red": 0.1, "green": 0.22},
            ),
            step("saturation", amount=0.1),
            step(
                "curves",
                all=[[0, 0], [0.22, 0.13], [0.5, 0.5], [0.76, 0.88], [1, 1]],
            ),
            step("zone_tint", shadows={"hue": 60, "amount": 0.03}, highlights={"hue": 95, "amount": 0.025}),
        ],
    ),
    DemoLook(
        "Oxide",
        "Iron in the glaze: warm all through, red in the shadows, greens pulled toward rust.",
        ("warm", "red shadows", "interior"),
        [
            step("balance", temperature=26, tint=4),
            step(
                "channel_mix",
                red={"green": 0.14, "blue": -0.06},
                green={"red": 0.08, "blue": -0.02},
                blue={"green": 0.1},
            ),
            step(
                "curves",
                all=[[0, 0.01], [0.25, 0.21], [0.72, 0.77], [1, 0.99]],
                red=[[0, 0.045], [0.5, 0.51], [1, 1]],
                blue=[[0, 0.005], [0.5, 0.46], [1, 0.93]],
            ),
            step("zone_tint", shadows={"hue": 32, "amount": 0.14}, highlights={"hue": 82, "amount": 0.08}),
        ],
        status="draft",
        maker="tomas",
    ),
    DemoLook(
        "Late straw",
        "The last hour before dusk: low sun over straw, long soft highlights, shadows only a breath "
        "of violet.",
        ("warm", "dusk", "soft"),
        [
            step("exposure", stops=0.12),
            step("scene_to_display", contrast=1.2, grey=0.14, white_stops=5.8),
            step("balance", temperature=24),
            step(
                "zone_tint",
                shadows={"hue": 305, "amount": 0.09, "lightness": 0.05},
                midtones={"hue": 75, "amount": 0.05},
                highlights={"hue": 85, "amount": 0.2, "saturation": 0.15},
                high_crossover=0.7,
            ),
            step("saturation", amount=1.1, even=0.4, skin_guard=0.3),
        ],
        input="film_log",
    ),
    DemoLook(
        "Celadon wash",
        "A pale green wash laid over, as if seen through thin glaze. High key, low contrast, quiet skin.",
        ("pale", "green", "high key"),
        [
            step("levels", all={"gamma": 1.12, "out_black": 0.06, "out_white": 0.98}),
            group(
                "Wash",
                [
                    step("saturation", amount=0.35),
                    step("zone_tint", overall={"hue": 165, "amount": 0.32, "lightness": 0.12}),
                ],
                strength=0.5,
                blend="soft_light",
            ),
            step("saturation", amount=0.86, skin_guard=0.4),
            step("zone_tint", shadows={"hue": 178, "amount": 0.16}, highlights={"hue": 140, "amount": 0.05}),
        ],
        status="in review",
    ),
)

#: Borrowed into the catalogue as a file, to be used inside looks.
BROUGHT_IN = DemoLook(
    "Second firing",
    "",
    (),
    [
        step("contrast", amount=1.3, pivot=0.14),
        step(
            "zone_tint",
            shadows={"hue": 190, "amount": 0.22},
            midtones={"hue": 55, "amount": 0.12},
            highlights={"hue": 60, "amount": 0.25},
        ),
        step("saturation", amount=1.15, even=0.3),
    ],
)
