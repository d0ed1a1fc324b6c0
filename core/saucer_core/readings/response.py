"""How an encoding answers to light: its curve over stops, and the codes that camera makers publish to check
by."""

from dataclasses import dataclass

import numpy as np

from ..encodings import Encoding

#: Light of mid grey, as camera makers count it (common practice).
GREY = 0.18
#: Stops to each side of mid grey that the curve is drawn over.
REACH = 10
#: Points a stop.
POINTS = 8
#: The lights for which makers publish codes (common practice).
LIGHTS = (("no light", 0.0), ("mid grey", GREY), ("white card", 0.9), ("scene white", 1.0))
#: Codes between which camera logarithms put mid grey (common practice: published curves lie between 0.32 and
#: 0.48).
LIKELY_GREY = (0.2, 0.6)
#: Share by which the straight part may be steeper or flatter than the curve where they meet before it is seen
#: as a corner.
CORNER = 0.05


@dataclass(frozen=True)
class CodeOf:
    """The code that an encoding gives to a light."""

    name: str
    light: float
    #: 0 to 1 over the full range of codes.
    code: float
    #: The same in ten bits, 0 to 1023.
    ten_bit: float
    #: Percent of the range from video black (64) to video white (940); ITU-R BT.709-6, item 4.6.
    video_percent: float


@dataclass(frozen=True)
class Response:
    """A curve and its check values.

    curve: pairs of stops from mid grey and code, from darkest to lightest. ceiling: light of the highest
    code; stops_above: the same in stops from mid grey. stop_of_grey: ten-bit codes between mid grey and one
    stop above it. doubts: what makes it likely that a number was mistyped.
    """

    curve: list[tuple[float, float]]
    checks: list[CodeOf]
    ceiling: float
    stops_above: float | None
    stop_of_grey: float
    doubts: list[str]


def _code(name: str, light: float, code: float) -> CodeOf:
    ten = code * 1023.0
    return CodeOf(name, light, code, ten, (ten - 64.0) / (940.0 - 64.0) * 100.0)


def _codes(e: Encoding, light: list[float]) -> list[float]:
    return [float(v) for v in e.encode(np.array(light, np.float32))]


def _light(e: Encoding, code: float) -> float:
    return float(e.decode(np.array([code], np.float32))[0])


def _doubts(e: Encoding, grey: float, black: float) -> list[str]:
    said = []
    low, high = LIKELY_GREY
    if not low <= grey <= high:
        said.append(f"Mid grey lies at code {grey:.3f}; camera logarithms put it between {low} and {high}.")
    if black < -0.02:
        said.append(f"No light lies below the lowest code, at {black:.3f}: shadows would be cut.")
    if _light(e, 1.0) < 1.0:
        said.append("The highest code is darker than scene white: highlights would be cut.")
    cut = getattr(e.transfer, "cut", 0.0)
    near = max(abs(cut), 1e-3) * 0.02
    below, at, above = _codes(e, [cut - near, cut, cut + near])
    under, over = at - below, above - at
    if over > 0 and abs(under / over - 1) > CORNER:
        said.append(
            f"The straight part meets the curve in a corner at light {cut:.4g}: its slope is "
            f"{under / over:.2f} times the curve's."
        )
    return said


def response(e: Encoding) -> Response:
    """The curve and check values of an encoding for light in a scene."""
    stops = np.linspace(-REACH, REACH, 2 * REACH * POINTS + 1)
    codes = _codes(e, [float(v) for v in GREY * 2.0**stops])
    ceiling = _light(e, 1.0)
    black, grey, stop = _codes(e, [0.0, GREY, 2 * GREY])
    checks = [
        _code(name, light, code)
        for (name, light), code in zip(LIGHTS, _codes(e, [v for _, v in LIGHTS]), strict=True)
    ]
    return Response(
        curve=[(float(s), c) for s, c in zip(stops, codes, strict=True)],
        checks=checks,
        ceiling=ceiling,
        stops_above=float(np.log2(ceiling / GREY)) if ceiling > 0 else None,
        stop_of_grey=(stop - grey) * 1023.0,
        doubts=_doubts(e, grey, black),
    )
