"""Reads one picture of a kind that Saucer does not read itself, in a process of its own.

Run as ``python -I child.py WORK FOLDER``: alone, with nothing of Saucer, under limits of time and memory that
it sets itself before it looks at the file. It finds ``wish.json`` in the folder and leaves ``pixels.npy``,
``said.json`` and, where there is one, ``profile.icc`` there. A library that hangs, crashes or eats memory
ends here and nowhere else.
"""

import json
import os
import resource
import sys
from pathlib import Path
from typing import Any

#: Seconds of computing that a picture may cost.
SECONDS = 120
#: Bytes of address space: libraries, and a picture of the largest size in the forms that it goes through.
MEMORY = 4 * 2**30
#: How much of a sensor's range below its white level counts as full.
FULL = 0.998
#: Places after which the colours of a sensor's filters repeat.
PATTERN = 6

# JSON by nature: what is asked of a library and what it says, which differs by kind.
Said = dict[str, Any]


class Refused(Exception):
    """Why a picture is not read, in words."""


def _check(wide: int, high: int, wish: Said) -> None:
    limit = wish["pixels"]
    if wide * high > limit or max(wide, high) > 32768:
        raise Refused(f"{wide} × {high} pixels are more than the {limit // 10**6} million Saucer takes")


def _raw(path: str, wish: Said) -> tuple[Any, Said]:
    """Camera light, white balanced, as the sensor measured it: no tone, no sharpening, nothing clipped by
    the balance."""
    import rawpy

    with rawpy.imread(path) as raw:
        said = _raw_said(raw, wish)
        used = wish.get("balance") or said["balance"]
        said["scale"] = max(used) / used[1] / 65535
        said["clipped"] = _clipped(raw)
        rgb = raw.postprocess(
            user_wb=[used[0], used[1], used[2], used[1]],
            output_color=rawpy.ColorSpace.raw,
            gamma=(1, 1),
            no_auto_bright=True,
            adjust_maximum_thr=0.0,
            output_bps=16,
            # Scales what is measured below the top instead of cutting it off there.
            highlight_mode=rawpy.HighlightMode.Ignore,
        )
    return rgb, said


def _about_raw(path: str, wish: Said) -> tuple[Any, Said]:
    """What the file says of its camera's colours; no picture."""
    import numpy as np
    import rawpy

    with rawpy.imread(path) as raw:
        return np.empty(0), _raw_said(raw, wish)


def _raw_said(raw: Any, wish: Said) -> Said:
    """Depth, matrix and balances of an open raw file."""
    import numpy as np

    _check(raw.sizes.width, raw.sizes.height, wish)
    if raw.num_colors != 3:
        raise Refused(f"its sensor sees {raw.num_colors} colours, and Saucer develops those of three")
    matrix = np.asarray(raw.color_matrix, np.float64)[:, :3]
    if not matrix.any() or abs(np.linalg.det(matrix)) < 1e-6:
        raise Refused("it does not say what its colours are, and the library does not know its camera")
    daylight = [float(v) for v in raw.daylight_whitebalance[:3]]
    balance, notes = [float(v) for v in raw.camera_whitebalance[:3]], []
    if min(balance) <= 0 or not np.isfinite(balance).all():
        balance = daylight
        notes.append("says no white balance: that of daylight is taken")
    if raw.sizes.flip:
        notes.append("turned upright")
    return {
        "depth": f"{int(np.ceil(np.log2(max(float(raw.white_level), 2))))} bit",
        "matrix": matrix.tolist(),
        "balance": balance,
        "daylight": daylight,
        "notes": notes,
    }


def _clipped(raw: Any) -> list[float]:
    """The shares of red, green and blue places of a sensor that are full."""
    import numpy as np

    seen, blacks, white = raw.raw_image_visible, raw.black_level_per_channel, float(raw.white_level)
    top, left = raw.sizes.top_margin, raw.sizes.left_margin
    full, places = np.zeros(3), np.zeros(3)
    pattern = raw.raw_pattern
    # Filters repeat after two places, or after six; six is right for both.
    by = 2 if pattern is not None and pattern.shape == (2, 2) else PATTERN
    for row in range(min(by, seen.shape[0])):
        for column in range(min(by, seen.shape[1])):
            colour = int(raw.raw_color(top + row, left + column))
            # A sensor's second green counts as green.
            colour = 1 if colour == 3 else colour
            level = blacks[min(colour, len(blacks) - 1)] * (1 - FULL) + white * FULL
            those = seen[row::by, column::by]
            full[colour] += np.count_nonzero(those >= level)
            places[colour] += those.size
    return [float(v) for v in full / np.maximum(places, 1)]


