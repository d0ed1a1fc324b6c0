"""Each app's rows are asked for by its own modules alone; others call its functions."""

import ast
import re
from pathlib import Path

import saucer_core
import saucer_server
from saucer_server.api import api

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


def test_what_is_passed_on_has_a_type():
    """A dictionary of anything is declared once, under a name, with the reason beside it."""
    loose = []
    for path in [*HERE.rglob("*.py"), *Path(saucer_core.__file__).parent.rglob("*.py")]:
        lines = path.read_text().splitlines()
        if "migrations" in path.parts or path.name == "settings.py":
            continue
        for k, line in enumerate(lines):
            named = re.match(r"[A-Z]\w+ = dict\[str, Any\]$", line) and lines[k - 1].startswith("#")
            # The web framework's own signature.
            theirs = "path_params: dict[str, Any]" in line
            if "dict[str, Any]" in line and not named and not theirs:
                loose.append(f"{path.name}:{k + 1}")
    assert not loose, "give it a model, or a name with its reason: " + ", ".join(loose)


def test_every_route_says_what_it_takes_and_gives():
    untyped = []
    for path, operations in api.get_openapi_schema()["paths"].items():
        for method, operation in operations.items():
            taken = operation.get("requestBody", {}).get("content", {})
            given = [answer for code, answer in operation["responses"].items() if str(code) != "204"]
            schemas = [part.get("schema") for answer in given for part in answer.get("content", {}).values()]
            untyped += [f"{method} {path}"] * (
                any(not part.get("schema") for part in taken.values())
                or any(not answer.get("content") for answer in given)
                or any(not schema or set(schema) <= {"title"} for schema in schemas)
            )
    assert not untyped, untyped
