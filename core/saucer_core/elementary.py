"""Elementary functions for the kernels, written so that the compiler can do several colours at once.

The library's pow, exp, log and cbrt are called one number at a time. These split a float32 into exponent and
mantissa and use short polynomials in float64, so that the result is right to the last bits of a float32
(relative error below 2e-7, held by a test).
"""

from typing import Any

import numpy as np
from numba import types
from numba.extending import intrinsic

from .kernels import inlined

_SQRT_HALF = np.float32(0.70710678)
#: Fraction of a float32.
_MANTISSA = np.int32(0x007FFFFF)
#: The bits of 0.5.
_ONE = np.int32(0x3F000000)
#: What the exponent of a number in 0.5–1 holds.
_BIAS = np.int32(126)
#: Bits of the fraction.
_WIDTH = np.int32(23)
# 2 / (ln 2 · (2k + 1)): the series of log2 in z = (m - 1) / (m + 1)
_L1, _L3, _L5, _L7, _L9 = (2.0 / np.log(2.0) / k for k in (1, 3, 5, 7, 9))
# ln(2)ᵏ / k!: the series of 2ᶠ for |f| ≤ 1/2
_E1, _E2, _E3, _E4, _E5, _E6, _E7 = (
    0.6931471805599453,
    0.2402265069591007,
    0.05550410866482158,
    0.009618129107628477,
    0.0013333558146428443,
    0.00015403530393381608,
    1.525273380405984e-05,
)
_TINY = np.float32(1.2e-38)
#: Nothing leaves a step beyond this, 60 stops above 1, so that many extreme steps in a row stay finite: its
#: square still fits a float32. It lies so far out that no look reaches it by gains that a later step takes
#: back.
BOUND = np.float32(2.0**60)


def _bits_of(context, x):  # type: ignore[no-untyped-def]
    """The bits of a float32 as an int32."""
    return types.int32(types.float32), lambda c, b, s, a: b.bitcast(a[0], c.get_value_type(types.int32))


def _float_of(context, bits):  # type: ignore[no-untyped-def]
    """The float32 with those bits."""
    return types.float32(types.int32), lambda c, b, s, a: b.bitcast(a[0], c.get_value_type(types.float32))


bits_of: Any = intrinsic(_bits_of)
float_of: Any = intrinsic(_float_of)


@inlined
def log2(x):  # type: ignore[no-untyped-def]
    """Base-2 logarithm of a float32 above 0, as float64; numbers below 1.2e-38 count as that."""
    bits = bits_of(max(x, _TINY))
    exponent = np.int32((bits >> _WIDTH) - _BIAS)
    mantissa = float_of(np.int32((bits & _MANTISSA) | _ONE))
    small = mantissa < _SQRT_HALF
    m = np.float64(mantissa) * (2.0 if small else 1.0)
    e = np.float64(exponent) - (1.0 if small else 0.0)
    z = (m - 1.0) / (m + 1.0)
    w = z * z
    return e + z * (_L1 + w * (_L3 + w * (_L5 + w * (_L7 + w * _L9))))


@inlined
def exp2_wide(t):  # type: ignore[no-untyped-def]
    """2 to a float64, as float64; held within what a float32 can be."""
    t = min(max(t, -126.0), 127.0)
    whole = np.floor(t + 0.5)
    f = t - whole
    p = 1.0 + f * (_E1 + f * (_E2 + f * (_E3 + f * (_E4 + f * (_E5 + f * (_E6 + f * _E7))))))
    return p * np.float64(float_of(np.int32((np.int32(whole) + np.int32(127)) << _WIDTH)))


@inlined
def exp2(t):  # type: ignore[no-untyped-def]
    """2 to a float64, as float32; held within what a float32 can be."""
    return np.float32(exp2_wide(t))


_N1, _N3, _N5, _N7 = (np.float32(2.0 / np.log(2.0) / k) for k in (1, 3, 5, 7))
_M1, _M2, _M3, _M4, _M5, _M6 = (np.float32(v) for v in (_E1, _E2, _E3, _E4, _E5, _E6))
_HALF = np.float32(0.5)
_UNIT = np.float32(1)
#: The bits of the root of a half.
_ROOT_HALF = np.int32(0x3F3504F3)


