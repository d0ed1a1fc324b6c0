"""What a transfer function is: two kernels that undo each other."""

from collections.abc import Callable
from dataclasses import dataclass

from ..arrays import F32


@dataclass(frozen=True)
class Transfer:
    """A transfer function as a pair of kernels on float32 arrays of any shape.

    ``decode`` goes from code values (1.0 = full code) to linear light, ``encode`` back. Both are total: values
    outside 0–1 are carried on, so that nothing is lost before something defined to clip clips it.
    """

    key: str
    decode: Callable[[F32], F32]
    encode: Callable[[F32], F32]
