"""Declares a parameter once: its label, unit, range, default and step sizes travel with the field."""

from typing import Any

from pydantic import Field, JsonValue


def number(
    default: float,
    low: float,
    high: float,
    *,
    label: str,
    unit: str = "",
    fine: float,
    coarse: float,
    scale: float = 1.0,
    help: str = "",
) -> Any:
    """A number between ``low`` and ``high``.

    unit is what the screen shows behind the number; scale is shown value / kept value (100 for a share kept
    as 0–1 and shown in %). fine and coarse are the steps of the arrow keys, in kept values.
    """
    extra: dict[str, JsonValue] = {
        "label": label,
        "unit": unit,
        "fine": fine,
        "coarse": coarse,
        "scale": scale,
        "help": help,
    }
    return Field(default, ge=low, le=high, title=label, json_schema_extra=extra)


def share(default: float, low: float, high: float, *, label: str, help: str = "") -> Any:
    """A number kept as a share and shown in per cent."""
    return number(default, low, high, label=label, unit="%", fine=0.01, coarse=0.1, scale=100.0, help=help)


def degrees(default: float, *, label: str, help: str = "") -> Any:
    """An angle on the hue circle."""
    return number(default, 0.0, 360.0, label=label, unit="°", fine=1.0, coarse=10.0, help=help)