def _heif(path: str, wish: Said) -> tuple[Any, Said]:
    import numpy as np
    import pillow_heif

    pillow_heif.options.DISABLE_SECURITY_LIMITS = False
    file = pillow_heif.open_heif(path, convert_hdr_to_8bit=False)
    picture = file[file.primary_index]
    _check(*picture.size, wish)
    info: Said = dict(picture.info)
    bits = int(info.get("bit_depth") or 8)
    pixels = np.asarray(picture)
    if pixels.ndim == 2:
        pixels = pixels[..., None]
    if pixels.dtype == np.uint16:
        # They lie in the upper bits.
        pixels = pixels >> (16 - bits)
    unread = (
        [f"{len(file) - 1} more picture{'s' if len(file) > 2 else ''} of the file"] if len(file) > 1 else []
    )
    kinds = [str(k).lower() for k in info.get("aux", {})]
    if any("gainmap" in k for k in kinds) or _holds(path, b"tmap"):
        unread.append("its gain map for brighter screens: the base picture is taken")
    codes = info.get("nclx_profile")
    said = {
        "bits": bits,
        "depth": f"{bits} bit",
        "unread": unread,
        "CICP": [codes["color_primaries"], codes["transfer_characteristics"], 0, 1] if codes else None,
        "icc": info.get("icc_profile") or b"",
    }
    return pixels, said


def _avif(path: str, wish: Said) -> tuple[Any, Said]:
    import av
    import imagecodecs
    from PIL import Image

    with Image.open(path) as head:
        _check(*head.size, wish)
        icc = head.info.get("icc_profile") or b""
        orientation = int(head.getexif().get(274, 1))
        frames = getattr(head, "n_frames", 1)
    with av.open(path) as file:
        first = next(file.decode(video=0))
        bits = first.format.components[0].bits
        codes = [int(first.color_primaries), int(first.color_trc), 0, 1]
    pixels = imagecodecs.avif_decode(Path(path).read_bytes(), index=0 if frames > 1 else None)
    if pixels.ndim == 2:
        pixels = pixels[..., None]
    said = {
        "bits": bits,
        "depth": f"{bits} bit",
        # 2 stands for: not said (ITU-T H.273, tables 2 and 3).
        "CICP": codes if 2 not in codes[:2] else None,
        "icc": icc,
        "orientation": orientation,
        "unread": ["the frames of an animation beyond the first"] if frames > 1 else [],
    }
    return pixels, said


def _by_oiio(path: str, wish: Said) -> tuple[Any, Said]:
    """Kinds that OpenImageIO reads, and one part of many."""
    import numpy as np
    import OpenImageIO as oiio

    asked = oiio.ImageSpec()
    asked.attribute("oiio:UnassociatedAlpha", 1)
    file = oiio.ImageInput.open(path, asked)
    if file is None:
        raise Refused(f"it is damaged or cut short ({oiio.geterror() or 'no reason given'})")
    if wish.get("part") and not file.seek_subimage(wish["part"], 0):
        raise Refused(f"it has no part {wish['part'] + 1}")
    spec = file.spec()
    _check(spec.width, spec.height, wish)
    integer = str(spec.format) in ("uint8", "uint16", "uint10", "uint12")
    pixels = file.read_image(
        wish.get("part", 0), 0, 0, spec.nchannels, oiio.UINT16 if integer else oiio.FLOAT
    )
    if pixels is None or file.has_error:
        raise Refused("cannot be read to its end: it is damaged or cut short")
    names = [c.rpartition(".")[2].upper() for c in spec.channelnames]
    if set("RGB") <= set(names):
        chosen = [names.index(c) for c in "RGB"]
    else:
        chosen = [0]
    if spec.alpha_channel >= 0:
        chosen.append(spec.alpha_channel)
    pixels = np.asarray(pixels).reshape(spec.height, spec.width, -1)[..., chosen]
    icc = spec.getattribute("ICCProfile")
    codes = spec.getattribute("CICP")
    bits = int(
        spec.getattribute("oiio:BitsPerSample") or {"uint8": 8, "uint16": 16}.get(str(spec.format), 32)
    )
    said = {
        "bits": 16 if integer else 0,
        "depth": f"{bits} bit" if integer else {"half": "half float"}.get(str(spec.format), "32-bit float"),
        "CICP": [int(v) for v in codes] if codes is not None else None,
        "icc": b"" if icc is None else np.asarray(icc).astype(np.uint8).tobytes(),
        "orientation": int(spec.getattribute("Orientation") or 1),
        "multiplied": not int(spec.getattribute("oiio:UnassociatedAlpha") or 0),
        "chromaticities": list(spec.getattribute("chromaticities") or []) or None,
        "unread": [],
    }
    file.close()
    return pixels, said


