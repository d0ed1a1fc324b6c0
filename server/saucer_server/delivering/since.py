"""What is otherwise in a delivery than in the one before."""

from collections.abc import Sequence
from typing import Any

Shots = Sequence[dict[str, Any]]


def _looks(shot: dict[str, Any]) -> str:
    return str(shot["words"]) or "no look"


def _names(shots: Shots) -> str:
    more = f" and {len(shots) - 3} more" if len(shots) > 3 else ""
    return ", ".join(f"{s['number']} {s['name']}" for s in shots[:3]) + more


#: What is said where this of a shot is not what it was.
_SAID = {
    "trim": "newly trimmed",
    "encoding": "read in another encoding",
    "digest": "another picture",
    "name": "renamed",
}


def since(before: Shots | None, after: Shots) -> list[dict[str, Any]]:
    """In words, with the ids of the shots they are about; nothing where it is the first."""
    if before is None:
        return []
    was, now = ({s["id"]: s for s in shots} for shots in (before, after))
    said: list[dict[str, Any]] = []

    def say(text: str, shots: list[int]) -> None:
        said.append({"text": text, "shots": shots})

    new, gone = [s for k, s in now.items() if k not in was], [s for k, s in was.items() if k not in now]
    for found, word in ((new, "new"), (gone, "not in it any more")):
        if found:
            say(f"{_names(found)}: {word}", [s["id"] for s in found])
    both = [(was[k], s) for k, s in now.items() if k in was]
    turned: dict[str, list[int]] = {}
    for old, one in both:
        if old["layers"] != one["layers"]:
            turned.setdefault(f"{_looks(old)} → {_looks(one)}", []).append(one["id"])
    for text, shots in turned.items():
        say(f"{text}, {len(shots)} {'shot' if len(shots) == 1 else 'shots'}", shots)
    for key, text in _SAID.items():
        changed = [one for old, one in both if old[key] != one[key]]
        if changed:
            say(f"{_names(changed)}: {text}", [s["id"] for s in changed])
    same = len(both) - len({i for c in said for i in c["shots"]} & {s["id"] for _, s in both})
    say(f"{same} {'shot' if same == 1 else 'shots'} unchanged", [])
    return said
