"""Random looks for the laws of the core."""

from typing import Any

import numpy as np
from hypothesis import strategies as st
from saucer_core.look import KINDS, Look
from saucer_core.operations import apply
from saucer_core.program import operations_of
from saucer_core.steps import Step, Surroundings
from saucer_core.steps.blend import BLENDS
from saucer_core.tables.lut import Lut, identity_grid

ENCODINGS = [
    "srgb",
    "bt709_display",
    "bt709_camera",
    "bt2020_display",
    "pq",
    "hlg",
    "display_p3",
    "dci_p3",
    "oprgb",
    "linear_709",
    "acescg",
    "acescct",
    "film_log",
]


def table() -> Lut:
    """A small table that is not the identity."""
    return Lut(np.ascontiguousarray(identity_grid(5)[..., ::-1] ** np.float32(1.3)))


LUT = table()


def tables(digest: str) -> Lut | None:
    """The supply of borrowed tables."""
    return LUT if digest == LUT.digest() else None


def _ranged(schema: dict[str, Any]) -> st.SearchStrategy[float]:
    return st.floats(schema["minimum"], schema["maximum"])


def _points() -> st.SearchStrategy[list[list[float]]]:
    xs = st.lists(st.integers(0, 100), min_size=2, max_size=6, unique=True).map(sorted)
    return xs.flatmap(
        lambda x: st.lists(st.floats(-0.2, 1.2), min_size=len(x), max_size=len(x)).map(
            lambda y: [[a / 100, b] for a, b in zip(x, y, strict=True)]
        )
    )


def _part(schema: dict[str, Any]) -> st.SearchStrategy[dict[str, float]]:
    return st.fixed_dictionaries({k: _ranged(v) for k, v in schema["properties"].items() if "fine" in v})


def _list_of(low: float, high: float, x_high: float) -> st.SearchStrategy[list[list[float]]]:
    xs = st.lists(st.integers(0, 100), max_size=5, unique=True).map(sorted)
    return xs.flatmap(
        lambda x: st.lists(st.floats(low, high), min_size=len(x), max_size=len(x)).map(
            lambda y: [[a / 100 * x_high, b] for a, b in zip(x, y, strict=True)]
        )
    )


def _stops(schema: dict[str, Any]) -> st.SearchStrategy[list[dict[str, Any]]]:
    colour = _part(schema["$defs"]["Colour"])
    return st.lists(colour, min_size=2, max_size=5).map(
        lambda found: [{"at": k / (len(found) - 1), "colour": c} for k, c in enumerate(found)]
    )


LISTS = {
    "hue_hue": _list_of(-180, 180, 359),
    "hue_saturation": _list_of(0, 3, 359),
    "hue_lightness": _list_of(-1, 1, 359),
    "lightness_saturation": _list_of(0, 3, 1),
    "saturation_saturation": _list_of(0, 3, 1),
}


def _fields(kind: Any) -> dict[str, st.SearchStrategy[Any]]:
    schema = kind.declared()
    found: dict[str, st.SearchStrategy[Any]] = {}
    for name, field in schema["properties"].items():
        ref = field.get("$ref") or (field.get("allOf") or [{}])[0].get("$ref")
        if "fine" in field:
            found[name] = _ranged(field)
        elif field.get("type") == "boolean":
            found[name] = st.booleans()
        elif name == "ranges":
            found[name] = st.lists(_part(schema["$defs"]["HueRange"]), max_size=4)
        elif name == "stops":
            found[name] = _stops(schema)
        elif name in LISTS:
            found[name] = LISTS[name]
        elif field.get("type") == "array":
            found[name] = _points()
        elif ref:
            found[name] = _part(schema["$defs"][ref.rpartition("/")[2]])
    if schema["properties"]["kind"]["const"] == "curves":
        found["interpolation"] = st.sampled_from(["monotone", "smooth", "straight"])
    found["blend"] = st.sampled_from(BLENDS)
    return found


def _sound(step: dict[str, Any]) -> bool:
    try:
        Look.model_validate({"steps": [step]})
    except ValueError:
        return False
    return True


def steps_of(kind: Any) -> st.SearchStrategy[dict[str, Any]]:
    """Random steps of one kind; encodings stay those of the look."""
    key = kind.model_fields["kind"].default
    if key == "encode":
        return st.sampled_from(ENCODINGS).map(lambda to: {"kind": "encode", "to": to})
    if key == "scene_to_display":
        return st.sampled_from(["srgb", "display_p3", "bt2020_display"]).map(
            lambda to: {"kind": "scene_to_display", "to": to}
        )
    if key == "look":
        inner = {
            "input": "film_log",
            "output": "srgb",
            "steps": [{"kind": "scene_to_display", "to": "srgb"}, {"kind": "contrast", "amount": 1.2}],
        }
        return st.floats(0, 1).map(lambda s: {"kind": "look", "look": inner, "strength": s})
    if key == "lut":
        return st.sampled_from(ENCODINGS).map(
            lambda e: {"kind": "lut", "table": LUT.digest(), "expects": e, "gives": e}
        )
    return st.fixed_dictionaries(_fields(kind)).map(lambda f: {"kind": key, **f}).filter(_sound)


SINGLE = [k for k in KINDS if k.model_fields["kind"].default != "group"]
ANY_STEP = st.one_of([steps_of(k) for k in SINGLE])


def with_group(steps: list[dict[str, Any]]) -> st.SearchStrategy[list[dict[str, Any]]]:
    """The steps, some of them inside a group."""
    return st.integers(0, len(steps)).map(
        lambda n: (
            [*steps[:n], {"kind": "group", "steps": steps[n:], "strength": 0.6}] if n < len(steps) else steps
        )
    )


@st.composite
def looks(draw: st.DrawFn) -> Look:
    """A whole random look; its output is wherever its steps end."""
    steps = draw(st.lists(ANY_STEP, max_size=5).flatmap(with_group))
    look = Look.model_validate({"input": draw(st.sampled_from(ENCODINGS)), "steps": steps})
    return look.model_copy(update={"output": look.end().key})


def colours(n: int = 400, low: float = -0.1, high: float = 1.2) -> np.ndarray:
    """Colours in and a little outside 0–1, black, white and greys among them."""
    rng = np.random.default_rng(7)
    rgb = rng.uniform(low, high, (n, 3)).astype(np.float32)
    rgb[:11] = np.linspace(0, 1, 11, dtype=np.float32)[:, None]
    return rgb


def through_step(step: Step, rgb: np.ndarray, at: Surroundings) -> np.ndarray:
    """Colours through one step with its switch, blend and strength."""
    return apply(operations_of(step, at), rgb)
