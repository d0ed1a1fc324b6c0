"""Letters of any script: which of Debian's fonts draws which part of a text."""

import logging
import unicodedata
from collections.abc import Callable, Iterable
from functools import lru_cache
from itertools import groupby
from pathlib import Path

from fontTools.ttLib import TTFont
from fpdf import FPDF
from PIL import ImageDraw, ImageFont

#: The first draws what it can, the next what is left, and so on: Latin, Greek, Cyrillic, Arabic; Chinese,
#: Japanese, Korean; everything else, plainly; emoji.
FONTS = tuple(
    Path("/usr/share/fonts") / name
    for name in (
        "truetype/dejavu/DejaVuSans.ttf",
        "truetype/droid/DroidSansFallbackFull.ttf",
        "opentype/unifont/unifont.otf",
        "opentype/unifont/unifont_upper.otf",
    )
)

# The dates in some of these fonts are told to be odd at every reading.
logging.getLogger("fontTools").setLevel(logging.ERROR)


@lru_cache
def _letters(font: Path) -> frozenset[int]:
    with TTFont(font, lazy=True) as found:
        return frozenset(found.getBestCmap() or {})


@lru_cache(maxsize=4096)
def _font_of(letter: str) -> Path:
    """The first font that has a letter; the first of all where none has."""
    return next((font for font in FONTS if font.is_file() and ord(letter) in _letters(font)), FONTS[0])


def runs(text: str) -> list[tuple[Path, str]]:
    """The text in parts, each with its font. A mark stays with the letter that it stands on."""
    fonts: list[Path] = []
    for letter in text:
        fonts.append(
            fonts[-1] if fonts and unicodedata.category(letter).startswith("M") else _font_of(letter)
        )
    return [
        (font, "".join(letter for _, letter in part))
        for font, part in groupby(zip(fonts, text, strict=True), key=lambda one: one[0])
    ]


@lru_cache(maxsize=16)
def _sized(font: Path, size: int) -> ImageFont.FreeTypeFont:
    return ImageFont.truetype(str(font), size)


def short(text: str, fits: Callable[[str], bool]) -> str:
    """The text if it fits, else as much of its beginning as does with an ellipsis."""
    if fits(text):
        return text
    while text and not fits(text + "…"):
        text = text[:-1]
    return text + "…"


def width(draw: ImageDraw.ImageDraw, text: str, size: int) -> float:
    """Pixels that a line of text is wide."""
    return sum(draw.textlength(part, _sized(font, size)) for font, part in runs(text))


def write(
    draw: ImageDraw.ImageDraw, at: tuple[float, float], text: str, colour: str, size: int, room: float
) -> None:
    """Draws a line of text from its upper left corner on, cut short where it is wider than ``room``
    pixels."""
    x, baseline = at[0], at[1] + _sized(FONTS[0], size).getmetrics()[0]
    for font, part in runs(short(text, lambda tried: width(draw, tried, size) <= room)):
        draw.text((x, baseline), part, colour, _sized(font, size), anchor="ls")
        x += draw.textlength(part, _sized(font, size))


def lettered(page: FPDF, name: str, texts: Iterable[str]) -> None:
    """Gives a PDF a font of that name that draws these texts: only the fonts that they need are read."""
    needed = {font for text in texts for font, _ in runs(text)}
    page.add_font(name, "", str(FONTS[0]))
    others = [font for font in FONTS[1:] if font in needed]
    for font in others:
        page.add_font(font.stem, "", str(font))
    page.set_fallback_fonts([font.stem for font in others])
    # From right to left, and letters that join, where a script asks for it.
    page.set_text_shaping(True)
