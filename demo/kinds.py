"""A small folder of pictures of every kind that Saucer reads, computed anew from the demo's scenes, to try
bringing frames in.

``python -m demo.kinds FOLDER`` writes them there, none larger than 300 KB.
"""

import io
import struct
import sys
from collections.abc import Callable
from pathlib import Path

import imagecodecs
import numpy as np
import OpenImageIO as oiio
import pillow_heif
from PIL import Image
from saucer_core.arrays import F32, F64
from saucer_core.encodings import ENCODINGS, convert, encoding
from saucer_core.encodings.primaries import BT709, to_xyz
from saucer_core.formats import pictures
from saucer_core.formats.icc import profile
from saucer_core.look import Look
from saucer_core.treatment import Treatment

from . import dng
from .frames import SCENES

#: From XYZ to the channels of a made-up camera, and what it takes for grey at noon.
CAMERA: F64 = np.array([[0.80, -0.20, -0.08], [-0.45, 1.25, 0.22], [-0.08, 0.20, 0.60]])
NEUTRAL = (0.52, 1.0, 0.66)
#: Codes of no light and of a full sensor.
BLACK, WHITE = 512, 16_383
#: The lead-in of a Cineon file ("Cineon digital film image format", 4.5).
_CINEON = 0x802A5FD7


def scene(name: str, width: int, height: int) -> F32:
    """A scene of the demo in linear BT.709, cut to that shape."""
    rgb, _ = pictures.read(SCENES / f"{name}.exr")
    high, wide = rgb.shape[:2]
    by = max(width / wide, height / high)
    fitted = pictures.resize(rgb, max(width, round(wide * by)), max(height, round(high * by)))
    left, top = (fitted.shape[1] - width) // 2, (fitted.shape[0] - height) // 2
    return np.ascontiguousarray(fitted[top : top + height, left : left + width])


def shown(rgb: F32, key: str) -> F32:
    """Scene light as a picture of a display encoding, 0–1."""
    steps = [{"id": "s", "kind": "scene_to_display"}]
    look = Look.model_validate({"input": "linear_709", "output": "bt709_display", "steps": steps})
    seen = Treatment(look, "linear_709").compile()(rgb)
    return np.clip(convert(seen, encoding("bt709_display"), encoding(key)), 0, 1)


def _coded(rgb: F32, bits: int) -> np.ndarray:
    codes: np.ndarray = np.round(np.clip(rgb, 0, 1) * (2**bits - 1))
    return codes.astype(np.uint8 if bits == 8 else np.uint16)


def raw(path: Path, width: int = 432, height: int = 288) -> None:
    """A camera raw of that many pixels."""
    xyz = scene("yard_noon", width, height).astype(np.float64) * 1.3 @ to_xyz(BT709).T
    channels = xyz @ CAMERA.T / (CAMERA @ to_xyz(BT709).sum(axis=1)) * NEUTRAL
    codes = np.clip(np.round(BLACK + dng.mosaic(channels) * (WHITE - BLACK)), 0, WHITE)
    dng.write(path, codes.astype(np.uint16), black=BLACK, white=WHITE, matrix=CAMERA, neutral=NEUTRAL)


def _heif(path: Path) -> None:
    codes = _coded(shown(scene("clay_heads", 480, 640), "display_p3"), 10)
    data = (codes << 6).astype("<u2").tobytes()
    made = pillow_heif.from_bytes(mode="RGB;16", size=(480, 640), data=data)
    pillow_heif.options.SAVE_HDR_TO_12_BIT = False
    made.save(path, quality=92, chroma=444, icc_profile=profile(ENCODINGS["display_p3"]))


def _avif(path: Path) -> None:
    codes = _coded(convert(scene("kiln_night", 640, 360), encoding("linear_709"), encoding("pq")), 10)
    # Primaries of BT.2020 and the curve PQ (ITU-T H.273, tables 2 and 3).
    path.write_bytes(imagecodecs.avif_encode(codes, bitspersample=10, level=90, primaries=9, transfer=16))


def _jpeg(path: Path, name: str, key: str, tagged: bool) -> None:
    codes = _coded(shown(scene(name, 960, 540), key), 8)
    icc = profile(ENCODINGS[key]) if tagged else None
    Image.fromarray(codes).save(path, quality=88, subsampling=0, icc_profile=icc)


def _own_profile(path: Path) -> None:
    """In a colour space that no encoding of Saucer's is."""
    # D50, wide primaries, and a power of 1.8, as xy and Y (ICC.1:2022, 9.2).
    wide = imagecodecs.cms_profile(
        "rgb",
        whitepoint=[0.3457, 0.3585, 1.0],
        primaries=[0.66, 0.32, 1, 0.22, 0.72, 1, 0.15, 0.06, 1],
        gamma=1.8,
    )
    codes = _coded(np.power(shown(scene("yard_dusk", 640, 360), "srgb"), 1.1), 8)
    Image.fromarray(codes).save(path, quality=90, subsampling=0, icc_profile=wide)


