"""The command line: ``python -m saucer_core COMMAND``, one module a command."""

from .main import main
from .shared import FOUND_WANTING

__all__ = ["FOUND_WANTING", "main"]
