"""Where things are."""

import hashlib
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
VENV = ROOT / ".venv"
WEB = ROOT / "web"
TOOLS = ROOT / ".tools"


def python() -> Path:
    """The virtual environment's Python."""
    return VENV / "bin" / "python"


def digest(paths: list[Path]) -> str:
    """SHA-256 over names and contents of files."""
    h = hashlib.sha256()
    for path in sorted(paths):
        h.update(str(path.relative_to(ROOT)).encode())
        h.update(path.read_bytes())
    return h.hexdigest()
