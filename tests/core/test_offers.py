"""What looks can be written as."""

import json

import numpy as np
import PyOpenColorIO as ocio
import pytest
from numpy.testing import assert_allclose
from saucer_core.baking.bake import bake
from saucer_core.errors import CoreError, LookError
from saucer_core.formats import carrier, recipe
from saucer_core.formats.offers import FILE_KINDS, About, Given, offers, write
from saucer_core.formats.registry import read_table
from saucer_core.look import Look
from saucer_core.steps import no_tables
from saucer_core.steps.exposure import Exposure
from saucer_core.steps.saturation import Saturation
from saucer_core.steps.slope_offset_power import SlopeOffsetPower
from saucer_core.tables.lut import Table
from saucer_core.treatment import Treatment

from demo.looks import LOOKS

EMBER = next(d for d in LOOKS if d.name == "Ember & Tide").look()
SOP = Look(steps=[SlopeOffsetPower(id="sop", red={"slope": 0.9, "offset": 0.02})])
COLOURS = np.random.default_rng(11).uniform(0, 1, (500, 3)).astype(np.float32)


def given(look, grid=9, code_range="full", lut=True):
    program = Treatment(look).compile()
    table = bake(program, grid, range_in=code_range, range_out=code_range) if lut else None
    return Given(
        look,
        program,
        no_tables,
        table,
        code_range,
        About("Kiln & co", ("Rights: ask first",), "Kiln & co", "for dusk"),
    )


def possible(look):
    return {o.key for o in offers(look, no_tables) if not o.why}


def test_what_prevents_a_kind_is_said():
    assert possible(EMBER) == {"cube", "clf", "carrier_png", "carrier_tiff", "recipe"}
    why = {o.key: o.why for o in offers(EMBER, no_tables)}
    assert "mixes channels" in why["cube_1d"]
    assert "Scene to display" in why["clf_exact"]
    assert "changes the encoding" in why["cdl"]
    assert possible(SOP) == set(FILE_KINDS)
    light = {
        o.key: o.why
        for o in offers(Look(input="acescg", output="acescg", steps=[Exposure(id="e", stops=1)]), no_tables)
    }
    assert "shaper" in light["cube"]
    assert "shaper" in light["carrier_png"]
    assert not any(light[key] for key in ("clf", "clf_exact", "cube_1d"))


@pytest.mark.parametrize("key", FILE_KINDS)
def test_every_kind_of_file_is_read_back_as_the_look(key, tmp_path):
    path = tmp_path / f"look{FILE_KINDS[key].suffix}"
    path.write_bytes(write(key, given(SOP)))
    if key == "recipe":
        back = recipe.read(path)
        assert (back.look, back.name, back.note) == (SOP, "Kiln & co", "for dusk")
        return
    table: Table
    if key.startswith("carrier"):
        found = carrier.read(path)
        assert found.verdict == "accept"
        assert found.lut is not None
        table = found.lut
    else:
        table = read_table(path)
    wanted = Treatment(SOP).compile()(COLOURS)
    tolerance = {"cube": 2e-3, "clf": 2e-3, "carrier_png": 4e-4, "carrier_tiff": 4e-4}.get(key, 2e-4)
    assert_allclose(np.clip(table.apply(COLOURS), 0, 1), np.clip(wanted, 0, 1), atol=tolerance)


@pytest.mark.parametrize("key", ["cube", "cube_1d", "clf", "clf_exact", "cc", "ccc", "cdl"])
def test_opencolorio_reads_the_same(key, tmp_path):
    """OpenColorIO 2.6, FileTransform with tetrahedral interpolation."""
    path = tmp_path / f"look{FILE_KINDS[key].suffix}"
    path.write_bytes(write(key, given(SOP)))
    transform = ocio.FileTransform(str(path), interpolation=ocio.INTERP_TETRAHEDRAL)
    if key in ("cc", "ccc", "cdl"):
        transform.setCDLStyle(ocio.CDL_NO_CLAMP)
        # The first correction of the file.
        transform.setCCCId("0" if key != "cc" else "")
    theirs = COLOURS.copy()
    ocio.Config.CreateRaw().getProcessor(transform).getDefaultCPUProcessor().applyRGB(theirs)
    ours = read_table(path)
    assert_allclose(np.clip(ours.apply(COLOURS), 0, 1), np.clip(theirs, 0, 1), atol=2e-5)


def test_files_say_where_they_come_from():
    text = write("cube", given(SOP)).decode()
    assert 'TITLE "Kiln & co"' in text
    assert "# Rights: ask first" in text
    assert "ask first" in write("clf", given(SOP)).decode()
    assert json.loads(write("recipe", given(SOP)))["note"] == "for dusk"


def test_narrow_range_where_a_kind_has_it():
    assert write("cube", given(SOP, code_range="narrow")) != write("cube", given(SOP))
    with pytest.raises(LookError, match="no narrow range"):
        write("clf_exact", given(SOP, code_range="narrow"))


def test_what_cannot_be_written_says_so():
    with pytest.raises(LookError, match="Choose a grid"):
        write("cube", given(SOP, lut=False))
    with pytest.raises(CoreError, match="not “docx”"):
        write("docx", given(SOP))
    with pytest.raises(LookError, match="holds one Slope"):
        write("cdl", given(Look(steps=[Saturation(id="s", amount=0.5)])))