@inlined
def log2_near(x):  # type: ignore[no-untyped-def]
    """``log2`` in float32 throughout, twice as fast: off by 2e-7 of the result and no more than 1e-7 near
    1."""
    bits = bits_of(max(x, _TINY))
    exponent = np.int32(np.int32(bits - _ROOT_HALF) >> _WIDTH)
    # Between the roots of a half and of two, so that the series is short.
    m = float_of(np.int32(bits - np.int32(exponent << _WIDTH)))
    z = (m - _UNIT) / (m + _UNIT)
    w = z * z
    return np.float32(exponent) + z * (_N1 + w * (_N3 + w * (_N5 + w * _N7)))


@inlined
def exp2_near(t):  # type: ignore[no-untyped-def]
    """``exp2`` of a float32, in float32 throughout, twice as fast; its relative error is that of ``t`` as a
    float32, and 3e-7."""
    t = min(max(t, np.float32(-126)), np.float32(127))
    whole = np.floor(t + _HALF)
    f = t - whole
    p = _UNIT + f * (_M1 + f * (_M2 + f * (_M3 + f * (_M4 + f * (_M5 + f * _M6)))))
    return p * float_of(np.int32(np.int32(np.int32(whole) + np.int32(127)) << _WIDTH))


@inlined
def power(x, exponent):  # type: ignore[no-untyped-def]
    """A float32 from 0 up to a power above 0; 0 stays 0."""
    y = exp2(log2(x) * np.float64(exponent))
    return y if x > _TINY else np.float32(0)


@inlined
def signed_power(x, exponent):  # type: ignore[no-untyped-def]
    """A float32 of either sign to a power above 0, mirrored below zero."""
    y = power(abs(x), exponent)
    return y if x >= np.float32(0) else -y


_THIRD = np.float32(1 / 3)
#: What a third of the bits of a number is added to, for a first guess at its cube root.
_NEAR_ROOT = np.int32(709965728)
_LEAST_CUBE = 1e-36


@inlined
def cbrt(x):  # type: ignore[no-untyped-def]
    """Cube root of a float64 within what a float32 can be, relative error below 1e-13; exactly 0 within 1e-36
    of 0.

    A third of the bits of a float32 is a root to 4 %; each of Halley's steps, here one in float32 and one in
    float64, triples the digits (E. Halley, Philosophical Transactions 18 (1694)).
    """
    a = max(abs(x), _LEAST_CUBE)
    b = np.float32(a)
    y = float_of(np.int32(np.float32(bits_of(b)) * _THIRD) + _NEAR_ROOT)
    cube = y * y * y
    y = y * (cube + b + b) / (cube + cube + b)
    near = np.float64(y)
    third = near * near * near
    root = near * (third + a + a) / (third + third + a) if abs(x) > _LEAST_CUBE else 0.0
    return root if x >= 0.0 else -root


@inlined
def hold(x):  # type: ignore[no-untyped-def]
    """A number held within ``BOUND`` to both sides."""
    return min(max(x, -BOUND), BOUND)


_PI = np.float32(np.pi)
_HALF_PI = np.float32(np.pi / 2)
# Abramowitz and Stegun, Handbook of Mathematical Functions (1964), 4.4.49: atan on 0–1, |error| ≤ 2e-8.
_A3, _A5, _A7, _A9, _A11, _A13, _A15, _A17 = (
    np.float32(v)
    for v in (
        -0.3333314528,
        0.1999355085,
        -0.1420889944,
        0.1065626393,
        -0.0752896400,
        0.0429096138,
        -0.0161657367,
        0.0028662257,
    )
)


@inlined
def angle(y, x):  # type: ignore[no-untyped-def]
    """Angle of a float32 point (x, y), −π to π; 0 for the origin."""
    ax, ay = abs(x), abs(y)
    large = max(ax, ay)
    t = min(ax, ay) / max(large, _TINY)
    w = t * t
    a = t + t * w * (
        _A3 + w * (_A5 + w * (_A7 + w * (_A9 + w * (_A11 + w * (_A13 + w * (_A15 + w * _A17))))))
    )
    a = _HALF_PI - a if ay > ax else a
    a = _PI - a if x < np.float32(0) else a
    return a if y >= np.float32(0) else -a
