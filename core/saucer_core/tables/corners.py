"""The weighted mean of corners of a grid, each corner fetched in one load.

numba has no type for four floats at a time, and its compiler does not join three loads of neighbours into
one; this says so to it.
"""

from typing import Any

from llvmlite import ir
from numba import types
from numba.extending import intrinsic

_FOUR = ir.VectorType(ir.FloatType(), 4)
_INDEX = ir.IntType(32)
_ANYTHING = ir.Constant(_FOUR, ir.Undefined)


def _fourfold(builder: Any, value: Any) -> Any:
    first = builder.insert_element(_ANYTHING, value, ir.Constant(_INDEX, 0))
    return builder.shuffle_vector(first, _ANYTHING, ir.Constant(ir.VectorType(_INDEX, 4), [0] * 4))


def _put_mean(typing, grid, corners, weights, out, places):  # type: ignore[no-untyped-def]
    """Writes into ``out`` at the three ``places`` the sum of ``weights[k]`` times the colour at
    ``grid[corners[k]]``.

    ``grid`` and ``out`` are flat float32, four floats a colour in the grid; the rest are tuples, of int64 and
    float32. Nothing checks that the places exist.
    """

    def code(context: Any, builder: Any, signature: Any, given: Any) -> Any:
        def of(k: int) -> Any:
            return context.make_array(signature.args[k])(context, builder, given[k]).data

        colours, total = of(0), None
        for k in range(len(corners)):
            at = builder.gep(colours, [builder.extract_value(given[1], k)])
            colour = builder.load(builder.bitcast(at, _FOUR.as_pointer()), align=4)
            part = builder.fmul(
                colour, _fourfold(builder, builder.extract_value(given[2], k)), flags=("fast",)
            )
            total = part if total is None else builder.fadd(total, part, flags=("fast",))
        for k in range(3):
            at = builder.gep(of(3), [builder.extract_value(given[4], k)])
            builder.store(builder.extract_element(total, ir.Constant(_INDEX, k)), at, align=4)
        return context.get_dummy_value()

    return types.void(grid, corners, weights, out, places), code


# The decorator's own type counts the first argument, which callers do not give.
put_mean: Any = intrinsic(_put_mean)
