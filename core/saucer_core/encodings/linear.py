"""Linear light: code values are light."""

from ..arrays import F32
from .transfer import Transfer


def _same(values: F32) -> F32:
    return values


LINEAR = Transfer("linear", _same, _same)
