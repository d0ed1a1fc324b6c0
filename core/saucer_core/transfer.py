"""What a transfer function is: a form with numbers, and two loops that undo each other."""

from dataclasses import dataclass
from typing import Any, ClassVar

import numpy as np

from .arrays import F32
from .kernels import Kernel


@dataclass(frozen=True)
class Transfer:
    """A transfer function. Each form is a subclass whose fields are its numbers, so that equal numbers are
    equal functions.

    A form names two loops over flat float32 arrays, changed in place: ``to_light`` goes from code values (1.0
    = full code) to linear light, ``to_code`` back; ``None`` for linear light. Both are total: values outside
    0–1 are carried on where the definition has a meaning for them.
    """

    name: ClassVar[str] = "linear"
    to_light: ClassVar[Kernel | None] = None
    to_code: ClassVar[Kernel | None] = None
    #: Whether ``to_code`` keeps every light apart, so that ``to_light`` after it gives all of it back. False
    #: where the definition clips.
    lossless: ClassVar[bool] = True

    def parameters(self) -> tuple[Any, ...]:
        """The numbers that both loops take after the array."""
        return ()

    def decode_in_place(self, tile: F32) -> None:
        """Code values to linear light, any contiguous array."""
        if self.to_light is not None:
            self.to_light(tile.reshape(-1), *self.parameters())

    def encode_in_place(self, tile: F32) -> None:
        """Linear light to code values, any contiguous array."""
        if self.to_code is not None:
            self.to_code(tile.reshape(-1), *self.parameters())

    def decode(self, values: F32) -> F32:
        """Code values to linear light, a new array of the same shape."""
        out = np.array(values, dtype=np.float32, copy=True, order="C")
        self.decode_in_place(out)
        return out

    def encode(self, values: F32) -> F32:
        """Linear light to code values, a new array of the same shape."""
        out = np.array(values, dtype=np.float32, copy=True, order="C")
        self.encode_in_place(out)
        return out


#: Linear light: code values are light.
LINEAR = Transfer()
