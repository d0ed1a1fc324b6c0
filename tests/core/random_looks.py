"""Random looks for the laws of the core."""

from typing import Any

import numpy as np
from hypothesis import strategies as st
from saucer_core.look import Look
from saucer_core.lut.lut import Lut, identity_grid
from saucer_core.steps import KINDS

ENCODINGS = ["srgb", "bt709_display", "linear_709", "film_log"]
BLENDS = ["normal", "multiply", "screen", "overlay", "soft_light"]


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
    return st.fixed_dictionaries({k: _ranged(v) for k, v in schema["properties"].items()})


def _fields(kind: Any) -> dict[str, st.SearchStrategy[Any]]:
    schema = kind.declared()
    found: dict[str, st.SearchStrategy[Any]] = {}
    for name, field in schema["properties"].items():
        if "fine" in field:
            found[name] = _ranged(field)
        elif field.get("type") == "boolean":
            found[name] = st.booleans()
        elif name in ("all", "red", "green", "blue", "luma") and field.get("type") == "array":
            found[name] = _points()
        elif "$ref" in field or "$ref" in (field.get("allOf") or [{}])[0]:
            ref = field.get("$ref") or field["allOf"][0]["$ref"]
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
        return st.just({"kind": "scene_to_display"})
    if key == "lut":
        return st.sampled_from(ENCODINGS).map(lambda e: {"kind": "lut", "table": LUT.digest(), "expects": e, "gives": e})
    return st.fixed_dictionaries(_fields(kind)).map(lambda f: {"kind": key, **f}).filter(_sound)


SINGLE = [k for k in KINDS if k.model_fields["kind"].default != "group"]
ANY_STEP = st.one_of([steps_of(k) for k in SINGLE])


def with_group(steps: list[dict[str, Any]]) -> st.SearchStrategy[list[dict[str, Any]]]:
    """The steps, some of them inside a group."""
    return st.integers(0, len(steps)).map(
        lambda n: [*steps[:n], {"kind": "group", "steps": steps[n:], "strength": 0.6}] if n < len(steps) else steps
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
