"""Film log: ten-bit printing density.

Black at code 95, white at 685, 0.002 density a code, film gamma 0.6 (common practice for scanned negative). The
constants are those that colour.md of the documentation lists. Below code 0 the curve goes on as a straight line of the
same slope, so that decode and encode undo each other for every number (the house's choice).
"""

import math

import numpy as np

from ..arrays import F32
from ..elementary import exp2, log2
from .scalar import loop, on_arrays
from .transfer import Transfer

BLACK, WHITE, STEP, GAMMA, CODES = 95.0, 685.0, 0.002, 0.6, 1023.0

_rate = STEP / GAMMA * math.log(10.0)
_LOG2 = math.log(2.0)
_offset = math.exp((BLACK - WHITE) * _rate)
_zero = math.exp(-WHITE * _rate)

_F = np.float32
_RATE, _START, _OFFSET, _GAIN = CODES * _rate / _LOG2, _F(WHITE / CODES), _F(_offset), _F(1 - _offset)
_TOE = _F((_zero - _offset) / (1 - _offset))
_TOE_SLOPE = _F(CODES * _rate * _zero / (1 - _offset))
_NIL = _F(0)
# Four times full code is 1e11 in light; beyond it float32 would overflow.
_TOP = _F(4)


@loop()
def _decode(values: F32, out: F32) -> None:
    for i in range(values.size):
        v = min(values[i], _TOP)
        light = (exp2((v - _START) * _RATE) - _OFFSET) / _GAIN
        out[i] = _TOE + v * _TOE_SLOPE if v < _NIL else light


@loop()
def _encode(values: F32, out: F32) -> None:
    for i in range(values.size):
        x = values[i]
        code = np.float32(log2(x * _GAIN + _OFFSET) / _RATE) + _START
        out[i] = (x - _TOE) / _TOE_SLOPE if x < _TOE else code


FILM_LOG = Transfer("film_log", on_arrays(_decode), on_arrays(_encode))

#: Linear light of full code, the brightest a film-log picture holds.
PEAK = (math.exp((CODES - WHITE) * _rate) - _offset) / (1 - _offset)
