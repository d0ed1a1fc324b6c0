"""Film log: ten-bit printing density.

Black at code 95, white at 685, 0.002 density a code, film gamma 0.6 (common practice for scanned negative). The
constants are those that colour.md of the documentation lists. Below code 0 the curve goes on as a straight line of the
same slope, so that decode and encode undo each other for every number (the house's choice).
"""

import math

import numpy as np

from ..arrays import F32
from ..elementary import exp2, log2
from ..transfer import Transfer
from .scalar import loop

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
# Beyond this code light is above the largest half-float.
_TOP = _F(2.1)


@loop()
def _decode(x: F32) -> None:
    for i in range(x.size):
        v = min(x[i], _TOP)
        light = (exp2((v - _START) * _RATE) - _OFFSET) / _GAIN
        x[i] = _TOE + v * _TOE_SLOPE if v < _NIL else light


@loop()
def _encode(x: F32) -> None:
    for i in range(x.size):
        v = x[i]
        code = _F(log2(v * _GAIN + _OFFSET) / _RATE) + _START
        x[i] = (v - _TOE) / _TOE_SLOPE if v < _TOE else code


FILM_LOG = Transfer("film_log", _decode, _encode)

#: Linear light of full code, the brightest a film-log picture holds.
PEAK = (math.exp((CODES - WHITE) * _rate) - _offset) / (1 - _offset)
#: The same curve in the terms of the Common LUT Format's camera logarithm: base, log-side slope and offset, linear-side
#: slope and offset, and the break below which it is straight.
CAMERA_TERMS = (10.0, GAMMA / (STEP * CODES), WHITE / CODES, 1 - _offset, _offset, float(_TOE))
