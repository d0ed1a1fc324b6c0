"""The encodings Saucer knows, by key, and conversion between any two of them."""

import threading
from collections.abc import Callable, Iterable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from functools import lru_cache
from typing import Annotated, Literal

import numpy as np
from pydantic import AfterValidator, Field

from ..arrays import F32
from ..errors import CoreError
from ..operations import Decode, Encode, Operation, apply, matrix
from ..transfer import LINEAR, Transfer
from .aces import ACESCC
from .camera import CameraEncoding
from .camera_log import ACESCCT, FILM_LOG
from .hdr import HLG, PQ, UNIT, shown, unshown
from .power import BT1886, GAMMA_22, GAMMA_26, OPRGB_GAMMA
from .primaries import AP0, AP1, BT709, BT2020, OPRGB, P3_D65, P3_DCI, Adaptation, Primaries, between
from .toed import BT709_CAMERA, SRGB


@dataclass(frozen=True)
class Encoding:
    """Primaries and a transfer function under one name.

    ``response`` says what the numbers are like: *display* (0 black, 1 white), *log*, or *linear*.
    ``referred`` says what they describe: light in the scene, or light on a display.
    """

    key: str
    label: str
    primaries: Primaries
    transfer: Transfer
    response: Literal["display", "log", "linear"]
    referred: Literal["scene", "display"]

    def decode(self, rgb: F32) -> F32:
        """Code values to linear light in the encoding's own primaries."""
        return self.transfer.decode(rgb)

    def encode(self, rgb: F32) -> F32:
        """Linear light in the encoding's own primaries to code values."""
        return self.transfer.encode(rgb)

    @property
    def hdr(self) -> bool:
        """Whether it is made for displays brighter than a standard one."""
        return self.transfer in (PQ, HLG)


ENCODINGS: dict[str, Encoding] = {
    e.key: e
    for e in (
        Encoding("srgb", "sRGB", BT709, SRGB, "display", "display"),
        Encoding("bt709_display", "BT.709 display", BT709, BT1886, "display", "display"),
        Encoding("bt709_camera", "BT.709 camera", BT709, BT709_CAMERA, "display", "scene"),
        Encoding("bt2020_display", "BT.2020 display", BT2020, BT1886, "display", "display"),
        Encoding("pq", "BT.2100 PQ", BT2020, PQ, "log", "display"),
        Encoding("hlg", "BT.2100 HLG", BT2020, HLG, "log", "scene"),
        Encoding("display_p3", "Display P3", P3_D65, SRGB, "display", "display"),
        Encoding("dci_p3", "DCI P3", P3_DCI, GAMMA_26, "display", "display"),
        Encoding("oprgb", "opRGB", OPRGB, OPRGB_GAMMA, "display", "display"),
        Encoding("gamma_22", "gamma 2.2", BT709, GAMMA_22, "display", "display"),
        Encoding("gamma_24", "gamma 2.4", BT709, BT1886, "display", "display"),
        Encoding("linear_709", "linear 709", BT709, LINEAR, "linear", "scene"),
        Encoding("linear_p3", "linear P3", P3_D65, LINEAR, "linear", "scene"),
        Encoding("linear_2020", "linear 2020", BT2020, LINEAR, "linear", "scene"),
        Encoding("aces2065_1", "ACES2065-1", AP0, LINEAR, "linear", "scene"),
        Encoding("acescg", "ACEScg", AP1, LINEAR, "linear", "scene"),
        Encoding("acescc", "ACEScc", AP1, ACESCC, "log", "scene"),
        Encoding("acescct", "ACEScct", AP1, ACESCCT, "log", "scene"),
        Encoding("film_log", "film log", BT709, FILM_LOG, "log", "scene"),
        Encoding("film_log_p3", "film log P3", P3_D65, FILM_LOG, "log", "scene"),
        Encoding("film_log_2020", "film log 2020", BT2020, FILM_LOG, "log", "scene"),
    )
}

#: Camera encodings that recipes brought into this process, by key, with how many times each was brought and
#: not taken back.
_brought: dict[str, tuple[CameraEncoding, int]] = {}
_bringing = threading.Lock()
#: Who keeps the team's camera encodings, and is asked for those that no recipe brought.
_supply: list[Callable[[str], CameraEncoding | None]] = []


@lru_cache(maxsize=256)
def camera_encoding(camera: CameraEncoding) -> Encoding:
    """The encoding that a maker's numbers describe."""
    return Encoding(camera.key(), camera.name, camera.primaries(), camera.transfer(), "log", "scene")


def define(camera: CameraEncoding) -> Encoding:
    """Makes a camera encoding known to this process; the same numbers again change nothing but the name."""
    with _bringing:
        _brought[camera.key()] = camera, _brought.get(camera.key(), (camera, 0))[1] + 1
    return camera_encoding(camera)


