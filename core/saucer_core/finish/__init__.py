"""The finish: picture effects that a preview and a rendered still show and a table never holds."""

from .ending import finishing
from .render import finish

__all__ = ["finish", "finishing"]
