"""Many plausible looks from a seed: what a catalogue of years may hold. Each is made of the steps a designer
would reach for first."""

from collections.abc import Iterator
from typing import Any

import numpy as np
from saucer_core.checks import checks
from saucer_core.look import Look

from .looks import DemoLook, step

_FIRST = (
    "Bisque",
    "Slip",
    "Ochre",
    "Celadon",
    "Tenmoku",
    "Ash",
    "Kiln",
    "Wheel",
    "Clay",
    "Straw",
    "Chalk",
    "Cobalt",
    "Iron",
    "Salt",
    "Raku",
    "Umber",
    "Shard",
    "Wax",
    "Ember",
    "Smoke",
    "Oxide",
    "Loam",
    "Flint",
    "Grog",
    "Sienna",
    "Copper",
    "Dusk",
    "Frost",
    "Rain",
    "Amber",
    "Juniper",
    "Fog",
    "Lime",
    "Moss",
    "Plum",
    "Quartz",
    "Rust",
    "Sand",
    "Tide",
    "Wood",
)
_SECOND = (
    "bowl",
    "glaze",
    "morning",
    "yard",
    "shelf",
    "window",
    "firing",
    "card",
    "door",
    "well",
    "table",
    "road",
    "roof",
    "wall",
    "print",
    "evening",
    "harbour",
    "field",
    "lamp",
    "cellar",
    "garden",
    "hour",
    "lid",
    "rim",
    "foot",
    "spout",
    "saucer",
    "jar",
    "pitcher",
    "tile",
)
_LIGHT = ("noon", "dusk", "window", "fire", "night")
_USE = ("interior", "campaign", "print", "texture", "base", "film", "hands", "catalogue", "yard", "detail")


def _steps(draw: np.random.Generator) -> list[dict[str, Any]]:
    def some(spread: float) -> float:
        return round(float(draw.normal(0, spread)), 3)

    hue = float(draw.uniform(0, 360))
    found: list[dict[str, Any]] = []
    if draw.random() < 0.5:
        found.append(
            step(
                "balance",
                temperature=float(np.clip(some(16), -60, 60)),
                tint=float(np.clip(some(6), -30, 30)),
            )
        )
    if draw.random() < 0.35:
        found.append(step("exposure", stops=float(np.clip(some(0.4), -1.6, 1.0))))
    if draw.random() < 0.8:
        found.append(step("contrast", amount=float(np.clip(1 + some(0.16), 0.6, 1.6)), pivot=0.18))
    if draw.random() < 0.35:
        low, high = abs(some(0.05)), 1 - abs(some(0.05))
        blue = some(0.04)
        found.append(
            step(
                "curves",
                all=[[0, low], [0.5, 0.5], [1, high]],
                blue=[[0, 0], [0.5, 0.5 - blue], [1, 1 - abs(blue)]],
            )
        )
    if draw.random() < 0.6:
        found.append(
            step(
                "zone_tint",
                shadows={"hue": round(hue, 1), "amount": round(min(abs(some(0.14)), 0.4), 3)},
                highlights={
                    "hue": round((hue + float(draw.normal(170, 40))) % 360, 1),
                    "amount": round(min(abs(some(0.1)), 0.35), 3),
                },
            )
        )
    mono = draw.random() < 0.05
    found.append(
        step("saturation", amount=0.05 if mono else float(np.clip(1 + some(0.2), 0.3, 1.7)), skin_guard=0.3)
    )
    return found


def many(count: int, seed: int = 11) -> Iterator[DemoLook]:
    """So many looks, the same ones for the same seed, in which the checks find nothing wrong. Each name ends
    in its number."""
    draw = np.random.default_rng(seed)
    made = 0
    while made < count:
        words = f"{_FIRST[int(draw.integers(len(_FIRST)))]} {_SECOND[int(draw.integers(len(_SECOND)))]}"
        tags = (
            str(draw.choice(_LIGHT)),
            *(str(t) for t in draw.choice(_USE, int(draw.integers(0, 3)), replace=False)),
        )
        status = str(draw.choice(["approved", "draft", "in review", "retired"], p=[0.62, 0.22, 0.1, 0.06]))
        maker = str(draw.choice(["ines", "tomas"]))
        found = DemoLook(f"{words} {made + 1}", "", tags, _steps(draw), status=status, maker=maker)
        if sound(found.look()):
            made += 1
            yield found


def sound(look: Look) -> bool:
    """Whether the core's checks warn of nothing, without pictures to look at."""
    return all(found.note for found in checks(look))
