"""A pack of looks to bring in, computed anew: sound tables, two twins, one that clips, some for film log, a
carrier, one broken file.

``python -m demo.pack FOLDER`` writes ``kiln_yard_pack.zip`` there.
"""

import io
import sys
import tempfile
import zipfile
from pathlib import Path

from saucer_core.baking.bake import bake
from saucer_core.formats import carrier, cdl, clf, cube, recipe
from saucer_core.look import Look
from saucer_core.steps import no_tables
from saucer_core.steps.slope_offset_power import Correction
from saucer_core.tables.carrier import hald
from saucer_core.tables.lut import Lut
from saucer_core.treatment import Treatment

from .looks import LOOKS, DemoLook, step

NAME = "kiln_yard_pack.zip"
LICENCE = (
    "Made at the yard by Ines Tallow. The studio may use these looks on any of its pictures, paid or not. "
    "They may not be sold on or put "
    "into another pack. The kiln's name stays with them.\n"
)
_LOG = "film_log"


def _table(look: Look, size: int, title: str, *comments: str) -> Lut:
    return bake(Treatment(look).compile(), size, title=title, comments=comments)


def _own(name: str, steps: list[dict[str, object]], source: str = "bt709_display") -> Look:
    return DemoLook(name, "", (), steps, source).look()


def _known(name: str) -> Look:
    return next(d.look() for d in LOOKS if d.name == name)


def _carrier(look: Look) -> bytes:
    """A carrier of 64 points a side as an 8-bit program saves it."""
    place = hald(8)
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "carrier.png"
        carrier.write(path, place, "uint8", bake(Treatment(look).compile(), place.grid).grid)
        return path.read_bytes()


def _broken(text: str) -> str:
    """The text with one row that lost its last number."""
    rows = text.splitlines()
    rows[811] = rows[811].rpartition(" ")[0]
    return "\n".join(rows) + "\n"


def files() -> dict[str, bytes]:
    """The files of the pack by their places in it."""
    copper = _own(
        "Copper red",
        [
            step("balance", temperature=20, tint=3),
            step("levels", red={"in_white": 0.88}, blue={"out_black": 0.07, "out_white": 0.86}),
            step("saturation", amount=1.25),
        ],
    )
    tenmoku = _own(
        "Tenmoku",
        [
            step("exposure", stops=-0.35),
            step("scene_to_display", contrast=1.3),
            step("zone_tint", shadows={"hue": 40, "amount": 0.12}, highlights={"hue": 70, "amount": 0.1}),
            step("saturation", amount=0.85),
        ],
        _LOG,
    )
    dusk = _own(
        "Kiln dusk",
        [
            step("exposure", stops=0.2),
            step("scene_to_display", contrast=1.25),
            step("zone_tint", shadows={"hue": 250, "amount": 0.18}, highlights={"hue": 50, "amount": 0.18}),
        ],
        _LOG,
    )
    ash = _own(
        "Wood ash",
        [
            step("saturation", amount=0.55),
            step("curves", all=[[0, 0.07], [0.5, 0.52], [1, 0.96]]),
            step("zone_tint", highlights={"hue": 110, "amount": 0.07}),
        ],
    )
    slip = _own(
        "Slip blue",
        [
            step("balance", temperature=-26),
            step("zone_tint", shadows={"hue": 255, "amount": 0.2}),
            step("contrast", amount=0.95),
        ],
    )
    crackle = _own(
        "Crackle white",
        [
            step("levels", all={"out_black": 0.03}),
            step("saturation", amount=0.7),
            step("contrast", amount=1.12),
        ],
    )
    vine = _own(
        "Vine shade",
        [
            step("hue_ranges", ranges=[{"hue": 140, "width": 70, "shift": 22, "saturation": -0.1}]),
            step("balance", temperature=6, tint=8),
            step("contrast", amount=1.06),
        ],
    )
    whitewash = _table(
        _own("Whitewash noon", [step("exposure", stops=0.4), step("saturation", amount=0.8)]),
        33,
        "Whitewash noon",
    )
    corrections = [
        cdl.NamedCorrection(
            Correction((1.06, 1.0, 0.94), (0.01, 0.0, -0.004), (1.04, 1.0, 1.0), 0.95),
            "Gate, morning",
            "warm and a little thin",
        ),
        cdl.NamedCorrection(
            Correction((0.95, 1.0, 1.07), (0.0, 0.0, 0.012), (1.0, 1.0, 0.97), 0.9),
            "Gate, rain",
            "cool, lifted blue",
        ),
    ]
    damp = _own(
        "Damp yard",
        [
            step("balance", temperature=-12),
            step("curves", all=[[0, 0.04], [0.5, 0.49], [1, 0.97]]),
            step("saturation", amount=0.86),
        ],
    )
    return {
        "LICENCE.txt": LICENCE.encode(),
        "fired/copper_red.cube": cube.write_text(
            _table(copper, 33, "Copper red", "for the second firing, over a flat picture")
        ).encode(),
        "fired/tenmoku_dark_log.cube": cube.write_text(
            _table(tenmoku, 33, "Tenmoku", "film log to BT.709")
        ).encode(),
        "fired/straw_late.cube": cube.write_text(
            _table(_known("Late straw"), 33, "Straw, late hour")
        ).encode(),
        "fired/kiln_dusk_v2.cube": cube.write_text(_table(dusk, 32, "Kiln dusk")).encode(),
        "ash and slip/wood_ash.clf": clf.write_text(
            _table(ash, 17, "Wood ash", "Comes in as: sRGB", "Goes out as: sRGB")
        ).encode(),
        "ash and slip/slip_blue_carrier.png": _carrier(slip),
        "ash and slip/crackle_white.cube": cube.write_text(_table(crackle, 33, "Crackle white")).encode(),
        "yard light/whitewash_noon.cube": _broken(cube.write_text(whitewash)).encode(),
        "yard light/vine_shade.cube": cube.write_text(_table(vine, 33, "Vine shade")).encode(),
        "yard light/noon_plain.cube": cube.write_text(
            _table(_known("Plain print"), 33, "Noon, as it was")
        ).encode(),
        "yard light/gate.ccc": cdl.write_text(corrections, ".ccc").encode(),
        "yard light/damp_yard.saucer.json": recipe.dumps(
            damp, name="Damp yard", note="for rain on the flags", tables=no_tables
        ).encode(),
        "yard light/how_to.pdf": b"%PDF-1.4 a page that holds no look\n",
    }


def packed() -> bytes:
    """The pack as a ZIP: the same bytes wherever it is made."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED, compresslevel=6) as z:
        for name, data in files().items():
            z.writestr(zipfile.ZipInfo(name, (2026, 1, 1, 0, 0, 0)), data, zipfile.ZIP_DEFLATED)
    return out.getvalue()


if __name__ == "__main__":
    target = Path(sys.argv[1] if len(sys.argv) > 1 else ".") / NAME
    target.write_bytes(packed())
    print(target)
