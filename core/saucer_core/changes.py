"""What differs between two looks, in words: for revisions, and for variations of a look."""

from dataclasses import dataclass
from typing import Any, Literal

from pydantic import BaseModel

from .encodings import encoding
from .look import Group, Look, every_step
from .steps import Step

#: A part of a JSON Schema.
Schema = dict[str, Any]
What = Literal["added", "removed", "moved", "changed", "ends", "strength", "finish"]


@dataclass(frozen=True)
class Change:
    """One difference: its kind, the step it is about (empty for the look itself), and a sentence."""

    what: What
    step: str
    text: str


def _name(step: Step) -> str:
    return step.label or step.title


def _shown(value: Any, declared: Schema) -> str:
    if isinstance(value, bool):
        return "on" if value else "off"
    if isinstance(value, int | float):
        unit = declared.get("unit", "")
        return f"{value * declared.get('scale', 1.0):.4g}{f' {unit}' if unit else ''}"
    return str(value)


def _values(step: Step, declared: Schema, other: Step) -> list[str]:
    """The parameters that differ: short ones with both values, lists and parts by name."""
    found = []
    for name in type(step).model_fields:
        before, after = getattr(step, name), getattr(other, name)
        if name in ("id", "kind", "steps") or before == after:
            continue
        field = declared.get("properties", {}).get(name, {})
        label = field.get("label") or field.get("title") or name.replace("_", " ")
        if name == "on":
            found.append(f"switched {'on' if after else 'off'}")
        elif (
            isinstance(before, int | float | str)
            and isinstance(after, int | float | str)
            and len(f"{before}{after}") < 60
        ):
            found.append(
                f"{label.lower()} {_shown(before, field) or 'none'} → {_shown(after, field) or 'none'}"
            )
        else:
            found.append(f"{label.lower()} changed")
    return found


def in_words(step: Step, most: int = 4) -> str:
    """The parameters of a step that do something, the first ``most``: numbers with their units, curves by
    their points."""
    found: list[str] = []
    declared = type(step).declared()
    neutral = type(step)(id=step.id)

    def walk(part: Any, other: Any, properties: Schema, lead: str) -> None:
        for name in type(part).model_fields:
            value, usual = getattr(part, name), getattr(other, name, None)
            field = properties.get(name, {})
            named = field.get("label") or field.get("title") or name.replace("_", " ")
            label = f"{lead} {named.lower()}".strip()
            if name in ("id", "kind", "label", "steps", "name") or value == usual:
                continue
            if isinstance(value, list):
                found.append(
                    f"{label} {len(value)} {'points' if value and isinstance(value[0], tuple) else 'parts'}"
                )
            elif isinstance(value, BaseModel):
                walk(value, usual, type(value).model_json_schema().get("properties", {}), label)
            else:
                found.append(f"{label} {_shown(value, field)}")

    walk(step, neutral, declared.get("properties", {}), "")
    return ", ".join(found[:most]) + (f" and {len(found) - most} more" if len(found) > most else "")


def _places(look: Look) -> dict[str, str]:
    """For each step the group it is in."""
    return {s.id: g.id for g in every_step(look.steps) if isinstance(g, Group) for s in g.steps}


def _moved(before: list[str], after: list[str]) -> set[str]:
    """The fewest steps whose moving turns one order into the other: all that are not in a longest common run
    of both."""
    n, m = len(before), len(after)
    best = [[0] * (m + 1) for _ in range(n + 1)]
    for i in range(n - 1, -1, -1):
        for j in range(m - 1, -1, -1):
            best[i][j] = (
                best[i + 1][j + 1] + 1 if before[i] == after[j] else max(best[i + 1][j], best[i][j + 1])
            )
    i = j = 0
    still: set[str] = set()
    while i < n and j < m:
        if before[i] == after[j]:
            still.add(before[i])
            i, j = i + 1, j + 1
        elif best[i + 1][j] >= best[i][j + 1]:
            i += 1
        else:
            j += 1
    return set(before) - still


def changes(before: Look, after: Look) -> list[Change]:
    """From one look to another, top to bottom. Steps are the same where their ids are."""
    found: list[Change] = []
    for end, words in (("input", "Comes in as"), ("output", "Goes out as")):
        old, new = getattr(before, end), getattr(after, end)
        if old != new:
            found.append(
                Change("ends", "", f"{words} {encoding(new).label} instead of {encoding(old).label}")
            )
    olds = {s.id: s for s in every_step(before.steps)}
    news = {s.id: s for s in every_step(after.steps)}
    common = [k for k in news if k in olds]
    places = _places(before), _places(after)
    moved = _moved([k for k in olds if k in news], common) | {
        k for k in common if places[0].get(k) != places[1].get(k)
    }
    for key, step in news.items():
        old = olds.get(key)
        if old is None:
            found.append(Change("added", key, f"{_name(step)} added"))
            continue
        if old.kind != step.kind:  # type: ignore[attr-defined]
            found.append(Change("changed", key, f"{_name(old)} became {_name(step)}"))
            continue
        if key in moved:
            found.append(Change("moved", key, f"{_name(step)} moved"))
        if differing := _values(old, type(step).declared(), step):
            found.append(Change("changed", key, f"{_name(step)}: {', '.join(differing)}"))
    found += [Change("removed", k, f"{_name(s)} removed") for k, s in olds.items() if k not in news]
    if before.strength != after.strength:
        found.append(
            Change("strength", "", f"Strength of the look {before.strength:.0%} → {after.strength:.0%}")
        )
    for name in type(before.finish).model_fields:
        if getattr(before.finish, name) != getattr(after.finish, name):
            found.append(Change("finish", "", f"{name.replace('_', ' ').capitalize()} in the finish changed"))
    return found
