"""Camera raw: light as the sensor measured it, without any look of a camera's or a library's own."""

import tempfile
from pathlib import Path

import numpy as np

from ...arrays import F64
from ...encodings import ENCODINGS
from .. import pictures
from . import process
from .kinds import RAW
from .rawlight import balance_of, gains_of, grey_gains, light
from .result import Balance, Developed, RawFacts

#: The encoding that raw is developed into.
INTO = "linear_2020"


def developed(path: Path, name: str, place: Path, target: Path, balance: Balance | None) -> Developed:
    """Develops a raw file into an EXR file. place: an empty folder to work in. Raises ``FileError``."""
    gains = None if balance is None else _gains(path, name, place, balance)
    read = process.run("raw", path, name, place, balance=gains)
    matrix, daylight, shot = (_numbers(read, part) for part in ("matrix", "daylight", "balance"))
    high, wide = read.pixels.shape[:2]
    bands = light(read.pixels, float(read.said["scale"]), matrix)
    pictures.write_bands(target, (high, wide), bands, "half", at=ENCODINGS[INTO])
    as_shot = balance_of(shot, matrix, daylight)
    facts = pictures.PictureFacts(
        RAW.name,
        wide,
        high,
        read.said["depth"],
        declared=INTO,
        declared_by="how it was developed",
    )
    red, green, blue = read.said["clipped"]
    return Developed(
        target, facts, tuple(read.said["notes"]), RawFacts(as_shot, balance or as_shot, (red, green, blue))
    )


def _numbers(read: process.Read, part: str) -> F64:
    return np.array(read.said[part], np.float64)


def _gains(path: Path, name: str, place: Path, balance: Balance) -> list[float]:
    """What a white needs is told by the camera's own colours, which the file says."""
    about = process.run("about_raw", path, name, place)
    found: list[float] = gains_of(balance, _numbers(about, "matrix"), _numbers(about, "daylight")).tolist()
    return found


def white_by_grey(path: Path, name: str, rgb: F64, used: Balance) -> Balance:
    """The white balance under which a colour is grey. rgb: linear BT.2020, ``(3,)``, as it was developed with
    the balance ``used``. Raises ``FileError``."""
    with tempfile.TemporaryDirectory() as folder:
        about = process.run("about_raw", path, name, Path(folder))
    matrix, daylight = _numbers(about, "matrix"), _numbers(about, "daylight")
    gains = grey_gains(rgb, gains_of(used, matrix, daylight), matrix)
    return balance_of(gains, matrix, daylight)
