"""The parameters of a step as plain numbers that a fit can turn."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import partial

import numpy as np

from ..arrays import F64
from ..steps import Step
from ..steps.channel_mix import ChannelMix
from ..steps.curves import Curves
from ..steps.hue_ranges import HueRange, HueRanges
from ..steps.interpolant import interpolant
from ..steps.levels import Levels, LevelSet
from ..steps.saturation import Saturation
from ..steps.scene_to_display import SceneToDisplay
from ..steps.slope_offset_power import SlopeOffsetPower, SopRow
from ..steps.zone_tint import FULL_TINT, ZoneTint, ZoneTone

#: Where the fitted curves have their points: closer together in the darks, where an eye sees more.
AT = (0.0, 0.06, 0.14, 0.25, 0.38, 0.52, 0.68, 0.84, 1.0)
#: Centres of the fitted hue ranges. Width and feather are half the distance between two, so that together
#: they weigh 1 everywhere.
CENTRES = tuple(30.0 * k for k in range(12))
#: A point of a curve goes where the curve without it stays this close, in code values.
NO_POINT = 0.002
#: A range or zone goes where it changes less than this, in code values.
NO_CHANGE = 0.004


@dataclass(frozen=True)
class Knobs:
    """One kind of step: where its numbers stand when it does nothing, their limits, and how a step is made of
    them."""

    kind: str
    start: F64
    low: F64
    high: F64
    build: Callable[[F64], Step]
    tidy: Callable[[F64], Step]


def _knobs(
    kind: str,
    rows: Sequence[tuple[float, float, float]],
    build: Callable[[F64], Step],
    tidy: Callable[[F64], Step] | None = None,
) -> Knobs:
    start, low, high = np.array(rows, dtype=np.float64).T
    return Knobs(kind, start, low, high, build, tidy or build)


def _f(value: float) -> float:
    return round(float(value), 5)


def _levels(v: F64) -> Step:
    sets = [
        LevelSet(in_black=_f(b), in_white=_f(w), gamma=_f(g), out_black=_f(ob), out_white=_f(ow))
        for b, w, g, ob, ow in v.reshape(3, 5)
    ]
    return Levels(red=sets[0], green=sets[1], blue=sets[2])


def _curves(v: F64) -> Step:
    red, green, blue = ([(x, _f(y)) for x, y in zip(AT, row, strict=True)] for row in v.reshape(3, len(AT)))
    return Curves(red=red, green=green, blue=blue)


def _fewer(points: list[tuple[float, float]]) -> list[tuple[float, float]]:
    """The points without those that the curve does not need."""
    x = np.linspace(0, 1, 129, dtype=np.float32)
    wanted = interpolant(points, "monotone")(x)
    kept = list(points)
    while len(kept) > 2:
        tried = [
            (float(np.abs(interpolant(kept[:k] + kept[k + 1 :], "monotone")(x) - wanted).max()), k)
            for k in range(1, len(kept) - 1)
        ]
        off, k = min(tried)
        if off > NO_POINT:
            break
        del kept[k]
    if len(kept) == 2 and max(abs(kept[0][1]), abs(kept[1][1] - 1)) < NO_POINT:
        return [(0.0, 0.0), (1.0, 1.0)]
    return kept


def _tidy_curves(v: F64) -> Step:
    whole = _curves(v)
    assert isinstance(whole, Curves)
    red, green, blue = (_fewer(points) for points in (whole.red, whole.green, whole.blue))
    return Curves(red=red, green=green, blue=blue)


def _slope_offset_power(v: F64, clamp: bool = False) -> Step:
    red, green, blue = (SopRow(slope=_f(s), offset=_f(o), power=_f(p)) for s, o, p in v[:9].reshape(3, 3))
    return SlopeOffsetPower(red=red, green=green, blue=blue, saturation=_f(v[9]), clamp=clamp)


def _channel_mix(v: F64) -> Step:
    names = ("red", "green", "blue")
    rows = {
        name: {**{n: _f(x) for n, x in zip(names, row, strict=True)}, "constant": _f(constant)}
        for name, row, constant in zip(names, v[:9].reshape(3, 3), v[9:], strict=True)
    }
    return ChannelMix.model_validate({**rows, "keep_white": False})


def _saturation(v: F64) -> Step:
    return Saturation(amount=_f(v[0]), even=_f(v[1]), skin_guard=_f(v[2]))


def _hue_ranges(v: F64) -> Step:
    apart = 360.0 / len(CENTRES)
    ranges = [
        HueRange(
            hue=c, width=apart / 2, feather=apart / 2, shift=_f(s), saturation=_f(m), lightness=_f(light)
        )
        for c, (s, m, light) in zip(CENTRES, v.reshape(-1, 3) * (40.0, 1.0, 1.0), strict=True)
    ]
    return HueRanges(ranges=ranges)


def _tidy_hue_ranges(v: F64) -> Step:
    whole = _hue_ranges(v)
    assert isinstance(whole, HueRanges)
    moved = [
        r for r in whole.ranges if max(abs(r.shift) / 40, abs(r.saturation), abs(r.lightness)) >= NO_CHANGE
    ]
    return HueRanges(ranges=moved)


def _zone(a: float, b: float, lightness: float, saturation: float) -> ZoneTone:
    amount = float(np.hypot(a, b))
    hue = float(np.degrees(np.arctan2(b, a)) % 360) if amount * FULL_TINT > 1e-4 else 60.0
    return ZoneTone(
        hue=round(hue, 3), amount=_f(min(amount, 1.0)), lightness=_f(lightness), saturation=_f(saturation)
    )


def _zone_tint(v: F64) -> Step:
    shadows, midtones, highlights = (_zone(*row) for row in v[:12].reshape(3, 4))
    return ZoneTint(
        shadows=shadows,
        midtones=midtones,
        highlights=highlights,
        low_crossover=_f(v[12]),
        high_crossover=_f(v[13]),
        overlap=_f(v[14]),
    )


_IDENTITY = [(1.0 if r == c else 0.0, -2.0, 2.0) for r in range(3) for c in range(3)]

_SOP = [(1, 0.05, 4), (0, -0.6, 0.6), (1, 0.2, 5)] * 3 + [(1, 0.02, 3)]
#: One correction alone, held to 0–1 as ASC CDL says, and not held: what tables from other programs often are.
CORRECTIONS = (
    _knobs("slope_offset_power", _SOP, partial(_slope_offset_power, clamp=True)),
    _knobs("slope_offset_power", _SOP, _slope_offset_power),
)

#: The steps that a table is taken apart into, plain ones first.
PALETTE = (
    _knobs("saturation", [(1, 0.02, 3), (0, 0, 1), (0, 0, 1)], _saturation),
    CORRECTIONS[1],
    _knobs(
        "levels", [(0, -0.3, 0.45), (1, 0.55, 1.6), (1, 0.2, 5), (0, -0.3, 0.5), (1, 0.4, 1.6)] * 3, _levels
    ),
    _knobs("channel_mix", [*_IDENTITY, *[(0.0, -0.5, 0.5)] * 3], _channel_mix),
    _knobs("curves", [(x, -0.5, 1.5) for x in AT] * 3, _curves, _tidy_curves),
    _knobs(
        "zone_tint",
        [(0, -0.7, 0.7), (0, -0.7, 0.7), (0, -1, 1), (0, -1, 1)] * 3
        + [(0.42, 0.08, 0.68), (0.75, 0.7, 0.96), (0.2, 0.04, 0.5)],
        _zone_tint,
    ),
    _knobs(
        "hue_ranges", [(0, -1.5, 1.5), (0, -1, 2), (0, -1, 1)] * len(CENTRES), _hue_ranges, _tidy_hue_ranges
    ),
)


def rendering(to: str) -> Knobs:
    """The tone scale from a scene to a display of the encoding ``to``."""

    def build(v: F64) -> Step:
        grey, contrast = _f(v[0]), _f(v[1])
        # Nearer than this there is no curve through grey and white.
        nearest = float(np.log2(1.01 / grey) / contrast)
        return SceneToDisplay(to=to, grey=grey, contrast=contrast, white_stops=_f(max(v[2], nearest)))

    return _knobs("scene_to_display", [(0.13, 0.06, 0.25), (1.28, 0.95, 1.9), (5.0, 3.5, 7.5)], build)