def forget(camera: CameraEncoding) -> None:
    """Takes back one ``define``: once all are taken back the encoding is known only where ``supplied_by`` has
    it."""
    with _bringing:
        count = _brought.get(camera.key(), (camera, 0))[1]
        if count > 1:
            _brought[camera.key()] = camera, count - 1
        else:
            _brought.pop(camera.key(), None)


@contextmanager
def known(cameras: Iterable[CameraEncoding]) -> Iterator[None]:
    """Camera encodings known to this process for as long as the block runs."""
    held = list(cameras)
    for camera in held:
        define(camera)
    try:
        yield
    finally:
        for camera in held:
            forget(camera)


def supplied_by(supply: Callable[[str], CameraEncoding | None]) -> None:
    """Says who keeps the team's camera encodings; ``supply`` gives one by its key, ``None`` where it has
    none."""
    _supply[:] = [supply]


def definition(key: str) -> CameraEncoding | None:
    """The numbers of a camera encoding, ``None`` for any other."""
    if not key.startswith("camera-"):
        return None
    brought = _brought.get(key)
    return brought[0] if brought else _supply[0](key) if _supply else None


def encoding(key: str) -> Encoding:
    """The encoding of that key; raises ``CoreError`` naming the known ones."""
    found = ENCODINGS.get(key)
    if found is not None:
        return found
    camera = definition(key)
    if camera is None:
        raise CoreError(f"“{key[:60]}” is not an encoding Saucer knows. Known: {', '.join(ENCODINGS)}.")
    return camera_encoding(camera)


def _known(key: str) -> str:
    try:
        encoding(key)
    except CoreError as error:
        raise ValueError(str(error)) from None
    return key


EncodingKey = Annotated[str, Field(max_length=40), AfterValidator(_known)]


def primaries_change(source: Primaries, target: Primaries, method: Adaptation = "cat16") -> list[Operation]:
    """From linear light of one set of primaries to another; nothing where they are the same."""
    return [] if source == target else [matrix(between(source, target, method))]


#: Luminance, cd/m², at which PQ and HLG show the white of a standard display: ITU-R BT.2408-7, table 1; or as
#: the white was before.
SdrWhite = Literal[203, 100]
SDR_WHITE: SdrWhite = 203


def _white_of(at: Encoding, white: SdrWhite) -> float:
    """Linear light of an encoding at which diffuse white lies."""
    return white / UNIT if at.transfer == PQ else 1.0


def light_between(
    source: Encoding, target: Encoding, method: Adaptation = "cat16", white: SdrWhite = SDR_WHITE
) -> list[Operation]:
    """From linear light of one encoding to that of another, in which white stays white; no tone scale,
    nothing clipped.

    HLG holds light of a scene, which its display shows through the OOTF of BT.2100-2, table 5, for a peak of
    1,000 cd/m². Between HLG and light of a display the way leads over that display. White of PQ lies at
    ``white`` cd/m².
    """
    scale = _white_of(target, white) / _white_of(source, white)
    if source.transfer == HLG and target.referred == "display":
        return [shown(), *_scaled(BT2020, target.primaries, method, _white_of(target, white) * UNIT / white)]
    if target.transfer == HLG and source.referred == "display":
        return [
            *_scaled(source.primaries, BT2020, method, white / UNIT / _white_of(source, white)),
            unshown(),
        ]
    return _scaled(source.primaries, target.primaries, method, scale)


def light_shown(source: Encoding, target: Encoding) -> list[Operation]:
    """From linear light of a scene to that of PQ, or back, over the display that HLG is shown on: mid grey
    and white lie where ITU-R BT.2408-7, table 1, has them (26 and 203 cd/m²)."""
    if target.referred == "display":
        return [
            *primaries_change(source.primaries, BT2020),
            shown(),
            *primaries_change(BT2020, target.primaries),
        ]
    return [
        *primaries_change(source.primaries, BT2020),
        unshown(),
        *primaries_change(BT2020, target.primaries),
    ]


def _scaled(source: Primaries, target: Primaries, method: Adaptation, factor: float) -> list[Operation]:
    if factor == 1.0:
        return primaries_change(source, target, method)
    return [matrix(between(source, target, method) * factor)]


def conversion(
    source: Encoding, target: Encoding, method: Adaptation = "cat16", white: SdrWhite = SDR_WHITE
) -> list[Operation]:
    """The plain conversion: through linear light (``light_between``)."""
    if source == target:
        return []
    return [Decode(source.transfer), *light_between(source, target, method, white), Encode(target.transfer)]


def convert(
    rgb: F32, source: Encoding, target: Encoding, method: Adaptation = "cat16", white: SdrWhite = SDR_WHITE
) -> F32:
    """The plain conversion of colours ``(..., 3)``, float32."""
    return apply(conversion(source, target, method, white), np.asarray(rgb))
