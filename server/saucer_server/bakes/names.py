"""What files are called when somebody takes them away."""

import re
import unicodedata

#: What no file system of the usual machines takes in a name.
_FORBIDDEN = re.compile(r'[<>:"/\\|?*\x00-\x1f\x7f]+')
#: Names that Windows keeps for devices.
_DEVICES = re.compile(r"(con|prn|aux|nul|com\d|lpt\d)$", re.IGNORECASE)
#: Bytes of a name in UTF-8; file systems take 255, suffix and copies' numbers included.
LONGEST = 160


def safe_name(name: str) -> str:
    """A name as it is, but for what file systems refuse: that becomes a dash."""
    kept = _FORBIDDEN.sub("-", unicodedata.normalize("NFC", name))
    kept = re.sub(r"\s+", " ", kept).strip(" .-")
    kept = kept.encode()[:LONGEST].decode(errors="ignore").strip(" .-")
    if not kept:
        return "look"
    return f"{kept}-" if _DEVICES.match(kept) else kept


#: The parts that a name can be made of.
PARTS = ("look", "revision", "in", "out", "grid", "method", "maker")
USUAL = ("look", "revision", "out", "grid")
#: What tells files of the same suffix apart.
KINDS = {"cube_1d": "1d", "clf_exact": "exact"}


def named(parts: tuple[str, ...], values: dict[str, str], key: str, suffix: str) -> str:
    """The file's name: its parts in order, joined by underscores; parts that have no value here are left out."""
    said = [values[part] for part in parts if values.get(part)]
    if key in KINDS:
        said.append(KINDS[key])
    return f"{safe_name('_'.join(said))}{suffix}"