def _ink(path: str, wish: Said) -> tuple[Any, Said]:
    """Cyan, magenta, yellow and black, as they lie in a JPEG or TIFF file."""
    import numpy as np
    from PIL import Image

    Image.MAX_IMAGE_PIXELS = wish["pixels"]
    said: Said
    with Image.open(path) as picture:
        _check(*picture.size, wish)
        if picture.mode != "CMYK":
            raise Refused(f"its colours ({picture.mode}) are none that are read")
        pixels = np.asarray(picture)
        said = {
            "bits": 8,
            "depth": "8 bit",
            "icc": picture.info.get("icc_profile") or b"",
            "orientation": int(picture.getexif().get(274, 1)),
            "ink": True,
            "unread": [],
        }
    return pixels, said


def _holds(path: str, word: bytes) -> bool:
    """Whether the head of a file holds that word."""
    with open(path, "rb") as file:
        return word in file.read(65536)


def _through_profile(path: str, wish: Said) -> tuple[Any, Said]:
    """Codes of one profile in those of the first encoding that holds all that the profile can say."""
    import imagecodecs
    import numpy as np

    folder = Path(path).parent
    profile = (folder / "profile.icc").read_bytes()
    space = wish["space"]
    pixels = np.load(path, mmap_mode="r")
    count = {"rgb": 3, "cmyk": 4, "gray": 1}[space]
    ends = np.stack(np.meshgrid(*[np.linspace(0, 1, 5)] * count, indexing="ij"), -1).reshape(1, -1, count)
    if pixels.dtype == np.uint8:
        ends = np.round(ends * 255).astype(np.uint8)
    else:
        ends = np.round(ends * 65535).astype(np.uint16)
    how = {
        "colorspace": space,
        "outcolorspace": "rgb",
        "intent": imagecodecs.CMS.INTENT.RELATIVE_COLORIMETRIC,
    }
    known = sorted(folder.glob("target-*.icc"))
    chosen = known[-1]
    for target in known:
        seen = imagecodecs.cms_transform(ends, profile, target.read_bytes(), outdtype=np.float32, **how)
        if np.isfinite(seen).all() and seen.min() >= -wish["slack"] and seen.max() <= 1 + wish["slack"]:
            chosen = target
            break
    target_profile = chosen.read_bytes()
    out = np.empty((*pixels.shape[:2], 3), np.uint16)
    for first in range(0, len(pixels), 256):
        band = np.ascontiguousarray(pixels[first : first + 256])
        if count == 1:
            band = band[..., 0]
        out[first : first + 256] = imagecodecs.cms_transform(
            band, profile, target_profile, outdtype=np.uint16, **how
        )
    return out, {"chosen": known.index(chosen)}


WORK = {
    "raw": _raw,
    "about_raw": _about_raw,
    "heif": _heif,
    "avif": _avif,
    "oiio": _by_oiio,
    "ink": _ink,
    "profile": _through_profile,
}


def main(work: str, folder: str) -> int:
    """Exit status 0 where the picture was read; 1 with the reason on standard error."""
    for limit, value in ((resource.RLIMIT_CPU, SECONDS), (resource.RLIMIT_AS, MEMORY)):
        resource.setrlimit(limit, (value, value))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    wish = json.loads(Path(folder, "wish.json").read_text(encoding="utf-8"))
    import numpy as np

    try:
        pixels, said = WORK[work](wish["path"], wish)
    except MemoryError:
        print("it needs more memory than a picture should", file=sys.stderr)
        return 1
    except Refused as why:
        print(why, file=sys.stderr)
        return 1
    except Exception as error:
        # Foreign libraries raise whatever they like; their words are all there is to say.
        first = error.args[0] if error.args else ""
        words = first.decode("utf-8", "replace") if isinstance(first, bytes) else str(error)
        print(" ".join(words.split()) or type(error).__name__, file=sys.stderr)
        return 1
    icc = said.pop("icc", b"")
    if icc:
        Path(folder, "profile.icc").write_bytes(icc)
    part = Path(folder, "done.npy")
    np.save(part, pixels)
    os.replace(part, Path(folder, "pixels.npy"))
    Path(folder, "said.json").write_text(json.dumps(said), encoding="utf-8")
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1], sys.argv[2]))