def _ink(path: Path) -> None:
    left = shown(scene("glaze_table", 480, 270), "srgb")
    black = left.max(axis=2, keepdims=True)
    inks = 1 - left / np.maximum(black, 1e-3)
    codes = _coded(np.concatenate([inks, 1 - black], axis=2), 8)
    Image.fromarray(codes, "CMYK").save(path, quality=85)


def _cineon(path: Path) -> None:
    """Ten bits a channel, three to a word, as film scanners write them."""
    width, height = 320, 180
    log = convert(scene("wheel_window", width, height), encoding("linear_709"), encoding("film_log"))
    r, g, b = np.moveaxis(_coded(log, 10).astype(np.uint32), 2, 0)
    words = ((r << 22) | (g << 12) | (b << 2)).astype(">u4").tobytes()
    head = bytearray(2048)
    struct.pack_into(">6I", head, 0, _CINEON, 2048, 1024, 1024, 0, 2048 + len(words))
    head[24:28] = b"V4.5"
    struct.pack_into(">BB", head, 192, 0, 3)
    for channel in range(3):
        place = 196 + 28 * channel
        struct.pack_into(">BBBxII4f", head, place, 0, channel + 1, 10, width, height, 0, 0, 2.046, 1023)
    # Interleaved by pixel, three samples to a word of 32 bits, flush left.
    struct.pack_into(">BBBB", head, 680, 0, 5, 0, 0)
    path.write_bytes(bytes(head) + words)


def _cut_short(path: Path) -> None:
    whole = io.BytesIO()
    codes = _coded(shown(scene("north_shelf", 640, 360), "srgb"), 8)
    Image.fromarray(codes).save(whole, "JPEG", quality=88)
    path.write_bytes(whole.getvalue()[: round(0.41 * len(whole.getvalue()))])


def _written(path: Path, rgb: F32, spec: oiio.ImageSpec) -> None:
    out = oiio.ImageOutput.create(str(path))
    if out is None or not out.open(str(path), spec) or not out.write_image(rgb):
        raise OSError(f"{path} was not written: {oiio.geterror()}")
    out.close()


def _dpx(path: Path) -> None:
    log = convert(scene("north_shelf", 320, 180), encoding("linear_709"), encoding("film_log"))
    spec = oiio.ImageSpec(320, 180, 3, "uint16")
    spec.attribute("oiio:BitsPerSample", 10)
    _written(path, np.clip(log, 0, 1), spec)


def _radiance(path: Path) -> None:
    _written(path, scene("kiln_night", 320, 180), oiio.ImageSpec(320, 180, 3, "float"))


def _tiff(path: Path) -> None:
    pictures.write(path, shown(scene("wheel_window", 256, 144), "bt709_display"), "uint16")


def _exr(path: Path) -> None:
    pictures.write(path, scene("yard_dusk", 240, 135), "half", at=encoding("linear_709"))


def _webp(path: Path) -> None:
    codes = _coded(shown(scene("clay_heads", 640, 360), "srgb"), 8)
    Image.fromarray(codes).save(path, quality=90)


def _jxl(path: Path) -> None:
    codes = _coded(shown(scene("glaze_table", 640, 360), "srgb"), 8)
    path.write_bytes(imagecodecs.jpegxl_encode(codes, level=90))


#: Every file by its name, and what writes it.
FILES: dict[str, Callable[[Path], None]] = {
    "yard_0417.dng": raw,
    "head_upright.heic": _heif,
    "kiln_night.avif": _avif,
    "glaze_tiles.jpg": lambda path: _jpeg(path, "glaze_table", "display_p3", True),
    "glaze_table_b.jpg": lambda path: _jpeg(path, "glaze_table", "srgb", False),
    "yard_wide_profile.jpg": _own_profile,
    "glaze_in_ink.jpg": _ink,
    "wheel_scan.tif": _tiff,
    "yard_dusk_v03.exr": _exr,
    "shelf_log_0001.dpx": _dpx,
    "wheel_film.cin": _cineon,
    "kiln_light.hdr": _radiance,
    "heads_window.webp": _webp,
    "tiles.jxl": _jxl,
    "shelf_east.jpg": _cut_short,
}


def write(folder: Path) -> list[Path]:
    """Writes all of them into a folder, which is made where it is missing."""
    folder.mkdir(parents=True, exist_ok=True)
    for name, make in FILES.items():
        make(folder / name)
    return [folder / name for name in FILES]


if __name__ == "__main__":
    write(Path(sys.argv[1]))
