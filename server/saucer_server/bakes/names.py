"""What files are called when somebody takes them away."""

from ..fields import safe_name

#: The parts that a name can be made of.
PARTS = ("look", "revision", "in", "out", "grid", "method", "maker")
USUAL = ("look", "revision", "out", "grid")
#: What tells files of the same suffix apart.
KINDS = {"cube_1d": "1d", "clf_exact": "exact"}


def named(parts: tuple[str, ...], values: dict[str, str], key: str, suffix: str) -> str:
    """The file's name: its parts in order, joined by underscores; parts that have no value here are left
    out."""
    said = [values[part] for part in parts if values.get(part)]
    if key in KINDS:
        said.append(KINDS[key])
    return f"{safe_name('_'.join(said))}{suffix}"
