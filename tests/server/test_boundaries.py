"""Each app's rows are asked for by its own modules alone; others call its functions."""

import ast
from pathlib import Path

import saucer_server

HERE = Path(saucer_server.__file__).parent
MANAGERS = {"objects", "_base_manager", "_default_manager"}


def models() -> dict[str, str]:
    """Every model, and the app that it belongs to."""
    found = {}
    for path in HERE.glob("*/models.py"):
        for node in ast.parse(path.read_text()).body:
            if isinstance(node, ast.ClassDef):
                found[node.name] = path.parent.name
    return found


def test_no_app_asks_for_the_rows_of_another_one():
    owner = models()
    assert owner["Look"] == "looks"
    foreign = []
    for path in HERE.rglob("*.py"):
        place = path.relative_to(HERE)
        if "migrations" in place.parts:
            continue
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.Attribute) and node.attr in MANAGERS:
                of = node.value.id if isinstance(node.value, ast.Name) else getattr(node.value, "attr", "")
                if owner.get(of, place.parts[0]) != place.parts[0]:
                    foreign.append(f"{place}:{node.lineno} {of}.{node.attr}")
    assert not foreign, "ask the app's own functions: " + ", ".join(foreign)
