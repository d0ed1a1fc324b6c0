"""What is otherwise in a delivery than in the one before."""

from collections.abc import Sequence

from .contents import Change
from .snapshots import DeliveredShot

Shots = Sequence[DeliveredShot]


def _names(shots: Shots) -> str:
    more = f" and {len(shots) - 3} more" if len(shots) > 3 else ""
    return ", ".join(s.label for s in shots[:3]) + more


#: What is said where this of a shot is not what it was.
_SAID = {
    "trim": "newly trimmed",
    "encoding": "read in another encoding",
    "digest": "another picture",
    "name": "renamed",
}


def since(before: Shots | None, after: Shots) -> list[Change]:
    """In words, with the ids of the shots they are about; nothing where it is the first."""
    if before is None:
        return []
    was, now = ({s.id: s for s in shots} for shots in (before, after))
    said: list[Change] = []
    new, gone = [s for k, s in now.items() if k not in was], [s for k, s in was.items() if k not in now]
    for found, word in ((new, "new"), (gone, "not in it any more")):
        if found:
            said.append(Change(text=f"{_names(found)}: {word}", shots=tuple(s.id for s in found)))
    both = [(was[k], s) for k, s in now.items() if k in was]
    turned: dict[str, list[int]] = {}
    for old, one in both:
        if old.revisions != one.revisions:
            turned.setdefault(f"{old.words or 'no look'} → {one.words or 'no look'}", []).append(one.id)
    for text, shots in turned.items():
        count = f"{len(shots)} {'shot' if len(shots) == 1 else 'shots'}"
        said.append(Change(text=f"{text}, {count}", shots=tuple(shots)))
    for key, text in _SAID.items():
        changed = [one for old, one in both if getattr(old, key) != getattr(one, key)]
        if changed:
            said.append(Change(text=f"{_names(changed)}: {text}", shots=tuple(s.id for s in changed)))
    same = len(both) - len({i for c in said for i in c.shots} & {s.id for _, s in both})
    said.append(Change(text=f"{same} {'shot' if same == 1 else 'shots'} unchanged", shots=()))
    return said
